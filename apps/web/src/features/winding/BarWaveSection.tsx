import { barWaveDrawing, formatNumber, jumperOf, sayTour, waveOf, type WindingRecord } from '@norther/core';
import { useMemo, useState } from 'react';
import { DrawingView } from '../../drawing/DrawingView.tsx';
import { PlainSelect } from '../../ui/Field.tsx';
import { Quiet } from '../../ui/Problem.tsx';
import { Table } from '../../ui/Table.tsx';
import { Titled } from './Titled.tsx';

const RINGS = ['K', 'L', 'M'] as const;

/** The wave of a bar rotor: one phase drawn at a time, all tours as a table, joints that are not regular counted. */
export function BarWaveSection({ record }: { record: WindingRecord }) {
  const wave = useMemo(() => waveOf(record), [record]);
  const [at, setAt] = useState(0);
  const own = wave?.phases[at];
  const drawing = useMemo(() => wave && own && barWaveDrawing(wave, own), [wave, own]);
  if (!wave || !own || !drawing)
    return <Quiet>The wave is worked out for two bars in a slot and a whole number of slots per pole and phase.</Quiet>;
  return (
    <section className="mt-4 space-y-2">
      <Titled title="Bar wave, unrolled" drawing={drawing} file="bar-wave">
        <PlainSelect
          label="Phase shown"
          value={String(at)}
          onChange={(e) => setAt(Number(e.target.value))}
          options={RINGS.map((ring, i) => ({ value: String(i), label: `ring ${ring}` }))}
        />
      </Titled>
      <div className="overflow-x-auto" tabIndex={0} role="group" aria-label="Bar wave, drawn">
        <DrawingView drawing={drawing} />
      </div>
      <p className="text-small text-soft">
        {`Far end ${wave.farPitch} slots top to bottom, ring end ${wave.ringPitch} bottom to top, after each tour ${wave.shortPitch}; ${wave.shortJoints} such short joints, 3 jumpers, 3 leads, 3 star ends. ${formatNumber(wave.turnsPerPhase)} turns a phase, winding factor ${formatNumber(wave.windingFactor, 4)}. t = top bar, b = bottom bar.`}
      </p>
      <Table
        label="Bar wave"
        rows={wave.phases}
        keyOf={(w) => w.phase}
        columns={[
          { id: 'ring', head: 'Ring', cell: (w) => RINGS['ABC'.indexOf(w.phase)], names: true },
          { id: 'first', head: 'First half, from the ring', cell: (w) => w.first.map(sayTour).join(' | ') },
          {
            id: 'jumper',
            head: 'Jumper',
            cell: (w) => {
              const j = jumperOf(w);
              return j ? `${sayTour([j[0]])}–${sayTour([j[1]])}` : '';
            },
          },
          { id: 'second', head: 'Second half, to the star', cell: (w) => w.second.map(sayTour).join(' | ') },
        ]}
      />
    </section>
  );
}

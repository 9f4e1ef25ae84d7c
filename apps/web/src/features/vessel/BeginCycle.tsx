import { CYCLE_FIELDS, processResinToHold, formatNumber } from '@norther/core';
import type { VesselView } from '@norther/contracts';
import { useMemo, useState } from 'react';
import { useBeginCycleMutation } from '../../app/api/vessel.ts';
import { useMay } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';
import { enterMovesOn, Field, PlainField } from '../../ui/Field.tsx';
import { ProblemNote, Quiet } from '../../ui/Problem.tsx';
import { useTypedForm } from '../../ui/useTypedForm.ts';

const NOTHING = {};

/** An empty vessel: which motors go in, how high they stand, how much resin that takes. */
export function BeginCycle({ vessel }: { vessel: VesselView }) {
  const may = useMay('winder');
  const [jobs, setJobs] = useState('');
  const [begin, { error, isLoading }] = useBeginCycleMutation();
  const form = useTypedForm({ key: `vessel:begin:${vessel.id}`, specs: CYCLE_FIELDS, start: NOTHING });
  const { partHeight, steel, copper } = form.reading.values;
  const { setUp } = vessel;
  const litre = useMemo(() => {
    if (typeof partHeight !== 'number' || !(partHeight > 0)) return undefined;
    const mass = (of: 'steel' | 'copper', kg: unknown) => (typeof kg === 'number' && kg > 0 ? [{ of, kg }] : []);
    try {
      return processResinToHold.compute({
        tankM: setUp.diameterMm / 1000,
        standM: setUp.standMm / 1000,
        partM: partHeight,
        coverM: setUp.coverMm / 1000,
        solids: [...mass('steel', steel), ...mass('copper', copper)],
        fixtureL: 0,
      });
    } catch {
      return undefined;
    }
  }, [partHeight, steel, copper, setUp]);
  if (!may) return <Quiet>It is empty.</Quiet>;
  return (
    <form
      aria-label="Begin a cycle"
      className="space-y-2 max-w-xl mt-2"
      onKeyDown={enterMovesOn}
      onSubmit={(e) => {
        e.preventDefault();
        void begin({
          id: vessel.id,
          jobs: jobs
            .split(/[\s,;]+/)
            .map((j) => j.trim())
            .filter((j) => j !== ''),
          typed: form.typed,
        }).then((r) => {
          if (!r.data) return;
          form.recorded({});
          setJobs('');
        });
      }}
    >
      <PlainField
        label="Scan the cards of what goes in, or type job numbers"
        value={jobs}
        onChange={(e) => setJobs(e.target.value)}
      />
      <div className="grid grid-cols-3 gap-x-3">
        {CYCLE_FIELDS.map((f) => (
          <Field key={f.name} form={form} spec={f} bench />
        ))}
      </div>
      {litre ? (
        <p role="status">
          {litre.says} {formatNumber(litre.litre, 3)} l must be ready, and have room to go back.
        </p>
      ) : null}
      <Button look="main" bench type="submit" disabled={isLoading || jobs.trim() === ''}>
        Masked and loaded: begin the cycle
      </Button>
      <ProblemNote error={error} />
    </form>
  );
}

import {
  formatNumber,
  layoutOfRecord,
  plannedPlate,
  plannedRecord,
  windingFactors,
  windingFigures,
  type Candidate,
  type CandidateKey,
  type Nameplate,
  type RedesignWish,
  type WindingFigures,
  type WindingPart,
  type WindingRecord,
} from '@norther/core';
import { type JobDetail, windingOfPart } from '@norther/contracts';
import { useMemo, useState } from 'react';
import { useDraftText } from '../../app/draft.ts';
import { useReleasePlanMutation } from '../../app/api/winding.ts';
import { Button } from '../../ui/Button.tsx';
import { ProblemNote, Quiet } from '../../ui/Problem.tsx';
import { candidateName, number, saySpans, sayWires, signed } from './candidates.ts';

type Column = {
  name: string;
  candidate: Candidate | undefined;
  figures: WindingFigures;
  record: WindingRecord;
  harmonics: string;
};

/** Factors of the fifth and seventh, by size. */
function harmonicsOf(record: WindingRecord): string {
  const { layout } = layoutOfRecord(record);
  if (!layout) return '–';
  const factors = windingFactors(layout, 7);
  return [factors[4], factors[6]].map((f) => (f?.size ?? 0).toFixed(3)).join(', ');
}

const ROWS: readonly [label: string, say: (c: Column) => string][] = [
  ['Poles', ({ record }) => String(record.poles ?? '?')],
  ['Connection', ({ record }) => `${record.circuits ?? '?'}-circuit ${record.connection ?? '?'}`],
  ['Coils', ({ record }) => `${record.form ?? 'lap'}, ${record.layers ?? 'double'} layer`],
  ['Span', ({ record }) => saySpans({ spansSlots: record.spansSlots ?? [] })],
  ['Turns per coil', ({ record }) => (record.turns ?? []).join(', ')],
  ['exact', ({ candidate }) => (candidate ? candidate.exactTurns.toFixed(2) : '–')],
  ['Wires in hand', ({ record }) => sayWires({ strands: record.strands ?? [] })],
  ['Flux against the wish', ({ candidate }) => (candidate ? signed(candidate.fluxErrorPercent) : '–')],
  ['Air gap, T', ({ figures }) => number(figures.airGapT)],
  ['Tooth, T', ({ figures }) => number(figures.toothT)],
  ['Back iron, T', ({ figures }) => number(figures.backIronT)],
  ['Copper loss', ({ candidate }) => (candidate ? signed(candidate.lossChangePercent) : 'as it is')],
  ['Current density, A/mm²', ({ figures }) => number(figures.currentDensityAMm2)],
  ['Volts per coil', ({ figures }) => number(figures.voltsPerCoil)],
  ['Slot fill, insulated squares', ({ figures }) => number(figures.insulatedSquareFill)],
  ['Lead to lead at 20 °C, Ω', ({ figures }) => number(figures.lineResistance20Ohm, 4)],
  ['Winding factor', ({ figures }) => number(figures.windingFactor, 4)],
  ['5th, 7th harmonic factor', ({ harmonics }) => harmonics],
  ['Copper, kg', ({ figures }) => number(figures.bareMassKg)],
  ['Wire cost', ({ candidate: c }) => (c?.cost === undefined ? '–' : String(Math.round(c.cost)))],
];

/** As found and up to four candidates side by side, and the foreman's release of one of them. */
/** Revision of the plan the screen shows; another one released meanwhile is said. */
const planRevisionOf = (job: JobDetail, part: WindingPart): number => windingOfPart(job, part).plan?.revision ?? 0;

export function Comparison({
  job,
  part,
  record,
  nameplate,
  revision,
  wish,
  picked,
  onDrop,
  mayRelease,
}: {
  job: JobDetail;
  part: WindingPart;
  record: WindingRecord;
  nameplate: Nameplate;
  revision: number;
  wish: RedesignWish;
  picked: readonly Candidate[];
  onDrop: (c: Candidate) => void;
  mayRelease: boolean;
}) {
  const columns = useMemo((): Column[] => {
    const figuresOf = (r: WindingRecord, plate: Nameplate) =>
      windingFigures.compute(windingFigures.input.parse({ record: r, nameplate: plate }));
    return [
      {
        name: 'As found',
        candidate: undefined,
        figures: figuresOf(record, nameplate),
        record,
        harmonics: harmonicsOf(record),
      },
      ...picked.map((candidate, i): Column => {
        const planned = plannedRecord(record, candidate);
        const plate = plannedPlate(nameplate, record, wish, candidate.connection);
        return {
          name: `Candidate ${i + 1}`,
          candidate,
          figures: figuresOf(planned, plate),
          record: planned,
          harmonics: harmonicsOf(planned),
        };
      }),
    ];
  }, [record, nameplate, wish, picked]);
  const [release, { isLoading, error, data }] = useReleasePlanMutation();
  const reason = useDraftText(`reason:redesign:${job.number}:${part}`);
  const [chosen, setChosen] = useState(0);
  const [wrong, setWrong] = useState('');
  const asFound = columns[0];
  const one = picked[Math.min(chosen, picked.length - 1)];
  return (
    <section aria-label="Side by side">
      <h2 className="font-semibold border-b border-line">Side by side</h2>
      <div className="overflow-x-auto" tabIndex={0} role="group" aria-label="Comparison">
        <table className="text-small tabular-nums w-full">
          <thead>
            <tr className="border-b-2 border-edge">
              <td />
              {columns.map((c) => (
                <th key={c.name} scope="col" className="text-left pr-3 py-1">
                  {c.name}{' '}
                  {c.candidate ? (
                    <button
                      type="button"
                      className="text-accent underline font-normal min-h-8"
                      onClick={() => c.candidate && onDrop(c.candidate)}
                    >
                      drop
                    </button>
                  ) : null}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {ROWS.map(([label, say]) => {
              const was = asFound ? say(asFound) : '';
              return (
                <tr key={label} className="border-b border-line">
                  <th scope="row" className="text-left font-normal text-soft pr-3">
                    {label}
                  </th>
                  {columns.map((c) => {
                    const text = say(c);
                    return (
                      <td key={c.name} className={`pr-3 ${c.candidate && text !== was ? 'font-semibold' : ''}`}>
                        {text}
                      </td>
                    );
                  })}
                </tr>
              );
            })}
            <tr className="align-top">
              <th scope="row" className="text-left font-normal text-soft pr-3">
                Mind
              </th>
              {columns.map((c) => (
                <td key={c.name} className="pr-3">
                  {c.candidate?.warnings.map((w) => (
                    <span key={w} className="block text-attention font-semibold">
                      ▲ {w}
                    </span>
                  ))}
                </td>
              ))}
            </tr>
          </tbody>
        </table>
      </div>
      {mayRelease && one ? (
        <form
          className="flex flex-wrap gap-2 items-end mt-3"
          onSubmit={(e) => {
            e.preventDefault();
            if (reason.text.trim().length < 5) {
              setWrong('Reason: a changed rewind needs its written reason; without one, rewind as found.');
              return;
            }
            setWrong('');
            void release({
              number: job.number,
              part,
              revision,
              planRevision: planRevisionOf(job, part),
              reason: reason.text.trim(),
              redesign: { wish, candidate: keyOf(one) },
            }).then((r) => 'data' in r && reason.recorded());
          }}
        >
          <label className="text-small font-semibold">
            In place of as found
            <select
              value={Math.min(chosen, picked.length - 1)}
              onChange={(e) => setChosen(Number(e.target.value))}
              className="block min-h-11 border border-edge rounded-sm bg-sheet px-2 font-normal"
            >
              {picked.map((c, i) => (
                <option key={candidateName(c)} value={i}>
                  candidate {i + 1}: {c.circuits}-circuit {c.connection}, {saySpans(c)}, {c.turns} turns, {sayWires(c)}
                </option>
              ))}
            </select>
          </label>
          <label className="text-small font-semibold flex-1 min-w-64">
            Reason, and who agreed
            <input
              value={reason.text}
              onChange={(e) => reason.set(e.target.value)}
              className="block w-full min-h-11 border border-edge rounded-sm bg-sheet px-2 font-normal"
            />
          </label>
          <Button look="main" bench type="submit" disabled={isLoading}>
            Release the changed rewind
          </Button>
        </form>
      ) : (
        <Quiet>A foreman releases a changed rewind, with its reason.</Quiet>
      )}
      {wrong ? <ProblemNote>{wrong}</ProblemNote> : null}
      <ProblemNote error={error} />
      {data ? (
        <p role="status" className="font-semibold mt-2">
          Plan {formatNumber(data.revision)} is released; card and material follow it.
        </p>
      ) : null}
    </section>
  );
}

const keyOf = (c: Candidate): CandidateKey => ({
  poles: c.poles,
  connection: c.connection,
  circuits: c.circuits,
  form: c.form,
  layers: c.layers,
  spansSlots: c.spansSlots,
  turns: c.turns,
  strands: c.strands,
});

import {
  BILL_FIELDS,
  billFieldsOfKind,
  billFieldOf,
  stockBillOfRecord,
  formatNumber,
  formatQuantity,
  nestingDrawing,
  sayAmount,
  sayClass,
  type BillLine,
  type StockBill,
  usesOfKind,
  type WindingPart,
} from '@norther/core';
import { enamelClassOf, type JobDetail, type MaterialSheet, recordedParts, windingOfPart } from '@norther/contracts';
import { useMemo, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { useMakeListsMutation, useMaterialQuery, useSaveMaterialMutation, useStockQuery } from '../../app/api/stock.ts';
import { useMay, useReadingDefaults, useSettings, useTime } from '../../app/shop.ts';
import { DrawingView } from '../../drawing/DrawingView.tsx';
import { Button } from '../../ui/Button.tsx';
import { DraftNote, enterMovesOn, Field } from '../../ui/Field.tsx';
import { MotorLots } from '../stock/MotorLots.tsx';
import { ProblemNote, Quiet } from '../../ui/Problem.tsx';
import { useTypedForm } from '../../ui/useTypedForm.ts';
import { PartSwitch, partOf } from '../winding/PartSwitch.tsx';
import { UsePanel } from './UsePanel.tsx';

/** What a winding takes: cut, drawn from stock, of which class; the lists that must be made before winding starts. */
export function MaterialView({ job }: { job: JobDetail }) {
  const [query] = useSearchParams();
  const part = partOf(query.get('part'));
  const parts = recordedParts(job);
  const { data: sheet, error } = useMaterialQuery({ number: job.number, part });
  const view = windingOfPart(job, part).shown;
  return (
    <>
      {parts.length > 1 ? <PartSwitch parts={parts} part={part} /> : null}
      {!view ? (
        <Quiet>
          No winding data yet.{' '}
          <Link className="text-accent underline" to={`/jobs/${job.number}/data`}>
            Take the data first.
          </Link>
        </Quiet>
      ) : error ? (
        <ProblemNote error={error} />
      ) : !sheet ? (
        <Quiet>Asking for the material …</Quiet>
      ) : (
        <Bill key={`${part}${sheet.version}`} job={job} part={part} sheet={sheet} />
      )}
      <div className="mt-4">
        <MotorLots number={job.number} />
      </div>
    </>
  );
}

/** What may be altered, beside the materials: sizes first, then waste and spools. */
const alterable = (kind: string) =>
  billFieldsOfKind(kind)
    .filter((f) => !f.label.startsWith('Material:'))
    .sort((a, b) => Number(/waste|spool/i.test(a.label)) - Number(/waste|spool/i.test(b.label)));

function Bill({ job, part, sheet }: { job: JobDetail; part: WindingPart; sheet: MaterialSheet }) {
  const settings = useSettings();
  const defaults = useReadingDefaults();
  const time = useTime();
  const may = useMay('winder') && !job.closedAt;
  const form = useTypedForm({ key: `material:${job.number}:${part}`, specs: BILL_FIELDS, start: sheet.typed });
  const [save, { isLoading: saving, error: saveError }] = useSaveMaterialMutation();
  const [make, { isLoading: making, error: makeError }] = useMakeListsMutation();
  const [shown, setShown] = useState<string>('slot liner');
  const { record, nameplate } = useMemo(() => windingOfPart(job, part), [job, part]);
  const { data: lots } = useStockQuery();
  // a field that cannot be read yet says so beside itself; the bill stays, as if it were blank
  const readable = useMemo(() => {
    const bad = new Set(form.reading.problems.map((p) => p.field));
    return Object.fromEntries(Object.entries(form.typed).filter(([name]) => !bad.has(name)));
  }, [form.typed, form.reading]);
  const materials = useMemo(() => settings?.materials ?? [], [settings]);
  const made = useMemo(
    () =>
      stockBillOfRecord(record, nameplate, readable, {
        materials,
        defaults,
        limits: settings?.limits,
        enamelClass: enamelClassOf(lots ?? []),
      }),
    [record, nameplate, readable, materials, defaults, lots, settings],
  );
  const line = made.bill?.lines.find((l) => l.use === shown);
  const nest = useMemo(
    () =>
      line
        ? nestingDrawing(
            line,
            materials.find((m) => m.name === line.material),
          )
        : undefined,
    [line, materials],
  );
  const files = `/api/jobs/${job.number}/material/${part}`;
  return (
    <div className="grid grid-cols-1 lg:grid-cols-[minmax(0,1.45fr)_minmax(330px,1fr)] gap-6">
      <section aria-label="Bill of material" className="min-w-0 space-y-4">
        <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
          <p className="flex-1 min-w-64" role="status">
            {sheet.lists ? (
              <>
                <strong>Lists made</strong> by {sheet.lists.by} on {time(sheet.lists.at)} from plan{' '}
                {sheet.lists.planRevision}; what the stock has is reserved.
              </>
            ) : sheet.why ? (
              <strong>{sheet.why}</strong>
            ) : (
              <strong>The lists are not made yet: liner and winding wait for them.</strong>
            )}
          </p>
          {may && !sheet.why && !form.changed ? (
            <Button
              look={sheet.lists ? 'plain' : 'main'}
              bench
              disabled={making}
              onClick={() => void make({ number: job.number, part, version: sheet.version })}
            >
              {sheet.lists ? 'Make the lists again' : 'Make the lists and reserve'}
            </Button>
          ) : null}
          {sheet.lists ? (
            <>
              <a className="text-accent underline" target="_blank" rel="noreferrer" href={`${files}/cutting.pdf`}>
                Cutting list
              </a>
              <a className="text-accent underline" target="_blank" rel="noreferrer" href={`${files}/picking.pdf`}>
                Picking list
              </a>
            </>
          ) : null}
        </div>
        <ProblemNote error={makeError} />
        {made.bill ? (
          <>
            <ClassLine bill={made.bill} />
            <BillTable bill={made.bill} sheet={sheet} shown={shown} onShow={setShown} />
            <p className="text-small flex gap-4">
              <a className="text-accent underline" href={`${files}/bill.csv`}>
                CSV
              </a>
              <a className="text-accent underline" href={`${files}/bill.json`}>
                JSON
              </a>
              <span className="text-soft">as recorded, of the released plan. Lead sizes: local wiring codes rule.</span>
            </p>
            {nest ? (
              <figure className="max-w-xl">
                <figcaption className="text-small font-semibold">
                  {shown}: {nest.title}
                </figcaption>
                <DrawingView drawing={nest} />
              </figure>
            ) : null}
          </>
        ) : (
          <ul className="border-l-4 border-edge pl-3">
            {made.problems.map((p) => (
              <li key={p.field + p.message}>{p.message}</li>
            ))}
          </ul>
        )}
        {sheet.lists || sheet.uses.length > 0 ? <UsePanel job={job} part={part} sheet={sheet} may={may} /> : null}
      </section>
      <form
        aria-label="What may be altered"
        className="min-w-0"
        onKeyDown={enterMovesOn}
        onSubmit={(e) => {
          e.preventDefault();
          if (form.reading.problems.length > 0) return;
          void save({ number: job.number, part, version: sheet.version, typed: form.typed }).then((r) =>
            'data' in r ? form.recorded(form.typed) : undefined,
          );
        }}
      >
        <fieldset disabled={!may}>
          <div className="flex items-center gap-3 mb-1">
            <h2 className="font-semibold flex-1">Blank is as worked out, or as usual</h2>
            <DraftNote form={form} />
          </div>
          <div className="grid grid-cols-1 sm:grid-cols-2 gap-x-3">
            {usesOfKind(record.kind).map((use) => {
              const name = billFieldOf(use);
              const able = materials.filter((m) => m.use.includes(use));
              return (
                <label key={use} className="block mb-2">
                  <span className="block text-small font-semibold first-letter:uppercase">{use}</span>
                  <select
                    {...form.form.register(name)}
                    className="w-full rounded-sm border border-edge bg-sheet px-1 min-h-9"
                  >
                    <option value="">as usual for the class</option>
                    {able.map((m) => (
                      <option key={m.name} value={m.name}>
                        {m.name}, {m.classC === null ? 'class not stated' : `${sayClass(m.classC)}`}
                      </option>
                    ))}
                  </select>
                </label>
              );
            })}
            {alterable(record.kind).map((spec) => (
              <Field key={spec.name} form={form} spec={spec} />
            ))}
          </div>
          <ProblemNote error={saveError} />
          {form.changed ? (
            <div className="flex gap-2 sticky bottom-0 bg-page py-2">
              <Button look="main" bench type="submit" disabled={saving}>
                Record what is altered
              </Button>
              <Button look="quiet" onClick={form.undo}>
                Undo
              </Button>
            </div>
          ) : null}
        </fieldset>
      </form>
    </div>
  );
}

function ClassLine({ bill }: { bill: StockBill }) {
  const { system, wantedClassC } = bill;
  return (
    <div>
      <p>
        Class of the system:{' '}
        <strong>{system.classC === undefined ? 'not verified' : `${sayClass(system.classC)} °C`}</strong>
        {system.weakest.length > 0 ? <span className="text-soft">, weakest: {system.weakest.join(', ')}</span> : null}
        {wantedClassC === undefined ? '' : `; nameplate ${sayClass(wantedClassC)}`}.
      </p>
      {bill.warnings.map((w) => (
        <p key={w} className="text-attention font-semibold">
          ▲ {w}
        </p>
      ))}
    </div>
  );
}

function BillTable({
  bill,
  sheet,
  shown,
  onShow,
}: {
  bill: StockBill;
  sheet: MaterialSheet;
  shown: string;
  onShow: (use: string) => void;
}) {
  const units = useReadingDefaults();
  const length = (m: number) => formatQuantity(m, 'length', units.lengthUnit, m < 0.1 ? 3 : 4);
  const amount = (q: number, unit: BillLine['unit']) => sayAmount(q, unit, units.massUnit);
  const priced = sheet.lists?.lines.filter((l) => l.cost !== null) ?? [];
  return (
    <div className="overflow-x-auto" tabIndex={0} role="group" aria-label="Bill of material">
      <table className="w-full text-small">
        <thead>
          <tr className="border-b-2 border-edge">
            {['For', 'Material', 'Class', 'Pieces', 'Size', 'From stock', 'Lots'].map((h) => (
              <th key={h} scope="col" className="text-left pr-2 py-1">
                {h}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {bill.lines.map((l, i) => {
            const listed = sheet.lists?.bill.lines[i];
            const own = listed?.use === l.use && listed.material === l.material ? sheet.lists?.lines[i] : undefined;
            return (
              <tr
                key={`${l.use}${i}`}
                className={`border-b border-line align-top ${l.use === shown ? 'bg-accent-tint' : ''}`}
              >
                <th scope="row" className="text-left font-semibold pr-2 py-1">
                  {l.pieces > 0 && l.nesting !== '' ? (
                    <button
                      type="button"
                      className="text-left underline decoration-dotted"
                      onClick={() => onShow(l.use)}
                    >
                      {l.use}
                    </button>
                  ) : (
                    l.use
                  )}
                </th>
                <td className="pr-2 py-1">{l.material}</td>
                <td className="pr-2 py-1">{l.classC ?? '–'}</td>
                <td className="pr-2 py-1 tabular-nums">{l.pieces > 0 ? l.pieces : ''}</td>
                <td className="pr-2 py-1">
                  {l.lengthM !== undefined
                    ? l.widthM === undefined
                      ? length(l.lengthM)
                      : `${length(l.lengthM)} × ${length(l.widthM)}`
                    : ''}
                  {l.boreM === undefined ? '' : `, bore ${length(l.boreM)}`}
                  {l.areaMm2 === undefined ? '' : `, ${formatNumber(l.areaMm2)} mm²`}
                  {l.metres === undefined ? '' : `${formatNumber(l.metres, 3)} m`}
                </td>
                <td className="pr-2 py-1">
                  {amount(l.quantity, l.unit)}
                  {l.spools === undefined
                    ? ''
                    : `, ${l.spools} ${l.spools === 1 ? 'spool' : 'spools'}${l.metresPerSpool === undefined ? '' : ` of ${formatNumber(l.metresPerSpool, 3)} m`}`}
                  <span className="text-soft block">{l.nesting}</span>
                </td>
                <td className="py-1">
                  {own?.picks.map((p) => (
                    <span key={p.lotId} className="block whitespace-nowrap">
                      {p.lot}: {amount(p.quantity, l.unit)}
                    </span>
                  ))}
                  {own && own.short > 1e-9 ? (
                    <span className="block text-attention font-semibold">▲ short {amount(own.short, l.unit)}</span>
                  ) : null}
                </td>
              </tr>
            );
          })}
        </tbody>
        {priced.length === 0 ? null : (
          <tfoot>
            <tr>
              <td colSpan={7} className="py-1">
                {priced.length} of {bill.lines.length} lines have a price on their lots:{' '}
                <strong>{formatNumber(Math.round(priced.reduce((n, l) => n + (l.cost ?? 0), 0)))}</strong>
              </td>
            </tr>
          </tfoot>
        )}
      </table>
    </div>
  );
}

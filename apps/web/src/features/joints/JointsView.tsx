import {
  asTicked,
  billOfRecord,
  CAUTIONS,
  connectionOfRecord,
  connectionRing,
  formatNumber,
  formatQuantity,
  JOINT_KINDS,
  JOINT_ORDERS,
  jointClassWarning,
  jointList,
  jointMaterial,
  leadMark,
  type Connection,
  type JointItem,
  type JointKind,
  type JointOrder,
  type Layout,
  type WindingPart,
  type WindingRecord,
} from '@norther/core';
import { type JobDetail, type JointSheet, recordedParts, windingOfPart } from '@norther/contracts';
import { Check, CheckCheck } from 'lucide-react';
import { useMemo, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { useSessionQuery } from '../../app/api/people.ts';
import { useMaterialQuery } from '../../app/api/stock.ts';
import { useJointsQuery, useSaveJointsMutation, useTickJointMutation } from '../../app/api/winding.ts';
import { useMarks, useMay, useReadingDefaults, useSettings, useTime } from '../../app/shop.ts';
import { DrawingView, Highlights, useMark } from '../../drawing/DrawingView.tsx';
import { ProblemNote, Quiet } from '../../ui/Problem.tsx';
import { PartSwitch, partOf, partQuery } from '../winding/PartSwitch.tsx';
import { AsMade } from './AsMade.tsx';
import { OddReadings } from './OddReadings.tsx';
import { Practice } from './Practice.tsx';
import { Segmented } from '../../ui/Segmented.tsx';

const VIEWS = [
  ['tick', 'Tick off'],
  ['made', 'As made'],
  ['odd', 'Odd figures'],
  ['practice', 'Practice'],
] as const;

/** The joints of a winding: ticked as they are made, checked as they really are, and practised. */
export function JointsView({ job }: { job: JobDetail }) {
  const [query, setQuery] = useSearchParams();
  const part = partOf(query.get('part'));
  const view = VIEWS.find(([v]) => v === query.get('do'))?.[0] ?? 'tick';
  const { record } = useMemo(() => windingOfPart(job, part), [job, part]);
  const made = useMemo(() => connectionOfRecord(record), [record]);
  const { data: sheet, error } = useJointsQuery({ number: job.number, part });
  const parts = recordedParts(job);
  if (!made.layout || !made.connection)
    return (
      <Quiet>
        {made.why}{' '}
        <Link className="text-accent underline" to={`/jobs/${job.number}/data`}>
          Data as found
        </Link>
      </Quiet>
    );
  if (error) return <ProblemNote error={error} />;
  if (!sheet) return <Quiet>Asking for the joints …</Quiet>;
  const go = (to: string) => setQuery({ ...partQuery(part), ...(to === 'tick' ? {} : { do: to }) });
  return (
    <>
      {parts.length > 1 ? <PartSwitch parts={parts} part={part} /> : null}
      <div className="mb-3">
        <Segmented label="What to do" options={VIEWS} value={view} onChange={go} />
      </div>
      <p className="text-small mb-2">
        Caution: {CAUTIONS.S13} {CAUTIONS.S1} Local codes and licensed practice decide.
      </p>
      <Highlights>
        {view === 'tick' ? (
          <TickOff
            job={job}
            part={part}
            record={record}
            layout={made.layout}
            connection={made.connection}
            sheet={sheet}
          />
        ) : view === 'made' ? (
          <AsMade
            key={`${job.number}${part}`}
            job={job}
            part={part}
            layout={made.layout}
            connection={made.connection}
            sheet={sheet}
          />
        ) : view === 'odd' ? (
          <OddReadings
            key={`${query.get('stage') ?? ''}${part}`}
            job={job}
            part={part}
            layout={made.layout}
            connection={made.connection}
          />
        ) : (
          <Practice layout={made.layout} connection={made.connection} />
        )}
      </Highlights>
    </>
  );
}

/** The joint's mark in drawings. */
const markOf = (joint: JointItem): string =>
  joint.what === 'jumper' ? `jumper:${joint.key}` : joint.what === 'lead' ? `lead:${joint.ends[0] ?? ''}` : 'star';

function TickOff({
  job,
  part,
  record,
  layout,
  connection,
  sheet,
}: {
  job: JobDetail;
  part: WindingPart;
  record: WindingRecord;
  layout: Layout;
  connection: Connection;
  sheet: JointSheet;
}) {
  const { school } = useMarks();
  const defaults = useReadingDefaults();
  const may = useMay('winder') && !job.closedAt;
  const settings = useSettings();
  const [chosen, setKind] = useState<JointKind>();
  const kind = chosen ?? settings?.jointKind ?? 'braze';
  const [tick, { error }] = useTickJointMutation();
  const [save] = useSaveJointsMutation();
  const list = useMemo(() => jointList(connection, sheet.order), [connection, sheet.order]);
  const drawing = useMemo(() => {
    const made = list.filter((j) => sheet.ticks[j.key]);
    return asTicked(connectionRing(layout, connection, { marks: school, size: 520 }), new Set(made.map(markOf)), {
      made: made.length,
      all: list.length,
    });
  }, [layout, connection, school, list, sheet.ticks]);
  const { data: sheetOfMaterial } = useMaterialQuery({ number: job.number, part });
  const bill = useMemo(() => {
    return billOfRecord(record, windingOfPart(job, part).nameplate, sheetOfMaterial?.typed ?? {}, {
      materials: settings?.materials ?? [],
      defaults,
      limits: settings?.limits,
    }).bill;
  }, [job, part, record, settings, sheetOfMaterial, defaults]);
  const materialOf = (joint: JointItem): string => {
    if (!record.strands?.length) return '';
    const m = jointMaterial(
      joint,
      record.strands,
      record.wireGrade === '1' ? 1 : 2,
      bill?.lead,
      bill?.input.jointSleeveM ?? 0.06,
    );
    const length = (metres: number) => formatQuantity(metres, 'length', defaults.lengthUnit, 3);
    return [
      m.sleeveBoreM === undefined
        ? 'thicker than any sleeve: split it'
        : `sleeve ${length(m.sleeveBoreM)} bore, ${length(m.sleeveLengthM)}`,
      m.leadMm2 === undefined ? '' : `cable ${formatNumber(m.leadMm2)} mm²`,
    ]
      .filter(Boolean)
      .join('; ');
  };
  const done = list.filter((j) => sheet.ticks[j.key]).length;
  const looked = list.filter((j) => sheet.ticks[j.key]?.checkedBy).length;
  const next = list.find((j) => !sheet.ticks[j.key]);
  const warning = jointClassWarning(kind, job.nameplate['insulationClass'] as string | undefined);
  return (
    <div className="grid grid-cols-1 md:grid-cols-[minmax(0,0.75fr)_minmax(0,1fr)] lg:grid-cols-[minmax(0,1.1fr)_minmax(0,1fr)] gap-4 lg:gap-6">
      <section aria-label="Joints to make">
        <div className="flex flex-wrap gap-4 items-center mb-2">
          <p className="font-semibold" aria-live="polite">
            {done} of {list.length} made, {looked} looked at
          </p>
          <label className="text-small">
            made by{' '}
            <select
              value={kind}
              onChange={(e) => setKind(e.target.value as JointKind)}
              className="min-h-9 border border-edge bg-sheet"
            >
              {JOINT_KINDS.map((k) => (
                <option key={k}>{k}</option>
              ))}
            </select>
          </label>
          <label className="text-small">
            order{' '}
            <select
              value={sheet.order}
              disabled={!may}
              onChange={(e) =>
                void save({
                  number: job.number,
                  part,
                  version: sheet.version,
                  order: e.target.value as JointOrder,
                  asMade: sheet.asMade,
                })
              }
              className="min-h-9 border border-edge bg-sheet"
            >
              {JOINT_ORDERS.map((o) => (
                <option key={o}>{o}</option>
              ))}
            </select>
          </label>
        </div>
        {warning ? <p className="text-small text-attention font-semibold mb-2">{warning}</p> : null}
        <ProblemNote error={error} />
        <ol className="divide-y divide-line border-y border-line">
          {list.map((joint) => (
            <Row
              key={joint.key}
              joint={joint}
              tick={sheet.ticks[joint.key]}
              material={materialOf(joint)}
              isNext={joint === next}
              may={may}
              mark={(name) => leadMark(name, school, layout.kind)}
              onTick={(what) => void tick({ number: job.number, part, joint: joint.key, kind, what })}
            />
          ))}
        </ol>
      </section>
      <section aria-label="Connection" className="sticky top-2 self-start">
        <DrawingView drawing={drawing} />
      </section>
    </div>
  );
}

function Row({
  joint,
  material,
  tick,
  isNext,
  may,
  mark,
  onTick,
}: {
  joint: JointItem;
  material: string;
  tick: JointSheet['ticks'][string] | undefined;
  isNext: boolean;
  may: boolean;
  mark: (name: string) => string;
  onTick: (what: 'made' | 'not made' | 'checked') => void;
}) {
  const time = useTime();
  const me = useSessionQuery().data?.person.name;
  const of = markOf(joint);
  const { lit, ...hover } = useMark(of);
  const said = joint.ends.map(mark).join(' – ');
  return (
    <li {...hover} className={`flex items-center gap-3 min-h-12 px-1 ${lit || isNext ? 'bg-accent-tint' : ''}`}>
      <button
        type="button"
        disabled={!may}
        aria-pressed={tick !== undefined}
        aria-label={`${said} ${tick ? 'made' : 'not made'}`}
        onClick={() => onTick(tick ? 'not made' : 'made')}
        className={`size-11 shrink-0 grid place-items-center border-2 rounded-sm ${tick ? 'bg-accent border-accent text-on-accent' : 'border-edge bg-sheet'}`}
      >
        {tick ? <Check aria-hidden /> : null}
      </button>
      <span className="flex-1 min-w-0">
        <span className="block text-[1.125rem] font-semibold">{said}</span>
        <span className="block text-small text-soft">
          {tick
            ? `${tick.kind}, ${tick.by}, ${time(tick.at)}${tick.checkedBy ? `; looked at by ${tick.checkedBy}` : ''}`
            : joint.what === 'jumper'
              ? `jumper${isNext ? ', next' : ''}; ${material}, threaded first`
              : `${joint.what}${isNext ? ', next' : ''}; ${material}`}
        </span>
      </span>
      {tick && !tick.checkedBy && may && tick.by !== me ? (
        <button
          type="button"
          className="min-h-11 px-3 border border-edge rounded-sm bg-sheet text-small inline-flex items-center gap-1"
          onClick={() => onTick('checked')}
        >
          <CheckCheck size={18} aria-hidden /> looked at
        </button>
      ) : null}
    </li>
  );
}

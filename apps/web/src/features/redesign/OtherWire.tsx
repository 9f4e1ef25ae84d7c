import {
  COPPER_KEEPS,
  formatNumber,
  parseNumber,
  turnChoices,
  wireChoices,
  judgeRewire,
  type CopperKeeps,
  type Nameplate,
  type Rewire,
  type Strand,
  type TurnChoice,
  type WindingPart,
  type WindingRecord,
  type WireChoice,
} from '@norther/core';
import { type JobDetail, windingOfPart } from '@norther/contracts';
import { useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { useDraftText } from '../../app/draft.ts';
import { useStockQuery } from '../../app/api/stock.ts';
import { useReleasePlanMutation } from '../../app/api/winding.ts';
import { useMay, useSettings, useToday } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';
import { PlainField, PlainSelect } from '../../ui/Field.tsx';
import { ProblemNote, Quiet } from '../../ui/Problem.tsx';
import { Table } from '../../ui/Table.tsx';
import { freeWire } from '../stock/freeWire.ts';
import { ALL_SIZES } from './sizes.ts';

type Metal = 'copper' | 'aluminium';
const sayWire = (strands: readonly Strand[]) => strands.map((s) => `${s.count} × ${s.label}`).join(' + ');
const percent = (x: number | undefined) => (x === undefined ? '–' : `${x > 0 ? '+' : ''}${formatNumber(x, 3)} %`);

/** The winding as found with other wire, other metal or a turn more or less: for every winding of round wire. */
export function OtherWire({
  job,
  part,
  record,
  nameplate,
  revision,
}: {
  job: JobDetail;
  part: WindingPart;
  record: WindingRecord;
  nameplate: Nameplate;
  revision: number;
}) {
  const settings = useSettings();
  const today = useToday();
  const { data: lots } = useStockQuery();
  const metal: Metal = record.material ?? 'copper';
  const [to, setTo] = useState<Metal>(metal);
  const [keeps, setKeeps] = useState<CopperKeeps>('resistance');
  const [from, setFrom] = useState<'free' | 'all'>('free');
  const [factorText, setFactor] = useState('');
  const [turnsAt, setTurnsAt] = useState(0);
  const [main, setMain] = useState<Strand[]>();
  const [aux, setAux] = useState<Strand[]>();
  const factor = factorText.trim() === '' ? 1 : factorOf(factorText);
  const turns = useMemo(
    () => (factor === undefined || factor === 1 ? [] : turnChoices(record, factor)),
    [record, factor],
  );
  const chosenTurns = turns[turnsAt] ?? turns[0];
  const sizes = useMemo(() => {
    const free = freeWire(lots ?? [], { grade: record.wireGrade ?? '2', material: to, today });
    return from === 'all' ? ALL_SIZES : free;
  }, [from, lots, record.wireGrade, to, today]);
  const own = useMemo(
    () => ({ turns: chosenTurns, to, keeps, tolerancePercent: 4, mostWires: 6, limits: settings?.limits }),
    [chosenTurns, to, keeps, settings],
  );
  const ofMain = useMemo(
    () => wireChoices(record, nameplate, sizes, { ...own, winding: 'main' }).slice(0, 12),
    [record, nameplate, sizes, own],
  );
  const ofAux = useMemo(
    () =>
      record.auxStrands ? wireChoices(record, nameplate, sizes, { ...own, winding: 'auxiliary' }).slice(0, 12) : [],
    [record, nameplate, sizes, own],
  );
  const rewire: Rewire = {
    ...(main ? { strands: main } : {}),
    ...(aux ? { auxStrands: aux } : {}),
    ...(to === metal ? {} : { material: to }),
    ...(chosenTurns ? { turns: chosenTurns.turns } : {}),
    ...(chosenTurns?.auxTurns ? { auxTurns: chosenTurns.auxTurns } : {}),
  };
  const judged = useMemo(
    () => judgeRewire(record, nameplate, rewire, settings?.limits ?? {}),
    // what is chosen makes the rewire
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [record, nameplate, main, aux, to, metal, chosenTurns, settings],
  );
  return (
    <div className="space-y-4">
      <div className="flex flex-wrap gap-4 items-end">
        <PlainSelect
          label="Wound in"
          value={to}
          onChange={(e) => setTo(e.target.value as Metal)}
          options={(['copper', 'aluminium'] as const).map((m) => ({
            value: m,
            label: m === metal ? `${m}, as found` : m,
          }))}
        />
        {to === metal ? null : (
          <PlainSelect
            label="Keeps"
            value={keeps}
            onChange={(e) => setKeeps(e.target.value as CopperKeeps)}
            options={COPPER_KEEPS.map((k) => ({ value: k, label: k === 'space' ? 'the space' : 'the resistance' }))}
          />
        )}
        <PlainSelect
          label="Wire"
          value={from}
          onChange={(e) => setFrom(e.target.value as 'free' | 'all')}
          options={[
            { value: 'free', label: 'free in stock' },
            { value: 'all', label: 'all sizes' },
          ]}
        />
        <PlainField
          label="Turns ×"
          value={factorText}
          onChange={(e) => setFactor(e.target.value)}
          placeholder="1, or 127/115"
          className="w-36"
        />
      </div>
      {factor === undefined ? (
        <ProblemNote>Turns ×: type a factor from 0.2 to 5, or new over old volts: 127/115.</ProblemNote>
      ) : null}
      {turns.length > 0 ? <Turns turns={turns} at={turnsAt} onTake={setTurnsAt} /> : null}
      {factor !== undefined && factor !== 1 && turns.length === 0 ? (
        <Quiet>The winding is not complete enough to change its turns.</Quiet>
      ) : null}
      <Wires
        title={record.auxStrands ? 'Main' : 'Wires in hand'}
        found={record.strands ?? []}
        choices={ofMain}
        taken={main}
        onTake={setMain}
      />
      {record.auxStrands ? (
        <Wires title="Auxiliary" found={record.auxStrands} choices={ofAux} taken={aux} onTake={setAux} />
      ) : null}
      <p aria-live="polite" className="border-l-4 border-edge pl-3">
        Together: resistance {percent(judged.resistanceChangePercent)}, current density{' '}
        {percent(judged.densityChangePercent)}, flux {percent(judged.fluxChangePercent)}
        {judged.fill === undefined ? '' : `, slot fill ${formatNumber(judged.fill, 3)}`}
        {judged.copperKg === undefined ? '' : `, ${formatNumber(judged.copperKg, 3)} kg bare`}.
        {judged.refused ? <strong> Refused: {judged.refused}.</strong> : null}
        {judged.warnings.length > 0 ? ` ${judged.warnings.join('; ')}.` : ''}
      </p>
      <Release job={job} part={part} revision={revision} rewire={rewire} refused={judged.refused !== undefined} />
    </div>
  );
}

/** A factor as typed: a number, or new over old. */
function factorOf(text: string): number | undefined {
  const [a, b] = text.split('/').map((t) => parseNumber(t));
  const value = text.includes('/') ? (a !== undefined && b ? a / b : undefined) : a;
  return value !== undefined && value >= 0.2 && value <= 5 ? value : undefined;
}

function Turns({ turns, at, onTake }: { turns: readonly TurnChoice[]; at: number; onTake: (at: number) => void }) {
  return (
    <Table
      label="Turns"
      rows={turns.slice(0, 8).map((t, i) => ({ ...t, i }))}
      keyOf={(t) => String(t.i)}
      rowClass={(t) => (t.i === at ? 'bg-accent-tint' : '')}
      columns={[
        {
          id: 'take',
          head: 'Take',
          hidesHead: true,
          cell: (t) => (
            <input type="radio" name="turns" aria-label={t.says} checked={t.i === at} onChange={() => onTake(t.i)} />
          ),
        },
        { id: 'turns', head: 'Turns', cell: (t) => sayTurns(t), names: true },
        { id: 'says', head: 'Where', cell: (t) => t.says },
        { id: 'flux', head: 'Flux against wanted', cell: (t) => percent(t.fluxErrorPercent), align: 'right' },
      ]}
    />
  );
}

const sayTurns = (t: TurnChoice): string => {
  const list = t.turns.length > 12 ? `${Math.min(...t.turns)} and ${Math.max(...t.turns)}` : t.turns.join(', ');
  return t.auxTurns ? `${list}; auxiliary ${t.auxTurns.join(', ')}` : list;
};

function Wires({
  title,
  found,
  choices,
  taken,
  onTake,
}: {
  title: string;
  found: readonly Strand[];
  choices: readonly WireChoice[];
  taken: Strand[] | undefined;
  onTake: (strands: Strand[] | undefined) => void;
}) {
  const key = (strands: readonly Strand[]) => strands.map((s) => `${s.count}x${s.bareM}`).join('+');
  return (
    <section>
      <h2 className="font-semibold">
        {title}: as found {sayWire(found)}
      </h2>
      {choices.length === 0 ? (
        <Quiet>No mix of this wire comes within 4 % of the area and fits; search all sizes.</Quiet>
      ) : (
        <Table
          label={`${title}, wires`}
          rows={choices}
          keyOf={(c) => key(c.strands)}
          rowClass={(c) => (taken && key(c.strands) === key(taken) ? 'bg-accent-tint' : '')}
          columns={[
            {
              id: 'take',
              head: 'Take',
              hidesHead: true,
              cell: (c) => (
                <input
                  type="radio"
                  name={title}
                  aria-label={sayWire(c.strands)}
                  checked={taken !== undefined && key(c.strands) === key(taken)}
                  onChange={() => onTake(c.strands)}
                />
              ),
            },
            { id: 'wire', head: 'Wires in hand', cell: (c) => sayWire(c.strands), names: true },
            { id: 'area', head: 'Area', cell: (c) => percent(c.areaErrorPercent), align: 'right' },
            {
              id: 'fill',
              head: 'Slot fill',
              cell: (c) => (c.judged.fill === undefined ? '–' : formatNumber(c.judged.fill, 3)),
              align: 'right',
            },
            { id: 'warn', head: 'To think of', cell: (c) => c.judged.warnings.join('; ') },
          ]}
        />
      )}
    </section>
  );
}

function Release({
  job,
  part,
  revision,
  rewire,
  refused,
}: {
  job: JobDetail;
  part: WindingPart;
  revision: number;
  rewire: Rewire;
  refused: boolean;
}) {
  const mayRelease = useMay('foreman') && !job.closedAt;
  const [release, { isLoading, error }] = useReleasePlanMutation();
  const reason = useDraftText(`reason:rewire:${job.number}:${part}`);
  const go = useNavigate();
  const nothing = Object.keys(rewire).length === 0;
  if (!mayRelease) return <Quiet>Other wire is released by a foreman.</Quiet>;
  return (
    <form
      className="flex flex-wrap gap-3 items-end"
      onSubmit={(e) => {
        e.preventDefault();
        const plan = windingOfPart(job, part).plan;
        void release({
          number: job.number,
          part,
          revision,
          planRevision: plan?.revision ?? 0,
          reason: reason.text,
          rewire,
        }).then((r) => {
          if (!('data' in r)) return;
          reason.recorded();
          void go(`/jobs/${job.number}/plan?part=${part}`);
        });
      }}
    >
      <PlainField
        label="Reason"
        value={reason.text}
        onChange={(e) => reason.set(e.target.value)}
        placeholder="This size is not to be had until spring"
        className="w-96"
      />
      <Button type="submit" look="main" disabled={isLoading || nothing || refused || reason.text.trim().length < 5}>
        Release with this wire
      </Button>
      <ProblemNote error={error} />
    </form>
  );
}

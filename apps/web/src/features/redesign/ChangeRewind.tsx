import { saySpans } from '@norther/core';
import {
  formatNumber,
  parseWires,
  ratingOf,
  type Candidate,
  type Nameplate,
  type StockWire,
  type WindingPart,
  type WindingRecord,
  type WireSystem,
} from '@norther/core';
import type { JobDetail } from '@norther/contracts';
import { useDeferredValue, useMemo, useState } from 'react';
import { useStockQuery } from '../../app/api/stock.ts';
import { useMay, useReadingDefaults, useSettings, useToday } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';
import { DraftNote, enterMovesOn, Field, PlainField } from '../../ui/Field.tsx';
import { ProblemNote, Quiet } from '../../ui/Problem.tsx';
import { useTypedForm } from '../../ui/useTypedForm.ts';
import { freeWire } from '../stock/freeWire.ts';
import { CandidateTable } from './CandidateTable.tsx';
import { Comparison } from './Comparison.tsx';
import { candidateName, pass, type Filters } from './candidates.ts';
import { ALL_SIZES } from './sizes.ts';
import { useRedesign } from './useRedesign.ts';
import { readWish, WISH_FIELDS } from './wishFields.ts';

const NOTHING: Record<string, string> = {};
/** Sizes typed as at hand, whether in stock or not. */
function sizesNamed(text: string, system: WireSystem): { sizes?: StockWire[]; problem?: string } {
  const words = text
    .split(/;|,\s/)
    .map((w) => w.trim())
    .filter(Boolean);
  if (words.length === 0) return {};
  const sizes: StockWire[] = [];
  for (const word of words) {
    const read = parseWires(word, system);
    if (!read.ok) return { problem: read.message };
    for (const s of read.value) sizes.push({ bareM: s.bareM, label: s.label || formatNumber(s.bareM * 1000, 3) });
  }
  return { sizes };
}

/** A second plan beside as found: what is wished, the candidates, up to four side by side, the release. */
export function ChangeRewind({
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
  const form = useTypedForm({ key: `redesign:${job.number}:${part}`, specs: WISH_FIELDS, start: NOTHING });
  const settings = useSettings();
  const defaults = useReadingDefaults();
  const today = useToday();
  const { data: lots } = useStockQuery();
  const [wires, setWires] = useState<'free' | 'all'>('free');
  const [only, setOnly] = useState('');
  const [filters, setFilters] = useState<Filters>({ clean: false, inStock: false, fill: '', oneSize: false });
  const [picked, setPicked] = useState<Candidate[]>([]);
  const mayRelease = useMay('foreman') && !job.closedAt;
  const read = useMemo(
    () => readWish(form.typed, record, nameplate, defaults),
    [form.typed, record, nameplate, defaults],
  );
  const named = useMemo(() => sizesNamed(only, defaults.wireSystem), [only, defaults.wireSystem]);
  const stock = useMemo(() => {
    const all =
      wires === 'all'
        ? ALL_SIZES
        : freeWire(lots ?? [], { grade: record.wireGrade ?? '2', material: record.material ?? 'copper', today });
    if (!named.sizes) return all;
    return named.sizes.map((n) => all.find((s) => Math.abs(s.bareM - n.bareM) < 1e-7) ?? n);
  }, [wires, lots, record, named, today]);
  const input = useMemo(
    () =>
      read.wish && stock.length > 0 && settings
        ? {
            record,
            nameplate,
            wish: read.wish,
            stock: stock.slice(0, 60),
            weights: settings.redesignWeights,
            limits: settings.limits,
            many: 120,
          }
        : undefined,
    [read, record, nameplate, stock, settings],
  );
  const search = useRedesign(useDeferredValue(input));
  const shown = useMemo(() => search.candidates.filter((c) => pass(c, filters)), [search.candidates, filters]);
  const rating = ratingOf(nameplate, record);
  const found: Record<string, string> = {
    voltage: rating.voltageV === undefined ? '' : `as found ${formatNumber(rating.voltageV)} V`,
    frequency: nameplate.frequencyHz === undefined ? '' : `as found ${formatNumber(nameplate.frequencyHz)} Hz`,
    power: nameplate.outputW === undefined ? '' : `as found ${formatNumber(nameplate.outputW / 1000)} kW`,
    poles: `as found ${record.poles ?? '?'}`,
    connection: `as found ${record.connection ?? '?'}`,
    circuits: `as found ${record.circuits ?? '?'}`,
    span: `as found ${saySpans(record.spansSlots) ?? '?'}`,
    form: `as found ${record.form ?? 'lap'}`,
    layers: `as found ${record.layers ?? 'double'}`,
  };
  const toggle = (c: Candidate): void =>
    setPicked((now) =>
      now.some((x) => candidateName(x) === candidateName(c))
        ? now.filter((x) => candidateName(x) !== candidateName(c))
        : [...now, c].slice(-4),
    );
  return (
    <div className="space-y-4">
      <p className="text-small">
        <strong>Rewind as found unless there is a written reason.</strong> A change needs the owner&apos;s consent and
        where the rating changes a new nameplate; explosion-protected machines go by the rules of their certificate.
        Losses: keep the copper and the mean turn, and the efficiency is kept.
      </p>
      <div className="grid grid-cols-1 lg:grid-cols-[230px_minmax(0,1fr)] gap-5">
        <form aria-label="What is wished" onKeyDown={enterMovesOn} onSubmit={(e) => e.preventDefault()}>
          <div className="flex items-center gap-2">
            <h2 className="font-semibold flex-1">What is wished</h2>
            <DraftNote form={form} />
          </div>
          <p className="text-small text-soft mb-1">Blank: as found, or whatever works.</p>
          {WISH_FIELDS.map((spec) => (
            <Field key={spec.name} form={form} spec={spec} extra={found[spec.name]} />
          ))}
          <label className="block text-small font-semibold">
            Wire
            <select
              value={wires}
              onChange={(e) => setWires(e.target.value as typeof wires)}
              className="w-full rounded-sm border border-edge bg-sheet px-1 min-h-9 font-normal"
            >
              <option value="free">free in stock ({stock.length} sizes)</option>
              <option value="all">all preferred sizes</option>
            </select>
          </label>
          <PlainField
            label="Only these sizes"
            value={only}
            placeholder="0.71, 0.85, AWG 18"
            onChange={(e) => setOnly(e.target.value)}
            error={named.problem}
          />
          <Button look="quiet" onClick={form.undo}>
            Clear the wish
          </Button>
        </form>
        <section aria-label="Candidates" className="min-w-0">
          <div className="flex flex-wrap items-center gap-x-4 gap-y-1 mb-1 text-small">
            <p role="status" className="font-semibold">
              {search.progress
                ? search.progress.done === 0
                  ? 'Searching …'
                  : `Searching: ${search.progress.done} of ${search.progress.total}, ${search.candidates.length} so far`
                : search.stopped
                  ? 'Stopped; what was found so far is shown.'
                  : search.result
                    ? `${formatNumber(search.result.kept)} keep all limits, the best ${search.candidates.length} are here`
                    : ''}
            </p>
            {search.progress ? (
              <Button look="plain" onClick={search.stop}>
                Stop
              </Button>
            ) : null}
            <label className="inline-flex items-center gap-1">
              <input
                type="checkbox"
                checked={filters.clean}
                onChange={(e) => setFilters({ ...filters, clean: e.target.checked })}
              />{' '}
              without warnings
            </label>
            <label className="inline-flex items-center gap-1">
              <input
                type="checkbox"
                checked={filters.inStock}
                onChange={(e) => setFilters({ ...filters, inStock: e.target.checked })}
              />{' '}
              enough in stock
            </label>
            <label className="inline-flex items-center gap-1">
              <input
                type="checkbox"
                checked={filters.oneSize}
                onChange={(e) => setFilters({ ...filters, oneSize: e.target.checked })}
              />{' '}
              one size of wire
            </label>
            <label>
              fill at most{' '}
              <input
                value={filters.fill}
                inputMode="decimal"
                placeholder="0.80"
                onChange={(e) => setFilters({ ...filters, fill: e.target.value })}
                className="w-14 min-h-8 border border-edge rounded-sm px-1 bg-sheet"
              />
            </label>
          </div>
          {read.problem ? <ProblemNote>{read.problem}</ProblemNote> : null}
          {search.problem ? <ProblemNote>{search.problem}</ProblemNote> : null}
          {lots && stock.length === 0 ? (
            <ProblemNote>
              No wire of this grade is free in stock: enter lots under Wire, or search all sizes.
            </ProblemNote>
          ) : null}
          {search.result?.assumed ? <p className="mb-1">{search.result.assumed}</p> : null}
          {search.result?.refusals.map((r) => (
            <p key={r} className="border-l-4 border-attention pl-2">
              {r}
            </p>
          ))}
          {shown.length > 0 ? (
            <CandidateTable candidates={shown} picked={picked} onPick={toggle} />
          ) : search.candidates.length > 0 ? (
            <Quiet>No candidate passes the filters.</Quiet>
          ) : null}
          {search.result && search.result.leftOut.length > 0 ? (
            <p className="text-small text-soft mt-1">
              Left out: {search.result.leftOut.map((l) => `${l.why} (${formatNumber(l.count)})`).join('; ')}.
            </p>
          ) : null}
          {picked.length > 0 && read.wish ? (
            <Comparison
              job={job}
              part={part}
              record={record}
              nameplate={nameplate}
              revision={revision}
              wish={read.wish}
              picked={picked}
              onDrop={toggle}
              mayRelease={mayRelease}
            />
          ) : null}
        </section>
      </div>
    </div>
  );
}

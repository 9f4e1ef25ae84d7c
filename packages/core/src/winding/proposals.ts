import { saySpans } from './say.ts';
import { METRE_PER_INCH } from '../quantity/units.ts';
import { wiresInHand } from '../wire/strands.ts';
import type { Finding } from './checkTypes.ts';
import { windingRecordSchema, type WindingRecord } from './record.ts';

interface Change {
  say: string;
  record: Partial<WindingRecord>;
  typed: Record<string, string>;
}

/** Single slips that happen at the bench, each undone. */
function changesOf(record: WindingRecord): Change[] {
  const out: Change[] = [];
  const put = (say: string, part: Partial<WindingRecord>, typed: Record<string, string>) =>
    out.push({ say, record: part, typed });
  const { spansSlots, poles, turns, circuits, connection, layers, poleGroups, groupCount, endsPerLead, strands } =
    record;
  if (spansSlots)
    for (const d of [-1, 1]) {
      const next = spansSlots.map((y) => y + d);
      if (next.every((y) => y >= 1)) {
        const said = saySpans(next) ?? '';
        put(`span ${said}`, { spansSlots: next }, { spansSlots: said });
      }
    }
  if (poles !== undefined)
    for (const p of [poles * 2, poles / 2])
      if (Number.isInteger(p / 2) && p >= 2 && p <= 48)
        put(`${p} poles${p === 2 * poles ? ' (pairs were counted)' : ''}`, { poles: p }, { poles: String(p) });
  if (turns)
    for (const k of [2, 0.5]) {
      const next = turns.map((t) => t * k);
      if (next.every((t) => Number.isInteger(t)))
        put(
          `${next.join(', ')} turns`,
          { turns: next, ...(record.turnsSecondCount ? { turnsSecondCount: next } : {}) },
          {
            turns: next.join(', '),
            ...(record.turnsSecondCount ? { turnsSecondCount: next.join(', ') } : {}),
          },
        );
    }
  if (circuits !== undefined)
    for (const c of [circuits * 2, circuits / 2])
      if (Number.isInteger(c) && c >= 1 && c <= 48) put(`${c} circuits`, { circuits: c }, { circuits: String(c) });
  if (connection) {
    const other = connection === 'wye' ? 'delta' : 'wye';
    put(other, { connection: other }, { connection: other });
    if (circuits !== undefined) {
      const c = connection === 'wye' ? circuits / 2 : circuits * 2;
      if (Number.isInteger(c) && c >= 1)
        put(`${c}-circuit ${other}`, { connection: other, circuits: c }, { connection: other, circuits: String(c) });
    }
  }
  if (layers) {
    const other = layers === 'single' ? 'double' : 'single';
    put(`${other} layer`, { layers: other }, { layers: other });
  }
  put(
    poleGroups === 'consequent' ? 'a group for every pole' : 'consequent pole (a group for every second pole)',
    { poleGroups: poleGroups === 'consequent' ? 'every-pole' : 'consequent' },
    { poleGroups: poleGroups === 'consequent' ? 'every-pole' : 'consequent' },
  );
  if (groupCount !== undefined)
    for (const g of [groupCount * 2, groupCount / 2])
      if (Number.isInteger(g)) put(`${g} groups`, { groupCount: g }, { groupCount: String(g) });
  const w = strands ? wiresInHand(strands) : 1;
  if (endsPerLead !== undefined && w > 1 && endsPerLead % w === 0) {
    const e = endsPerLead / w;
    put(
      `${e} ends per lead (wires were counted)`,
      { endsPerLead: e, wireTipsPerLead: endsPerLead },
      { endsPerLead: String(e), wireTipsPerLead: String(endsPerLead) },
    );
  }
  const lengths = ['boreM', 'coreLengthM', 'toothWidthM', 'backIronM'] as const;
  const inch = 1000 * METRE_PER_INCH;
  for (const name of lengths) {
    const value = record[name];
    if (value === undefined) continue;
    const label = { boreM: 'bore', coreLengthM: 'core length', toothWidthM: 'tooth', backIronM: 'back iron' }[name];
    const inInch = Math.round(value * 1e6) / 1000;
    put(`${label} ${inInch} in, typed as mm`, { [name]: value * inch }, { [name]: `${inInch} in` });
    put(
      `${label} ${Math.round((value * 1e6) / inch) / 1000} mm, typed as inch`,
      { [name]: value / inch },
      { [name]: `${Math.round((value * 1e6) / inch) / 1000} mm` },
    );
  }
  const [D, L] = [record.boreM, record.coreLengthM];
  if (D !== undefined && L !== undefined) {
    const mm = (x: number) => Math.round(x * 1e6) / 1000;
    put(
      'bore and core length in inch, typed as mm',
      { boreM: D * inch, coreLengthM: L * inch },
      { boreM: `${mm(D)} in`, coreLengthM: `${mm(L)} in` },
    );
  }
  return out;
}

/**
 * When two or more errors stand and one change would take away at least two of them without raising a new one, that
 * change is proposed (best first, at most three). Never applied silently.
 */
export function proposeChanges(
  record: WindingRecord,
  findings: readonly Finding[],
  check: (record: WindingRecord) => Finding[],
): Finding[] {
  const odd = (list: readonly Finding[]) => list.filter((x) => x.severity !== 'I');
  const weight = (list: readonly Finding[]) => odd(list).reduce((n, x) => n + (x.severity === 'E' ? 10 : 1), 0);
  const errors = odd(findings);
  if (errors.length < 2 || !errors.some((x) => x.severity === 'E')) return [];
  const tried = changesOf(record).flatMap((change) => {
    // A change that leaves what a record may hold (turns doubled past the largest count) is no proposal.
    const changed = windingRecordSchema.safeParse({ ...record, ...change.record });
    if (!changed.success) return [];
    const after = odd(check(changed.data));
    const key = (x: Finding) => x.check;
    const before = new Set(errors.map(key));
    const gone = [...before].filter((k) => !after.some((x) => key(x) === k));
    const fresh = after.filter((x) => !before.has(key(x)) && x.severity === 'E');
    return gone.length >= 2 && fresh.length === 0 ? [{ change, left: weight(after), gone }] : [];
  });
  tried.sort((a, b) => a.left - b.left || b.gone.length - a.gone.length);
  const best = tried[0]?.left;
  return tried
    .filter((t) => t.left === best)
    .slice(0, 3)
    .map(({ change, gone }) => ({
      check: 'as-found-odd',
      severity: 'I' as const,
      message: `One change would mend ${gone.length} of these: ${change.say}. Look at the stator again before taking it.`,
      fields: Object.keys(change.typed),
      proposal: { say: change.say, changes: change.typed },
    }));
}

import type { TestStage } from '../process/operation.ts';
import type { FieldValue } from '../quantity/fields.ts';
import type { PartKind } from '../machine/parts.ts';
import { notReplaced, type EarlierTest } from './before.ts';

/** Three figures of one kind as they are typed, in the order T1–T2, T2–T3, T3–T1 (currents: T1, T2, T3). */
export type OddFigures = Partial<Record<'resistance' | 'current' | 'frequency', [string, string, string]>>;

/** Tests whose figures the network of the joints can explain. */
export const EXPLAINED_BY_JOINTS: readonly string[] = ['windingResistance', 'noLoadRun', 'surge'];

type Read = EarlierTest & { values?: Readonly<Record<string, FieldValue>> | undefined };

/** What was read of a part at a stage, as far as a mistake of connection could explain it: the newest of each test that stands. */
export function oddFigures(tests: readonly Read[], stage: TestStage, part: PartKind): OddFigures {
  const own = notReplaced(tests).filter((t) => t.stage === stage && (t.part ?? part) === part);
  const last = (kind: string) => own.filter((t) => t.kind === kind).at(-1);
  const out: OddFigures = {};
  const ohm = last('windingResistance')?.values;
  // phases read alone are no pairs of line leads
  if (ohm && ohm['reading'] !== 'phase by phase')
    put(
      out,
      'resistance',
      ['ab', 'bc', 'ca'].map((p) => (ohm[`${p}OverRange`] === true ? 'open' : said(ohm[p]))),
    );
  const amps = last('noLoadRun')?.values;
  if (amps)
    put(
      out,
      'current',
      ['i1', 'i2', 'i3'].map((p) => said(amps[p])),
    );
  const { waves } = ((last('surge')?.result as { values?: { waves?: unknown } } | null | undefined)?.values ?? {}) as {
    waves?: unknown;
  };
  if (Array.isArray(waves))
    put(
      out,
      'frequency',
      ['UV', 'VW', 'WU'].map((name) =>
        said((waves as { name?: unknown; frequencyHz?: unknown }[]).find((w) => w.name === name)?.frequencyHz),
      ),
    );
  return out;
}

const said = (x: unknown): string =>
  typeof x === 'number' && Number.isFinite(x) && x >= 0 ? String(Number(x.toPrecision(6))) : '';

function put(out: OddFigures, kind: keyof OddFigures, three: readonly string[]): void {
  const [a = '', b = '', c = ''] = three;
  if (a !== '' && b !== '' && c !== '') out[kind] = [a, b, c];
}

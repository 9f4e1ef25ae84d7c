import type { JobDetail, ShopSettings } from '@norther/contracts';
import {
  causeTitle,
  FIRST_PART,
  formatNumber,
  howItLeaves,
  newestOf,
  operation,
  testKind,
  testsFor,
  testedOf,
  type Nameplate,
} from '@norther/core';
import { windingOfPart } from '@norther/contracts';
import { grid, heading, type PaperContext, type Piece } from './paper.ts';
import { saidRating } from './windingCard.ts';
import type { PaperWords } from './words.ts';

type Test = JobDetail['tests'][number];
/** Stages that tell how a motor leaves; before them, how it came. */
const LEAVES = ['FI', 'AA', 'VC'] as const;
/** Lines on the first page of what there may be many of. */
const MOST_LINES = 14;
const MOST_LETTERS = 520;

const standing = (job: JobDetail): Test[] => job.tests.filter((t) => t.supersededBy === null);
const short = (text: string): string => (text.length <= MOST_LETTERS ? text : `${text.slice(0, MOST_LETTERS - 1)}…`);
/** The first sentence of a reason; a point within a figure ends none. */
export const firstSentence = (reason: string): string => /^.*?[.!?](?=\s|$)/s.exec(reason)?.[0] ?? reason;

export const isSimulated = (t: Test): boolean => t.traces.some((r) => r.simulated);

/** The first page: who, which motor, verdict, why, what next. */
export function certificatePage(
  job: JobDetail,
  settings: ShopSettings,
  paper: PaperContext,
  words: PaperWords,
  of: {
    revision: number;
    issuer: { name: string; role: string; at: string };
    witness: string;
    reason: string;
    letterhead: string;
  },
): Piece[] {
  const { verdict, because } = howItLeaves(standing(job), job.came);
  const { plan } = windingOfPart(job, FIRST_PART);
  const nameplate = plan?.redesign?.nameplate ?? (job.nameplate as Nameplate);
  const p = words.page1;
  const simulated = standing(job).some(isSimulated);
  return [
    {
      columns: [
        [
          { text: settings.name, bold: true, fontSize: 12 },
          { text: of.letterhead || settings.address, fontSize: 8, color: '#444444' },
        ],
        {
          width: 'auto',
          columns: [
            {
              width: 150,
              text: `${words.report} ${job.number} / ${of.revision}\n${paper.time(of.issuer.at)}`,
              alignment: 'right',
              fontSize: 9,
              margin: [0, 0, 8, 0],
            },
            { qr: `norther:job:${job.number}`, fit: 58, width: 58 },
          ],
        },
      ],
    },
    { text: job.what, bold: true, fontSize: 18, margin: [0, 4, 0, 0] },
    {
      text: [words.forWhom, ' ', job.customer, job.serial ? p.number(job.serial) : ''].join(''),
      fontSize: 11,
    },
    { text: saidRating(nameplate, words), margin: [0, 0, 0, 6] },
    {
      // a frame, not a colour: the same in grey
      table: {
        widths: ['*'],
        body: [
          [
            {
              stack: [
                { text: p.verdict[verdict], bold: true, fontSize: 15 },
                ...because.slice(0, 3).map((t) => ({
                  text: short(
                    `${p.because}: ${testKind(t.kind)?.title ?? t.kind}: ${firstSentence(t.reason)}${t.signed ? ` ${t.signed.meaning}: ${t.signed.by}, ${t.signed.reason}` : ''}`,
                  ),
                  fontSize: 9,
                })),
                ...(because.length > 3 ? [{ text: p.more(because.length - 3), fontSize: 8 }] : []),
              ],
              margin: [6, 4, 6, 4],
            },
          ],
        ],
      },
      layout: { hLineWidth: () => 1.5, vLineWidth: () => 1.5 },
    },
    ...(of.revision > 1 && of.reason !== ''
      ? [{ text: p.supersedes(of.revision - 1, of.reason), bold: true, margin: [0, 4, 0, 0] } as Piece]
      : []),
    heading(p.wrong),
    { text: short(wrongOf(job, words)), fontSize: 9 },
    heading(p.done),
    { text: short(doneOf(job, words)), fontSize: 9 },
    ...(plan?.redesign ? [{ text: p.changed, bold: true, fontSize: 9 } as Piece] : []),
    ...beforeAfter(job, words),
    heading(p.next),
    { ul: [...words.next[verdict]], fontSize: 9 },
    ...(simulated ? [{ text: p.simulated, italics: true, fontSize: 8, margin: [0, 3, 0, 0] } as Piece] : []),
    signatures(paper, words, of),
  ];
}

/** Complaint, and what the failure analysis concluded. */
function wrongOf(job: JobDetail, words: PaperWords): string {
  const p = words.page1;
  const failure = job.failures?.[0];
  const cause = (failure?.typed['cause'] ?? '').trim();
  return [
    job.intake.complaint ? `${job.intake.complaint.replace(/\.$/, '')}.` : '',
    job.intake.condition ? `${job.intake.condition.replace(/\.$/, '')}.` : '',
    cause === '' ? '' : p.cause(causeTitle(cause), failure?.typed['causeSays'] ?? ''),
    failure?.typed['advice'] ? p.advice(failure.typed['advice']) : '',
  ]
    .filter(Boolean)
    .join(' ');
}

/** The operations that were ended, in their order. */
function doneOf(job: JobDetail, words: PaperWords): string {
  const done = job.detailSteps.filter((s) => s.attempts.some((a) => a.finishedAt)).map((s) => operation(s.code).title);
  if (done.length === 0) return '–';
  const shown = done.length > 24 ? [...done.slice(0, 23), words.page1.moreDone(done.length - 23)] : done;
  return `${shown
    .join(', ')
    .toLowerCase()
    .replace(/^./, (c) => c.toUpperCase())}.`;
}

/** Tests that were done when it came and when it leaves, beside each other. */
function beforeAfter(job: JobDetail, words: PaperWords): Piece[] {
  const tests = standing(job);
  const order = testsFor(
    testedOf(
      job.nameplate as Nameplate,
      { record: windingOfPart(job, FIRST_PART).shown?.record ?? { kind: 'three-phase' } },
      null,
    ),
  );
  const rows = order.flatMap((kind) => {
    const came = newestOf(tests, kind.id, ['IN']);
    const leaves = newestOf(tests, kind.id, LEAVES);
    if (!leaves) return [];
    return [{ kind, came, leaves }];
  });
  if (rows.length === 0) return [];
  const cell = (t: Test | undefined) =>
    t ? `${figureOf(t, words)}${t.verdict}${isSimulated(t) ? ` ${words.simulatedMark}` : ''}` : '–';
  return [
    heading(words.page1.beforeAfter),
    {
      unbreakable: true,
      ...(grid(
        ['', words.page1.before, words.page1.after],
        rows.slice(0, MOST_LINES).map(({ kind, came, leaves }) => [kind.title, cell(came), cell(leaves)]),
        ['*', 150, 150],
      ) as object),
    },
    ...(rows.length > MOST_LINES ? [{ text: words.page1.more(rows.length - MOST_LINES), fontSize: 8 }] : []),
  ];
}

/** The figure that a test is known by, where it has one. */
const figuresOf = ({ page1: { figures } }: PaperWords): Readonly<Record<string, readonly [string, string]>> => ({
  windingResistance: ['unbalancePercent', figures.unbalance],
  insulationResistance: ['r40Megohm', figures.at40],
  highPotential: ['currentMA', 'mA'],
  noLoadRun: ['currentUnbalancePercent', figures.unbalance],
  noLoadCurve: ['frictionW', figures.friction],
  assembledVibration: ['worstMmS', 'mm/s'],
  lockedRotor: ['ampsAtRated', 'A'],
  temperatureRise: ['riseK', 'K'],
  loadTest: ['efficiencyPercent', '%'],
});
function figureOf(t: Test, words: PaperWords): string {
  const values = (t.result as { values?: Record<string, unknown> } | null)?.values ?? {};
  const [name, unit] = figuresOf(words)[t.kind] ?? [];
  const value = name === undefined ? undefined : values[name];
  return typeof value === 'number' && Number.isFinite(value) ? `${formatNumber(value, 3)} ${unit}, ` : '';
}

function signatures(
  paper: PaperContext,
  words: PaperWords,
  of: { issuer: { name: string; role: string; at: string }; witness: string },
): Piece {
  const line = (title: string, who: string): Piece => ({
    stack: [
      { text: title, fontSize: 8, color: '#444444' },
      { text: who === '' ? ' ' : who, fontSize: 9, margin: [0, 0, 0, 10] },
      { canvas: [{ type: 'line', x1: 0, y1: 0, x2: 150, y2: 0, lineWidth: 0.5 }] },
    ],
  });
  return {
    unbreakable: true,
    margin: [0, 12, 0, 0],
    columns: [
      line(words.signed.issued, `${of.issuer.name} (${of.issuer.role}), ${paper.time(of.issuer.at)}`),
      line(words.signed.witnessed, of.witness),
      line(words.signed.received, ''),
    ],
    columnGap: 16,
  };
}

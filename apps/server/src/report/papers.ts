import { sayCoils } from '@norther/core';
import { windingOfPart, defaultsOf } from '@norther/contracts';
import {
  CAUTIONS,
  NAMEPLATE_FIELDS,
  operation,
  runCalculation,
  sayFigure,
  stageTitle,
  TEST_STAGES,
  testKind,
  typedWithUnit,
  WINDING_FIELDS,
  windingFigures,
  FIRST_PART,
  METRIC_DEFAULTS,
  type FigureKey,
  type Nameplate,
  type RouteId,
} from '@norther/core';
import {
  templateFor,
  type BalanceSessionView,
  type CertificateSection,
  type JobDetail,
  type LotUsed,
  type ShopSettings,
  type Signed,
} from '@norther/contracts';
import { certificatePage, isSimulated } from './certificatePage.ts';
import {
  curvesInReport,
  kept,
  instrumentsInReport,
  lotsInReport,
  plateInReport,
  timelineInReport,
} from './certificateInside.ts';
import { photographsInReport, type Shown } from './photographs.ts';
import { failureInReport } from './failureInReport.ts';
import { balanceInReport } from './balanceSheet.ts';
import { grid, heading, pairs, paperContext, type PaperOptions, type Piece } from './paper.ts';
import { saidConnection, saidRating, saidWires } from './windingCard.ts';

const POINT_PER_MM = 72 / 25.4;

/** The label that travels with the motor; its code is what a scanner types. */
export function label(job: JobDetail, settings: ShopSettings): PaperOptions {
  const { widthMm, heightMm } = settings.label;
  const width = widthMm * POINT_PER_MM;
  const height = heightMm * POINT_PER_MM;
  const code = Math.min(width * 0.4, height - 20);
  const { words } = paperContext(settings);
  const w = words.label;
  return {
    title: w.title(job.number),
    settings,
    footer: '',
    pageSize: { width, height },
    margins: [8, 8, 8, 8],
    content: [
      {
        columns: [
          [
            { text: job.number, bold: true, fontSize: Math.min(26, height / 5) },
            { text: job.what, bold: true, fontSize: 10, maxHeight: 26 },
            { text: job.customer, fontSize: 9 },
            { text: saidRating(job.nameplate as Nameplate, words), fontSize: 8 },
            {
              text: [job.promised ? w.promised(job.promised) : '', job.priority === 'urgent' ? w.urgent : '']
                .filter(Boolean)
                .join(' · '),
              fontSize: 8,
              bold: true,
            },
            { text: settings.name, fontSize: 7 },
          ],
          { qr: `norther:job:${job.number}`, fit: code, width: code, alignment: 'right' },
        ],
      },
    ],
  };
}

/** The nameplate as the motor is now, for a plate or a label; a changed rewind says so. */
export function plateOf(job: JobDetail): { rows: [string, string][]; changed: boolean; nameplate: Nameplate } {
  const { plan } = windingOfPart(job, FIRST_PART);
  const nameplate = plan?.redesign?.nameplate ?? (job.nameplate as Nameplate);
  const rows = NAMEPLATE_FIELDS.flatMap((f): [string, string][] => {
    const value = nameplate[f.name as keyof Nameplate];
    const same = JSON.stringify(value) === JSON.stringify(job.nameplate[f.name as keyof Nameplate]);
    const said = same ? (job.nameplateTyped[f.name] ?? '') : shownPlate(value);
    return said === '' ? [] : [[f.label, typedWithUnit(f, said, METRIC_DEFAULTS, value)]];
  });
  return { rows, changed: Boolean(plan?.redesign), nameplate };
}
const shownPlate = (value: unknown): string =>
  Array.isArray(value) ? value.join('/') : value === undefined ? '' : String(value as string | number);

/** A plate for the motor that leaves, on the label printer. */
export function plateLabel(job: JobDetail, settings: ShopSettings): PaperOptions {
  const { rows, changed } = plateOf(job);
  const w = paperContext(settings).words.label;
  const [width, height] = [settings.label.widthMm, settings.label.heightMm].map((mm) => mm * POINT_PER_MM) as [
    number,
    number,
  ];
  return {
    title: w.plateTitle(job.number),
    settings,
    footer: '',
    pageSize: { width, height },
    margins: [6, 6, 6, 6],
    content: [
      {
        columns: [
          [
            { text: settings.name, bold: true, fontSize: 8 },
            { text: `${job.number}${changed ? w.changed : ''}`, bold: true, fontSize: 9 },
            { text: rows.map(([name, value]) => `${name} ${value}`).join('   '), fontSize: 7, lineHeight: 1.25 },
          ],
          {
            qr: `norther:job:${job.number}`,
            fit: Math.min(width * 0.28, height - 12),
            width: width * 0.3,
            alignment: 'right',
          },
        ],
      },
    ],
  };
}

/** A blank sheet for taking the data away from a screen. */
export function dataSheet(settings: ShopSettings): PaperOptions {
  const { words } = paperContext(settings);
  const w = words.dataSheet;
  return {
    title: w.title,
    settings,
    footer: `${settings.name} · ${w.footer}`,
    content: [
      { text: settings.name, bold: true },
      { text: w.title, bold: true, fontSize: 15 },
      {
        text: w.how,
        margin: [0, 2, 0, 6],
      },
      pairs(
        [
          [w.job, undefined],
          [w.taken, undefined],
          [w.second, undefined],
          [words.inside.instrument, undefined],
        ],
        { blank: true },
      ),
      heading(words.inside.nameplate),
      pairs(
        NAMEPLATE_FIELDS.map((f) => [f.label, undefined] as const),
        { columns: 3, blank: true },
      ),
      heading(w.winding),
      pairs(
        WINDING_FIELDS.filter((f) => f.name !== 'remarks').map((f) => [f.label, undefined] as const),
        { columns: 3, blank: true },
      ),
      {
        text: words.cautions([CAUTIONS.S1, CAUTIONS.S12]),
        fontSize: 8,
        margin: [0, 8, 0, 0],
      },
    ],
  };
}

const signedText = (s: Signed | null, time: (iso: string) => string) =>
  s ? `${s.meaning}: ${s.by} (${s.role}), ${time(s.at)}. ${s.reason}` : '';

/** The customer's report: what shows the work inside. */
export function customerReport(
  job: JobDetail,
  settings: ShopSettings,
  revision: number,
  issuer: { name: string; role: string; at: string },
  balances: readonly BalanceSessionView[] = [],
  more: {
    witness?: string | undefined;
    reason?: string | undefined;
    lots?: readonly LotUsed[] | undefined;
    photographs?: readonly Shown[] | undefined;
  } = {},
): PaperOptions {
  const paper = paperContext(settings);
  const { words } = paper;
  const w = words.inside;
  const c = words.card;
  const { letterhead, leaveOut } = templateFor(settings.papers, job.customer);
  const wanted = (section: CertificateSection) => !leaveOut.includes(section);
  const { shown: view, plan } = windingOfPart(job, FIRST_PART);
  const changed = plan?.redesign ?? null;
  const nameplate = changed?.nameplate ?? (job.nameplate as Nameplate);
  const record = view ? view.record : undefined;
  const figures = record
    ? runCalculation(windingFigures, { record, nameplate }, { working: 'none' }).values
    : undefined;
  const said = (key: FigureKey) => (figures ? sayFigure(key, figures, settings.units) : undefined);
  const plateAsItCame: Piece[] = [
    heading(changed ? w.plateAsItCame : w.nameplate),
    pairs(
      NAMEPLATE_FIELDS.map(
        (f) =>
          [
            f.label,
            typedWithUnit(
              f,
              job.nameplateTyped[f.name] ?? '',
              defaultsOf(settings),
              job.nameplate[f.name as keyof Nameplate],
            ),
          ] as const,
      ),
      { columns: 3 },
    ),
  ];
  const content: Piece[] = [
    ...certificatePage(job, settings, paper, words, {
      revision,
      issuer,
      witness: more.witness ?? '',
      reason: more.reason ?? '',
      letterhead,
    }),
    { text: `${job.number}, ${job.what}`, bold: true, fontSize: 12, pageBreak: 'before' },
    pairs(
      [
        [w.complaint, job.intake.complaint],
        [w.condition, job.intake.condition],
        [w.takenIn, paper.day(job.takenInAt)],
        [w.came, `${job.came}${job.quantity > 1 ? w.alike(job.quantity) : ''}`],
      ],
      { columns: 1 },
    ),
    ...(wanted('failure') ? failureInReport(job, settings, paper) : []),
    ...(changed
      ? [
          {
            text: [{ text: w.changedRewind, bold: true }, w.changes(changed.changes, plan?.reason ?? '')],
            margin: [0, 6, 0, 0],
          } as Piece,
        ]
      : []),
    ...(wanted('nameplate') ? plateAsItCame : []),
  ];
  if (record && view && wanted('winding')) {
    content.push(
      heading(plan ? w.windingReleased : w.windingFound),
      pairs([
        [c.slotsPoles, `${record.slots ?? '–'} / ${record.poles ?? '–'}`],
        [c.span, sayCoils(record)],
        [c.turns, record.turns?.join(', ')],
        [c.wires, saidWires(record, words)],
        [c.connectionName, saidConnection(record, words)],
        [w.fluxDensities, [said('airGapT'), said('toothT'), said('backIronT')].map((b) => b ?? '–').join(' / ')],
        [w.currentDensity, said('currentDensityAMm2')],
        [
          w.lineResistance,
          figures?.lineResistance20Ohm === undefined ? undefined : w.predicted(said('lineResistance20Ohm') ?? ''),
        ],
        [
          w.released,
          view.released
            ? `${view.released.by} (${view.released.role}), ${paper.time(view.released.at)}. ${view.reason ?? ''}`
            : undefined,
        ],
      ]),
    );
  }
  const standing = job.tests.filter((t) => t.supersededBy === null);
  if (standing.length > 0 && wanted('tests')) {
    // a stage's tests stand together on a page
    for (const stage of TEST_STAGES) {
      const of = standing.filter((t) => t.stage === stage);
      if (of.length > 0)
        content.push(
          kept(
            w.tests(stageTitle(stage, job.route as RouteId)),
            of.length,
            grid(
              [w.test, words.verdict, w.reason, w.by],
              of.map((t) => [
                `${testKind(t.kind)?.title ?? t.kind}${isSimulated(t) ? ` ${words.simulatedMark}` : ''}`,
                { text: t.verdict, bold: true, fontSize: 8 },
                `${t.reason} ${signedText(t.signed, paper.time)}`.trim(),
                `${t.person}\n${paper.time(t.takenAt)}`,
              ]),
              [84, 52, '*', 70],
            ),
          ),
        );
    }
  }
  // the log that counts of each coat's bake, first coat first
  const cures = job.cures.filter((c, i) => job.cures.findIndex((d) => d.code === c.code) === i).reverse();
  if (wanted('curves')) content.push(...plateInReport(job, words), ...curvesInReport(job, words));
  if (cures.length > 0 && wanted('cure'))
    content.push(
      heading(w.cure),
      ...cures.map((cure) => ({
        text: `${cures.length > 1 ? `${operation(cure.code).title}: ` : ''}${w.cured({ verdict: cure.verdict, reason: cure.reason, resin: cure.resin, file: cure.fileName })} ${cure.person}, ${paper.time(cure.at)}.`,
        fontSize: 8,
      })),
    );
  const balance = job.balances[0];
  if (balance && wanted('balance'))
    content.push(heading(w.balance), {
      text: `${balance.verdict}: ${balance.reason} ${balance.person}, ${paper.time(balance.at)}.`,
      fontSize: 8,
    });
  if (wanted('balance')) content.push(...balanceInReport(balances, settings));
  if (wanted('material')) content.push(...lotsInReport(more.lots ?? [], words));
  if (wanted('instruments')) content.push(...instrumentsInReport(job, settings, words));
  if (wanted('timeline')) content.push(...timelineInReport(job, paper, issuer.at, words));
  if (wanted('photographs')) content.push(...photographsInReport(job.attachments, more.photographs ?? [], paper));
  const done = job.detailSteps.filter((s) => s.attempts.some((a) => a.finishedAt) || s.waived);
  if (done.length > 0 && wanted('work')) {
    content.push(
      kept(
        w.work,
        done.length,
        grid(
          [w.operation, w.state, w.byWhen, w.remarks],
          done.map((s) => {
            const last = s.attempts.filter((a) => a.finishedAt).at(-1);
            const overrides = s.attempts
              .filter((a) => a.override)
              .map((a) => w.passedBy(a.startedBy, a.override ?? ''));
            const tries = s.attempts.length > 1 ? [w.attempts(s.attempts.length)] : [];
            return [
              operation(s.code).title,
              s.state,
              last ? `${last.finishedBy ?? ''}, ${paper.time(last.finishedAt ?? '')}` : '',
              [
                ...tries,
                ...overrides,
                ...s.notes.filter((n) => n.meaning !== 'override').map((n) => signedText(n, paper.time)),
              ].join('. '),
            ];
          }),
          [110, 56, 130, '*'],
        ),
      ),
    );
  }
  content.push({
    text: w.issued(`${issuer.name} (${issuer.role})`, paper.time(issuer.at)),
    margin: [0, 14, 0, 0],
    fontSize: 8,
  });
  return {
    title: w.title(job.number, revision),
    settings,
    content,
    footer: `${settings.name} · ${w.footer(job.number, revision)} · ${paper.time(issuer.at)}`,
  };
}

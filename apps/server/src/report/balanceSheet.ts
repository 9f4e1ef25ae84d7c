import {
  balanceNow,
  bearingsPlot,
  drawingToSvg,
  formatNumber,
  guideOf,
  rotorAlong,
  sayBalanceEntry,
  sayUnbalance,
  toleranceOf,
  USUAL_GRADE,
  type BalanceNow,
} from '@norther/core';
import { standingEntries, type BalanceSessionView, type ShopSettings } from '@norther/contracts';
import { grid, heading, pairs, paperContext, type PaperOptions, type Piece } from './paper.ts';
import type { PaperWords } from './words.ts';

type Words = PaperWords['balance'];

const nowOf = (s: BalanceSessionView): BalanceNow => balanceNow(s.setUp, standingEntries(s.entries), s.limits);

/** Set-up and tolerance of a balance, with what they come from. */
function setUpPieces(s: BalanceSessionView, w: Words): Piece[] {
  const { setUp } = s;
  const t = toleranceOf(setUp);
  const guide = guideOf(setUp);
  const say = (gMm: number, digits = 4) => sayUnbalance(gMm, setUp.unbalanceUnit, digits);
  const mm = (x: number | undefined) => (x === undefined ? undefined : `${formatNumber(x, 4)} mm`);
  return [
    pairs([
      [w.rotor, setUp.kind],
      [w.mass, `${formatNumber(setUp.massKg, 5)} kg`],
      [w.serviceSpeed, `${formatNumber(setUp.serviceRpm)} r/min`],
      [w.balancingSpeed, `${formatNumber(setUp.balancingRpm)} r/min`],
      [w.stand, [s.typed['stand'], s.typed['drive']].filter(Boolean).join(', ')],
      [
        w.shows,
        `${setUp.readings}${setUp.readings === 'vibration' ? w.phaseAs(setUp.phase) : w.inUnit(setUp.unbalanceUnit)}`,
      ],
      [w.angles, w.from(setUp.view)],
      [w.key, `${w.keys[setUp.key]}${guide.halfKeyG === undefined ? '' : `, ${formatNumber(guide.halfKeyG, 4)} g`}`],
      [w.seats, mm(setUp.seatTirMm)],
      [w.shaftEnd, mm(setUp.shaftEndTirMm)],
      [w.core, mm(setUp.coreTirMm)],
      [w.commutator, mm(setUp.commutatorTirMm)],
    ]),
    { svg: drawingToSvg(rotorAlong(setUp)), fit: [420, 130], margin: [0, 4, 0, 4] },
    heading(w.tolerance),
    pairs(
      [
        [w.grade, w.saidGrade(formatNumber(setUp.grade), USUAL_GRADE[setUp.kind].grade, USUAL_GRADE[setUp.kind].why)],
        [w.permissible, `${say(t.permissibleGMm)} = ${formatNumber(t.permissibleGMm / setUp.massKg, 4)} µm`],
        [w.stricter, setUp.ownGMm === undefined ? undefined : w.ofShop(say(setUp.ownGMm))],
        [w.bearings, `${say(t.sharesGMm[0])}, ${say(t.sharesGMm[1])}${t.clamped ? w.clamped : ''}`],
        [w.uncertainty, setUp.uncertaintyGMm > 0 ? say(setUp.uncertaintyGMm) : w.noUncertainty],
        [w.trim, setUp.trimMmS === undefined ? undefined : w.saidTrim(formatNumber(setUp.trimMmS))],
      ],
      { columns: 1 },
    ),
    grid(
      w.planeHead,
      setUp.planes.map((p, i) => [
        `${i + 1}${setUp.planes.length === 2 ? ((i === 0) === (setUp.driveEnd === 'A') ? w.driveSide : w.otherSide) : ''}`,
        `${formatNumber(p.xMm, 4)} mm`,
        `${formatNumber(p.radiusMm, 4)} mm`,
        p.way,
        p.places > 0 ? w.places(p.places, p.called, formatNumber(p.firstDeg, 4)) : w.anywhere,
        [p.taken.join(', '), ...p.forbidden.map((f) => w.fromTo(f.fromDeg, f.toDeg))].filter(Boolean).join('; '),
        guide.trials[i] === undefined
          ? ''
          : w.trial(formatNumber(guide.trials[i].massG, 3), formatNumber(guide.trials[i].forceN, 2)),
      ]),
      [58, 44, 44, 62, '*', '*', 78],
    ),
  ];
}

/** Runs, corrections and what is left of a balance. */
function resultPieces(s: BalanceSessionView, is: BalanceNow, settings: ShopSettings): Piece[] {
  const paper = paperContext(settings);
  const w = paper.words.balance;
  const { setUp } = s;
  const unit = s.typed['unit'] ?? '';
  const say = (gMm: number, digits = 4) => sayUnbalance(gMm, setUp.unbalanceUnit, digits);
  const out: Piece[] = [
    heading(w.runs),
    grid(
      ['', w.what, w.by],
      s.entries.map((e) => [
        String(e.ordinal),
        {
          text: `${sayBalanceEntry(e.entry, unit, setUp)}${e.gone ? (e.withdrawn ? '' : w.notCounted) : ''}${e.supersedes === null ? '' : w.replaced(e.withdrawn, e.supersedes, e.reason)}`,
          fontSize: 8,
          ...(e.gone ? { color: '#666666', decoration: 'lineThrough' } : {}),
        },
        `${e.person}, ${paper.time(e.at)}`,
      ]),
      [14, '*', 110],
    ),
  ];
  if (is.influence)
    out.push(
      heading(w.influence),
      grid(
        ['', ...setUp.planes.map((_, i) => w.perPlane(i + 1))],
        is.influence.map((row, i) => [
          w.bearing(i === 0 ? 'A' : 'B'),
          ...row.map((v) => w.at(`${formatNumber(1000 * v.size, 4)} ${unit}`, formatNumber(v.angleDeg, 4))),
        ]),
      ),
      {
        text: [
          is.condition === undefined || setUp.planes.length < 2 ? '' : w.condition(formatNumber(is.condition, 3)),
          is.stored ? w.stored(setUp.stored?.from ?? '') : '',
        ].join(''),
        fontSize: 8,
      },
    );
  if (is.history.length > 0)
    out.push(
      heading(w.fell),
      grid(
        [w.run, ...setUp.planes.map((_, i) => w.plane(i + 1)), w.bearing('A'), w.bearing('B'), w.less],
        is.history.map((h, i) => [
          i === 0 ? w.asFound : w.after(i),
          ...[...h.planes, ...h.bearings].map((v) => w.at(say(v.size), formatNumber(v.angleDeg, 4))),
          h.reductionPercent === undefined ? '' : `${formatNumber(h.reductionPercent, 3)} %`,
        ]),
      ),
    );
  if (is.bearings)
    out.push({
      unbreakable: true,
      stack: [
        heading(w.residual),
        {
          columns: [
            [
              grid(
                ['', w.residual, w.allowed, paper.words.verdict],
                [
                  ...is.bearings.map((b, i): (string | Piece)[] => [
                    w.bearing(i === 0 ? 'A' : 'B'),
                    w.at(say(b.gMm), formatNumber(b.angleDeg, 4)),
                    say(b.allowedGMm),
                    { text: b.verdict, bold: true, fontSize: 8 },
                  ]),
                  ...(is.levels ?? []).map((l, i): (string | Piece)[] => [
                    w.oncePerTurn(i === 0 ? 'A' : 'B'),
                    `${formatNumber(l.mmS, 3)} mm/s rms`,
                    `${formatNumber(l.allowedMmS, 3)} mm/s rms`,
                    { text: l.verdict, bold: true, fontSize: 8 },
                  ]),
                  ...(is.unbalance ?? []).map((u, i): (string | Piece)[] => [
                    w.plane(i + 1),
                    w.at(say(u.size), formatNumber(u.angleDeg, 4)),
                    w.notJudged,
                    '',
                  ]),
                ],
              ),
              ...(is.check?.left ? [{ text: w.testMass, fontSize: 8, margin: [0, 3, 0, 0] } as Piece] : []),
            ],
            {
              svg: drawingToSvg(bearingsPlot(is.bearings, 300)),
              width: 170,
            },
          ],
        },
      ],
    });
  return out;
}

const simulated = (s: BalanceSessionView): boolean =>
  s.entries.some((e) => !e.gone && 'sent' in e.entry && e.entry.sent?.simulated === true);

/** A balance on paper: the set-up sheet before it is spun, with lines to write on; afterwards everything that was done. */
export function balanceSheet(
  job: { number: string; what: string; customer: string },
  s: BalanceSessionView,
  settings: ShopSettings,
): PaperOptions {
  const paper = paperContext(settings);
  const w = paper.words.balance;
  const is = nowOf(s);
  const sheet = s.entries.length > 0 ? w.title : w.setUpTitle;
  const begun = s.entries.length > 0;
  return {
    title: `${sheet} ${job.number}`,
    settings,
    footer: `${settings.name} · ${job.number} · ${w.begun(sheet.toLowerCase(), paper.time(s.at))}`,
    content: [
      { text: settings.name, bold: true, fontSize: 9 },
      {
        text: `${sheet}, ${job.number}${s.unit === null ? '' : w.piece(s.unit)}`,
        bold: true,
        fontSize: 16,
      },
      { text: w.setUpBy(job.what, job.customer, s.person, paper.time(s.at)), fontSize: 9 },
      {
        text: [{ text: `${is.verdict}. `, bold: true }, is.reason],
        margin: [0, 4, 0, 4],
      },
      ...is.standing.map((j) => ({ text: `${j.verdict}: ${j.reason}`, fontSize: 8 })),
      ...(simulated(s) ? [{ text: w.simulated, bold: true, fontSize: 9 }] : []),
      heading(w.setUp),
      ...setUpPieces(s, w),
      ...(begun ? resultPieces(s, is, settings) : [blankRuns(s, w)]),
      ...(s.ended
        ? [
            {
              text: `${w.ended(`${s.ended.by} (${s.ended.role})`, paper.time(s.ended.at), s.ended.meaning)}${s.ended.reason ? ` ${s.ended.reason}` : ''}`,
              margin: [0, 8, 0, 0],
              fontSize: 8,
            } as Piece,
          ]
        : []),
      {
        text: w.caution,
        fontSize: 8,
        margin: [0, 8, 0, 0],
      },
    ],
  };
}

/** Lines for what is read at the stand. */
function blankRuns(s: BalanceSessionView, w: Words): Piece {
  const names =
    s.setUp.readings === 'vibration' ? ['A', 'B'] : s.setUp.planes.map((_, i) => w.plane(i + 1).toLowerCase());
  const rows = [
    w.asFound,
    ...(s.setUp.readings === 'vibration' ? s.setUp.planes.map((_, i) => w.trialIn(i + 1)) : []),
    w.correction(1),
    w.check,
    w.correction(2),
    w.check,
  ];
  return grid(
    [...w.blankHead, ...names.flatMap((n) => [w.size(n), w.angle(n)]), 'r/min'],
    rows.map((r) => [r, ' ', ...names.flatMap(() => [' ', ' ']), ' ']),
    [80, '*', ...names.flatMap(() => [52, 52]), 40],
  );
}

/** What the customer's report says of the newest balance of each piece. */
export function balanceInReport(sessions: readonly BalanceSessionView[], settings: ShopSettings): Piece[] {
  const newest = sessions.filter((s, i) => s.ended && sessions.findIndex((o) => o.ended && o.unit === s.unit) === i);
  return newest.flatMap((s) => {
    const is = nowOf(s);
    const { words } = paperContext(settings);
    const w = words.balance;
    const { setUp } = s;
    const say = (gMm: number) => sayUnbalance(gMm, setUp.unbalanceUnit);
    return [
      {
        text: `${w.inReport({
          piece: s.unit === null ? '' : w.pieceIs(s.unit),
          kind: setUp.kind,
          mass: formatNumber(setUp.massKg, 5),
          grade: formatNumber(setUp.grade),
          rpm: formatNumber(setUp.serviceRpm),
          key: w.keys[setUp.key],
          stand: s.typed['stand'] || w.noStand,
          at: formatNumber(setUp.balancingRpm),
        })}${simulated(s) ? w.simulatedStand : ''}`,
        fontSize: 8,
      },
      ...(is.bearings
        ? [
            grid(
              ['', words.page1.before, w.residual, w.allowed, words.verdict],
              is.bearings.map((b, i) => [
                w.bearing(i === 0 ? 'A' : 'B'),
                say(is.history[0]?.bearings[i]?.size ?? 0),
                w.at(say(b.gMm), formatNumber(b.angleDeg, 4)),
                say(b.allowedGMm),
                b.verdict,
              ]),
            ),
          ]
        : []),
      {
        text: standingEntries(s.entries)
          .filter((e) => e.kind === 'correction')
          .map((e) => sayBalanceEntry(e, '', setUp))
          .join('. '),
        fontSize: 8,
      },
      { text: paperContext(settings).time(s.ended?.at ?? s.at), fontSize: 8, margin: [0, 0, 0, 3] },
    ] as Piece[];
  });
}

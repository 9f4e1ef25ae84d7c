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

const KEY = { half: 'H: half key', full: 'F: full key', none: 'N: no key' } as const;
const nowOf = (s: BalanceSessionView): BalanceNow => balanceNow(s.setUp, standingEntries(s.entries), s.limits);

/** Set-up and tolerance of a balance, with what they come from. */
function setUpPieces(s: BalanceSessionView): Piece[] {
  const { setUp } = s;
  const t = toleranceOf(setUp);
  const guide = guideOf(setUp);
  const say = (gMm: number, digits = 4) => sayUnbalance(gMm, setUp.unbalanceUnit, digits);
  const mm = (x: number | undefined) => (x === undefined ? undefined : `${formatNumber(x, 4)} mm`);
  return [
    pairs([
      ['Rotor', setUp.kind],
      ['Mass', `${formatNumber(setUp.massKg, 5)} kg`],
      ['Highest service speed', `${formatNumber(setUp.serviceRpm)} r/min`],
      ['Balancing speed', `${formatNumber(setUp.balancingRpm)} r/min`],
      ['Stand, drive', [s.typed['stand'], s.typed['drive']].filter(Boolean).join(', ')],
      [
        'It shows',
        `${setUp.readings}${setUp.readings === 'vibration' ? `, phase as ${setUp.phase}` : ` in ${setUp.unbalanceUnit}`}`,
      ],
      ['Angles', `from the mark, seen from the ${setUp.view}`],
      ['Key', `${KEY[setUp.key]}${guide.halfKeyG === undefined ? '' : `, ${formatNumber(guide.halfKeyG, 4)} g`}`],
      ['Bearing seats, TIR', mm(setUp.seatTirMm)],
      ['Shaft end, TIR', mm(setUp.shaftEndTirMm)],
      ['Core, TIR', mm(setUp.coreTirMm)],
      ['Commutator, TIR', mm(setUp.commutatorTirMm)],
    ]),
    { svg: drawingToSvg(rotorAlong(setUp)), fit: [420, 130], margin: [0, 4, 0, 4] },
    heading('Tolerance'),
    pairs(
      [
        [
          'Grade',
          `G ${formatNumber(setUp.grade)} at the highest service speed (ISO 21940-11); usual for this kind: G ${USUAL_GRADE[setUp.kind].grade}, ${USUAL_GRADE[setUp.kind].why}`,
        ],
        [
          'Permissible, whole rotor',
          `${say(t.permissibleGMm)} = ${formatNumber(t.permissibleGMm / setUp.massKg, 4)} µm`,
        ],
        ['Stricter figure', setUp.ownGMm === undefined ? undefined : `${say(setUp.ownGMm)}, of shop or customer`],
        [
          'Bearing A, bearing B',
          `${say(t.sharesGMm[0])}, ${say(t.sharesGMm[1])}${t.clamped ? ' (held within the bounds of the standard)' : ''}`,
        ],
        [
          'Uncertainty',
          setUp.uncertaintyGMm > 0 ? say(setUp.uncertaintyGMm) : 'none stated; scatter of repeat runs counts',
        ],
        [
          'Trim',
          setUp.trimMmS === undefined
            ? undefined
            : `either bearing at most ${formatNumber(setUp.trimMmS)} mm/s rms once per turn`,
        ],
      ],
      { columns: 1 },
    ),
    grid(
      ['Plane', 'At', 'Radius', 'How', 'Places', 'Not at', 'Trial mass'],
      setUp.planes.map((p, i) => [
        `${i + 1}${setUp.planes.length === 2 ? ((i === 0) === (setUp.driveEnd === 'A') ? ', drive side' : ', other side') : ''}`,
        `${formatNumber(p.xMm, 4)} mm`,
        `${formatNumber(p.radiusMm, 4)} mm`,
        p.way,
        p.places > 0 ? `${p.places} (${p.called}), first at ${formatNumber(p.firstDeg, 4)}°` : 'anywhere',
        [p.taken.join(', '), ...p.forbidden.map((f) => `${f.fromDeg}° to ${f.toDeg}°`)].filter(Boolean).join('; '),
        guide.trials[i] === undefined
          ? ''
          : `${formatNumber(guide.trials[i].massG, 3)} g, pulls ${formatNumber(guide.trials[i].forceN, 2)} N`,
      ]),
      [58, 44, 44, 62, '*', '*', 78],
    ),
  ];
}

/** Runs, corrections and what is left of a balance. */
function resultPieces(s: BalanceSessionView, is: BalanceNow, settings: ShopSettings): Piece[] {
  const paper = paperContext(settings);
  const { setUp } = s;
  const unit = s.typed['unit'] ?? '';
  const say = (gMm: number, digits = 4) => sayUnbalance(gMm, setUp.unbalanceUnit, digits);
  const out: Piece[] = [
    heading('Runs and corrections'),
    grid(
      ['', 'What', 'By'],
      s.entries.map((e) => [
        String(e.ordinal),
        {
          text: `${sayBalanceEntry(e.entry, unit, setUp)}${e.gone ? (e.withdrawn ? '' : ' (does not count)') : ''}${e.supersedes === null ? '' : ` ${e.withdrawn ? 'taken back' : 'in place'} of row ${e.supersedes}: ${e.reason}`}`,
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
      heading('Influence set'),
      grid(
        ['', ...setUp.planes.map((_, i) => `Plane ${i + 1}, per kg·mm`)],
        is.influence.map((row, i) => [
          `Bearing ${i === 0 ? 'A' : 'B'}`,
          ...row.map((v) => `${formatNumber(1000 * v.size, 4)} ${unit} at ${formatNumber(v.angleDeg, 4)}°`),
        ]),
      ),
      {
        text: [
          is.condition === undefined || setUp.planes.length < 2
            ? ''
            : `Condition number ${formatNumber(is.condition, 3)}. `,
          is.stored ? `Stored set of ${setUp.stored?.from ?? ''}, confirmed by a trial.` : '',
        ].join(''),
        fontSize: 8,
      },
    );
  if (is.history.length > 0)
    out.push(
      heading('How it fell'),
      grid(
        ['Run', ...setUp.planes.map((_, i) => `Plane ${i + 1}`), 'Bearing A', 'Bearing B', 'Less'],
        is.history.map((h, i) => [
          i === 0 ? 'as found' : `after correction ${i}`,
          ...[...h.planes, ...h.bearings].map((v) => `${say(v.size)} at ${formatNumber(v.angleDeg, 4)}°`),
          h.reductionPercent === undefined ? '' : `${formatNumber(h.reductionPercent, 3)} %`,
        ]),
      ),
    );
  if (is.bearings)
    out.push({
      unbreakable: true,
      stack: [
        heading('Residual'),
        {
          columns: [
            [
              grid(
                ['', 'Residual', 'Allowed', 'Verdict'],
                [
                  ...is.bearings.map((b, i): (string | Piece)[] => [
                    `Bearing ${i === 0 ? 'A' : 'B'}`,
                    `${say(b.gMm)} at ${formatNumber(b.angleDeg, 4)}°`,
                    say(b.allowedGMm),
                    { text: b.verdict, bold: true, fontSize: 8 },
                  ]),
                  ...(is.levels ?? []).map((l, i): (string | Piece)[] => [
                    `Once per turn, ${i === 0 ? 'A' : 'B'}`,
                    `${formatNumber(l.mmS, 3)} mm/s rms`,
                    `${formatNumber(l.allowedMmS, 3)} mm/s rms`,
                    { text: l.verdict, bold: true, fontSize: 8 },
                  ]),
                  ...(is.unbalance ?? []).map((u, i): (string | Piece)[] => [
                    `Plane ${i + 1}`,
                    `${say(u.size)} at ${formatNumber(u.angleDeg, 4)}°`,
                    'not judged',
                    '',
                  ]),
                ],
              ),
              ...(is.check?.left
                ? [{ text: 'Found by a test mass moved round each plane.', fontSize: 8, margin: [0, 3, 0, 0] } as Piece]
                : []),
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
  const is = nowOf(s);
  const begun = s.entries.length > 0;
  return {
    title: `${begun ? 'Balance' : 'Set-up sheet'} ${job.number}`,
    settings,
    footer: `${settings.name} · ${job.number} · ${begun ? 'balance' : 'set-up sheet'} · begun ${paper.time(s.at)}`,
    content: [
      { text: settings.name, bold: true, fontSize: 9 },
      {
        text: `${begun ? 'Balance' : 'Set-up sheet'}, ${job.number}${s.unit === null ? '' : `, piece ${s.unit}`}`,
        bold: true,
        fontSize: 16,
      },
      { text: `${job.what}, for ${job.customer}. Set up by ${s.person}, ${paper.time(s.at)}.`, fontSize: 9 },
      {
        text: [{ text: `${is.verdict}. `, bold: true }, is.reason],
        margin: [0, 4, 0, 4],
      },
      ...is.standing.map((j) => ({ text: `${j.verdict}: ${j.reason}`, fontSize: 8 })),
      ...(simulated(s)
        ? [{ text: 'Readings of a simulated stand: no proof of a real rotor.', bold: true, fontSize: 9 }]
        : []),
      heading('Set-up'),
      ...setUpPieces(s),
      ...(begun ? resultPieces(s, is, settings) : [blankRuns(s)]),
      ...(s.ended
        ? [
            {
              text: `Ended by ${s.ended.by} (${s.ended.role}), ${paper.time(s.ended.at)}: ${s.ended.meaning}.${s.ended.reason ? ` ${s.ended.reason}` : ''}`,
              margin: [0, 8, 0, 0],
              fontSize: 8,
            } as Piece,
          ]
        : []),
      {
        text: 'Caution: guard on, trial mass fixed for its own force, stop before changing masses, never above the service speed. Local codes and licensed practice decide.',
        fontSize: 8,
        margin: [0, 8, 0, 0],
      },
    ],
  };
}

/** Lines for what is read at the stand. */
function blankRuns(s: BalanceSessionView): Piece {
  const names = s.setUp.readings === 'vibration' ? ['A', 'B'] : s.setUp.planes.map((_, i) => `plane ${i + 1}`);
  const rows = [
    'as found',
    ...(s.setUp.readings === 'vibration' ? s.setUp.planes.map((_, i) => `trial in plane ${i + 1}`) : []),
    'correction 1',
    'check',
    'correction 2',
    'check',
  ];
  return grid(
    ['Run', 'Mass, place or angle', ...names.flatMap((n) => [`${n}, size`, `${n}, angle`]), 'r/min'],
    rows.map((r) => [r, ' ', ...names.flatMap(() => [' ', ' ']), ' ']),
    [80, '*', ...names.flatMap(() => [52, 52]), 40],
  );
}

/** What the customer's report says of the newest balance of each piece. */
export function balanceInReport(sessions: readonly BalanceSessionView[], settings: ShopSettings): Piece[] {
  const newest = sessions.filter((s, i) => s.ended && sessions.findIndex((o) => o.ended && o.unit === s.unit) === i);
  return newest.flatMap((s) => {
    const is = nowOf(s);
    const { setUp } = s;
    const say = (gMm: number) => sayUnbalance(gMm, setUp.unbalanceUnit);
    return [
      {
        text: `${s.unit === null ? '' : `Piece ${s.unit}: `}${setUp.kind}, ${formatNumber(setUp.massKg, 5)} kg, G ${formatNumber(setUp.grade)} at ${formatNumber(setUp.serviceRpm)} r/min (ISO 21940-11), ${KEY[setUp.key]}, ${s.typed['stand'] || 'stand not named'}, ${formatNumber(setUp.balancingRpm)} r/min.${simulated(s) ? ' Readings of a simulated stand.' : ''}`,
        fontSize: 8,
      },
      ...(is.bearings
        ? [
            grid(
              ['', 'As found', 'Residual', 'Allowed', 'Verdict'],
              is.bearings.map((b, i) => [
                `Bearing ${i === 0 ? 'A' : 'B'}`,
                say(is.history[0]?.bearings[i]?.size ?? 0),
                `${say(b.gMm)} at ${formatNumber(b.angleDeg, 4)}°`,
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

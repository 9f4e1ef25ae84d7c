import { toothCoilOf, meanTurnInputSchema } from './copper.ts';
import { E, W, f, type Checks, type Context, type Finding } from './checkTypes.ts';
import { chordM, LEAST_STRAIGHT_M, measuredLapEnd, measuredRoundEnd } from './endTurn.ts';
import { meanTurnInputOf } from './meanTurnOf.ts';

const mm = (metres: number) => f(metres * 1000);
/** Slant of a diamond end that one meets, degrees; straight part and projection as shares of the arc (common practice). */
const SLANT_DEG = [15, 55] as const;
const LONGEST_STRAIGHT = 0.5;
const PROJECTION = [0.25, 1] as const;

/** What a measured projection of one end says against the arc that the coil must bridge. */
function ofOneEnd(field: string, X: number, taus: readonly number[], lap: boolean): Finding[] {
  const tau = Math.max(...taus);
  const least = Math.min(...taus);
  const cannotBe = (needed: string) =>
    E(
      'end-turn',
      [field],
      `A projection of ${mm(X)} mm cannot be: ${needed}. Measure from the core to the outermost point.`,
    );
  const made = lap ? measuredLapEnd(X, tau) : measuredRoundEnd(X, least, tau);
  if (!made)
    return [
      cannotBe(
        lap
          ? `a coil needs ${mm(LEAST_STRAIGHT_M)} mm straight and 10 mm for its nose`
          : `the innermost coil of the group would stand ${mm(X - (tau - least) / 2)} mm out, ${mm(LEAST_STRAIGHT_M)} mm is the least`,
      ),
    ];
  const out: Finding[] = [];
  if (X < PROJECTION[0] * tau || X > PROJECTION[1] * tau)
    out.push(
      W(
        'end-turn',
        [field],
        `A projection of ${mm(X)} mm for an arc of ${mm(tau)} mm; ${mm(PROJECTION[0] * tau)} to ${mm(PROJECTION[1] * tau)} mm is usual. Is it of this end, beyond the core?`,
      ),
    );
  else if (lap && made.straightM > LONGEST_STRAIGHT * tau)
    out.push(
      W(
        'end-turn',
        [field],
        `A projection of ${mm(X)} mm leaves ${mm(made.straightM)} mm of straight coil; more than half the arc (${mm(tau)} mm) is unusual.`,
      ),
    );
  else if (lap && (made.slantDeg < SLANT_DEG[0] || made.slantDeg > SLANT_DEG[1]))
    out.push(
      W(
        'end-turn',
        [field],
        `A projection of ${mm(X)} mm makes the ends slant ${f(made.slantDeg)}°; ${SLANT_DEG[0]} to ${SLANT_DEG[1]}° is usual.`,
      ),
    );
  return out;
}

const ENDS = ['extensionConnectionEndM', 'extensionOppositeEndM'] as const;

function projections({ record, layout }: Context): Finding[] | undefined {
  const { boreM, slotDepthM, slots, kind } = record;
  if (kind === 'tooth-coil' || kind === 'bar-rotor' || kind === 'form-wound' || !layout) return undefined;
  if (boreM === undefined || slotDepthM === undefined || slots === undefined) return undefined;
  const taus = layout.coils.map((c) => chordM(boreM, slotDepthM, c.spanSlots, slots));
  return ENDS.flatMap((field) => {
    const X = record[field];
    return X === undefined || taus.length === 0 ? [] : ofOneEnd(field, X, taus, layout.form === 'lap');
  });
}

/** Checks of the end turn: measured projections, and coils round teeth. */
export const END_TURN_CHECKS: Checks = {
  'end-turn': { title: 'Projection of the end turns', run: projections },
  'tooth-room': {
    title: 'Coil round a tooth: its build and its room',
    run: ({ record }) => {
      if (record.kind !== 'tooth-coil') return undefined;
      const made = toothCoilOf(meanTurnInputSchema.parse(meanTurnInputOf(record)));
      if (!made) return undefined;
      const out: Finding[] = [];
      const build = `The coil builds ${mm(made.buildM)} mm (${made.layers} layers of ${made.wiresPerLayer} wires)`;
      if (made.buildM > made.roomM)
        out.push(
          E(
            'tooth-room',
            ['turns', 'strands', 'toothWidthM', 'slotDepthM'],
            `${build}; ${mm(made.roomM)} mm fit the mean width of the slot (${mm(made.slotWidthM)} mm). Count turns and wires again, or measure tooth and slot.`,
          ),
        );
      else if (made.buildM > made.narrowRoomM)
        out.push(
          W(
            'tooth-room',
            ['turns', 'strands'],
            `${build}; at the narrow end of the slot ${mm(made.narrowRoomM)} mm fit: step the layers.`,
          ),
        );
      if (made.projectionTooShort)
        out.push(
          W(
            'tooth-room',
            [...ENDS],
            `The measured projection is shorter than ${made.layers} layers and the end insulation can be; the mean turn is taken without it.`,
          ),
        );
      return out;
    },
  },
};

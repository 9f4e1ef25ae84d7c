import { spansOfList } from './coilListChecks.ts';
import { saySpans } from './say.ts';
import { limit } from '../limits/limits.ts';
import { hasMagnets } from '../machine/machineKind.ts';
import { SYNCHRONOUS_OFF_PERCENT } from '../machine/magnets.ts';
import { polesFrom, HIGH_SLIP_PERCENT } from '../machine/nameplate.ts';
import { notAbove } from '../verdict.ts';
import { hasFilledBelts, pitchFactor } from './factors.ts';
import type { WindingRecord } from './record.ts';
import { E, W, I, f, isThreePhase, sum, type Checks, type Finding } from './checkTypes.ts';
import { feasibilityOf } from './feasibility.ts';
import { layoutInputOf } from './recordLayout.ts';
import type { Layout } from './layoutTypes.ts';
import { layoutOf } from './layout.ts';
import { twoSpeedOf } from './twoSpeed.ts';

/** The regular layout of a record, whatever sequence was counted. */
function regularLayout(record: WindingRecord): Layout | undefined {
  const { grouping: _, ...rest } = record;
  const input = layoutInputOf(rest);
  try {
    return input ? layoutOf({ ...input, turns: [1] }) : undefined;
  } catch {
    return undefined;
  }
}

/** Unbalance of the phase phasors in words: per cent of size and degrees. */
function saidUnbalance(layout: Layout): string {
  const { phases, negativeSequencePercent } = layout.balance;
  const size = 100 * (1 - Math.min(...phases.map((x) => x.size)));
  const angle = Math.max(...phases.map((x, i) => Math.abs(((x.angleDeg - 120 * i + 540) % 360) - 180)));
  return `the phases would differ by ${f(size)} % and ${f(angle)}° (negative sequence ${f(negativeSequencePercent)} %)`;
}

function expectedCoils(record: WindingRecord): number | undefined {
  if (record.kind === 'single-phase' || record.layers === 'mixed') return undefined;
  if (record.coilList) return record.slots === undefined ? undefined : record.slots / 2;
  return record.slots === undefined || record.layers === undefined
    ? undefined
    : record.layers === 'double'
      ? record.slots
      : record.slots / 2;
}

/** Checks of what was counted: coils, groups, poles, spans, turns. */
export const COUNTING_CHECKS: Checks = {
  layout: {
    title: 'The winding can be laid in these slots',
    run: (c) =>
      c.layoutProblem
        ? E(
            'layout',
            c.record.coilList ? ['coilList', 'slots', 'poles'] : ['slots', 'poles', 'spansSlots'],
            c.layoutProblem,
          )
        : undefined,
  },
  'coils-slots': {
    title: 'Coils against slots',
    run: ({ record, layout }) => {
      const expected = record.layers === 'mixed' ? layout?.coils.length : expectedCoils(record);
      if (expected === undefined || record.coilCount === undefined || record.coilCount === expected) return undefined;
      const empty = 2 * (expected - record.coilCount);
      return E(
        'coils-slots',
        ['coilCount', 'slots', 'layers'],
        `${record.coilCount} coils counted; ${record.slots} slots with ${record.layers === 'double' ? 'two coil sides' : record.layers === 'mixed' ? 'full and half sides as said' : 'one coil side'} in a slot hold ${expected}. ${
          empty > 0
            ? `${empty} coil sides would be missing: look for empty or part-filled slots, or recount.`
            : 'Recount coils, slots and layers.'
        }`,
      );
    },
  },
  'groups-poles': {
    title: 'Groups against poles',
    run: ({ record, layout }) => {
      if (!layout || record.groupCount === undefined || record.kind === 'single-phase') return undefined;
      if (record.groupCount === layout.groups.length) return undefined;
      const fits = record.groupCount % 3 === 0 ? record.groupCount / 3 : undefined;
      const half = layout.groups.length === 2 * record.groupCount;
      return E(
        'groups-poles',
        ['groupCount', 'poles'],
        `${record.groupCount} groups counted; this winding with ${record.poles} poles has ${layout.groups.length}. ${
          half
            ? `Half as many groups: is it consequent pole (a group for every second pole)?`
            : fits !== undefined && fits % 2 === 0
              ? `${record.groupCount} groups would fit ${fits} poles.`
              : 'Recount the groups: the number must be a multiple of three.'
        }`,
      );
    },
  },
  'group-sum': {
    title: 'Coils per group add up to the coils',
    run: ({ record }) => {
      const list = record.grouping;
      const coils = record.coilCount ?? expectedCoils(record);
      if (!list || list.length < 2 || coils === undefined) return undefined;
      const total = sum(list);
      return total === coils
        ? undefined
        : E(
            'group-sum',
            ['grouping', 'coilCount'],
            `The groups ${list.join('-')} add up to ${total} coils, but there are ${coils}.`,
          );
    },
  },
  'phase-sum': {
    title: 'Each phase has the same coils and turns',
    run: (c) => {
      const { record, layout } = c;
      if (!isThreePhase(c)) return undefined;
      const list = record.grouping;
      const counted =
        list && list.length >= 3 && list.length % 3 === 0
          ? [0, 1, 2].map((r) => sum(list.filter((_, i) => i % 3 === r)))
          : layout?.balance.phases.map((p) => p.coils);
      if (!counted || counted.every((n) => n === counted[0])) return undefined;
      return E(
        'phase-sum',
        ['grouping', 'slots', 'poles'],
        `The phases own ${counted.join(', ')} coils; they must be equal.`,
      );
    },
  },
  grouping: {
    title: 'Sequence of coils per group',
    run: ({ record, layout }) => {
      const list = record.grouping;
      if (!list || list.length < 2 || !layout || list.length !== layout.groups.length) return undefined;
      const regular = regularLayout(record);
      if (!regular || record.kind === 'single-phase') return undefined;
      const wanted = regular.groups.map((g) => g.coils.length);
      const near = feasibilityOf(regular.slots, regular.poles, regular.spanSlots).nearlyBalanced?.grouping;
      // counting may begin at any group and go round either way
      const isTurned = (of: readonly number[]) =>
        of.length === list.length &&
        [list, [...list].reverse()].some((a) =>
          a.some((_, shift) => a.every((n, i) => n === of[(i + shift) % of.length])),
        );
      if (isTurned(wanted) || (near && isTurned(near))) return undefined;
      return W(
        'grouping',
        ['grouping'],
        `The sequence ${list.join('-')} is not the regular ${wanted.join('-')} nor a rotation or mirror image of it: ${saidUnbalance(layout)}.`,
      );
    },
  },
  feasible: {
    title: 'Three equal phases are possible',
    run: ({ record }) => {
      if (record.slots === undefined || record.poles === undefined) return undefined;
      if (record.kind === 'single-phase') return undefined;
      const found = feasibilityOf(record.slots, record.poles, record.spansSlots?.[0]);
      if (found.feasible) return undefined;
      const near = [
        found.nearestSlots.length > 0 ? `${found.nearestSlots.join(', ')} slots with ${record.poles} poles` : '',
        found.nearestPoles.length > 0 ? `${found.nearestPoles.join(', ')} poles in ${record.slots} slots` : '',
      ].filter(Boolean);
      const closest = found.nearlyBalanced;
      return W(
        'feasible',
        ['slots', 'poles'],
        `${record.slots} slots cannot make three equal phases with ${record.poles} poles (slots must divide by ${found.mustDivideBy}). These can: ${near.join('; ')}.${
          closest
            ? ` Nearest here: groups ${closest.grouping.join('-')}, negative sequence ${f(closest.balance.negativeSequencePercent)} %; for more than one circuit check that the circuits are equal.`
            : ''
        } Recount slots and poles.`,
      );
    },
  },
  speed: {
    title: 'Poles against rated speed and frequency',
    run: ({ record, nameplate }) => {
      const { speedRpm, frequencyHz } = nameplate;
      if (record.poles === undefined || speedRpm === undefined || frequencyHz === undefined) return undefined;
      const synchronous = (120 * frequencyHz) / record.poles;
      const slip = (100 * (synchronous - speedRpm)) / synchronous;
      if (hasMagnets(nameplate))
        return notAbove(Math.abs(slip), SYNCHRONOUS_OFF_PERCENT)
          ? undefined
          : W(
              'speed',
              ['poles'],
              `${record.poles} poles at ${f(frequencyHz)} Hz turn at exactly ${f(synchronous, 5)} r/min, the plate says ${f(speedRpm, 5)}: not synchronous. Wrong poles or frequency? ${f((record.poles * speedRpm) / 120, 4)} Hz would agree.`,
            );
      if (slip >= 0 && slip <= HIGH_SLIP_PERCENT) return undefined;
      if (record.kind === 'two-speed') {
        const fast = 2 * synchronous;
        if (speedRpm <= fast && speedRpm >= fast * (1 - HIGH_SLIP_PERCENT / 100)) return undefined;
      }
      const fits = polesFrom(speedRpm, frequencyHz);
      return E(
        'speed',
        ['poles'],
        `${record.poles} poles at ${f(frequencyHz)} Hz turn at ${f(synchronous, 4)} r/min without load, the plate says ${f(speedRpm, 4)} (slip ${f(slip)} %). ${fits.poles} poles would fit (slip ${f(fits.slipPercent)} %)${record.poles * 2 === fits.poles ? ': were pole pairs counted?' : '.'}`,
      );
    },
  },
  'nameplate-poles': {
    title: 'Poles against the nameplate',
    run: ({ record, nameplate }) =>
      record.poles !== undefined &&
      nameplate.poles !== undefined &&
      record.poles !== nameplate.poles &&
      !(record.kind === 'two-speed' && record.poles === 2 * nameplate.poles)
        ? W(
            'nameplate-poles',
            ['poles'],
            `${record.poles} poles in the winding, ${nameplate.poles} on the nameplate sheet.`,
          )
        : undefined,
  },
  span: {
    title: 'Coil span against pole pitch',
    run: ({ record, layout, limits }) => {
      if (record.slots === undefined || record.poles === undefined) return undefined;
      const pitch = record.slots / record.poles;
      if (record.coilList) return spansOfList(record.coilList, record.slots, pitch);
      const spans = record.spansSlots;
      if (!spans) return undefined;
      if (record.kind === 'single-phase') {
        const longest = Math.max(...spans);
        return longest > pitch
          ? W(
              'span',
              ['spansSlots'],
              `The outer coil 1-${longest + 1} is longer than the pole pitch of ${f(pitch)} slots; 1-${Math.floor(pitch) + 1} is the longest that works on one pole.`,
            )
          : undefined;
      }
      if (record.kind === 'two-speed') {
        const wide = 2 * pitch;
        const y = sum(spans) / spans.length;
        if (y >= 0.5 * wide - 1e-9 && y <= wide + 1e-9) return undefined;
        const two = layout && record.poles % 4 === 0 ? twoSpeedOf(layout) : undefined;
        return W(
          'span',
          ['spansSlots'],
          `Span ${f(y)} slots; a two-speed winding takes 50 to 100 % of the pole pitch at the low pole number, ${f(0.5 * wide)} to ${f(wide)} slots.${two ? ` Winding factors here: ${f(two.lowFactor, 4)} at ${two.lowPoles} poles, ${f(two.highFactor, 4)} at ${two.highPoles}.` : ''}`,
        );
      }
      // a tooth coil spans one slot whatever the pole pitch
      if (spans.every((y) => y === 1) && record.slots < 3 * record.poles) return undefined;
      const single = record.layers === 'single';
      const out: Finding[] = [];
      const mean = sum(spans) / spans.length;
      if (single && (record.form ?? 'lap') === 'lap' && record.poleGroups !== 'consequent' && mean % 2 === 0) {
        out.push(
          E(
            'span',
            ['spansSlots'],
            `A span of ${mean} slots (1-${mean + 1}) is even: a single-layer lap coil needs an odd span, 1-${mean} or 1-${mean + 2}.`,
          ),
        );
      }
      if (single && record.form === 'concentric' && layout) {
        const wanted = layout.groups.map((g) => g.coils.map((n) => layout.coils[n - 1]?.spanSlots ?? 0));
        const key = (a: readonly number[]) => [...a].sort((x, y) => y - x).join(',');
        if (!wanted.some((w) => key(w) === key(spans))) {
          const say = [...new Set(wanted.map((w) => saySpans(w)))].join(' and ');
          out.push(
            W('span', ['spansSlots'], `The spans ${saySpans(spans)} do not fill the belts of this core; ${say} would.`),
          );
        }
        return out;
      }
      if (single && record.form === 'concentric') return out;
      // filled single-layer belts are of full pitch whatever the span of their coils
      if (single && layout && hasFilledBelts(layout)) return out;
      const ratio = mean / pitch;
      const kp = Math.abs(pitchFactor(mean, pitch));
      if (ratio > 1 + 1e-9) {
        const asTyped = (mean - 1) / pitch;
        out.push(
          W(
            'span',
            ['spansSlots'],
            `Mean span ${f(mean)} slots is longer than the pole pitch of ${f(pitch)} (k_p ${f(kp, 4)}). ${asTyped <= 1 ? `Was 1-${f(mean)} meant? That spans ${f(mean - 1)}.` : ''}`.trim(),
          ),
        );
      } else if (100 * ratio < limit('winding.spanLowPercent', limits) - 1e-9) {
        out.push(
          W(
            'span',
            ['spansSlots'],
            `Mean span ${f(mean)} slots is only ${f(100 * ratio)} % of the pole pitch ${f(pitch)} (k_p ${f(kp, 4)}); below ${f(limit('winding.spanLowPercent', limits))} % is used only for two speeds.`,
          ),
        );
      } else if (100 * ratio < limit('winding.spanUsualPercent', limits) - 1e-3) {
        out.push(
          W(
            'span',
            ['spansSlots'],
            `Mean span ${f(mean)} slots is ${f(100 * ratio)} % of the pole pitch ${f(pitch)} (k_p ${f(kp, 4)}); ${f(limit('winding.spanUsualPercent', limits), 2)} to 100 % is usual.`,
          ),
        );
      }
      return out;
    },
  },
  'span-count': {
    title: 'As many spans as coils in a group',
    run: ({ record, layout }) => {
      const spans = record.spansSlots;
      if (!spans || spans.length < 2 || !layout || record.form !== 'concentric') return undefined;
      const sizes = [...new Set(layout.groups.map((g) => g.coils.length))];
      return sizes.includes(spans.length) || spans.length === sum(sizes)
        ? undefined
        : W(
            'span-count',
            ['spansSlots'],
            `${spans.length} spans were typed; a group of this winding has ${sizes.join(' or ')} coils.`,
          );
    },
  },
  'graded-turns': {
    title: 'Graded turns',
    run: ({ record, layout }) => {
      const t = record.turns;
      if (
        !t ||
        t.length < 2 ||
        (record.form !== 'concentric' && record.kind !== 'single-phase') ||
        record.layers === 'mixed' ||
        !layout ||
        t.length === layout.coils.length
      )
        return undefined;
      // a full-pitch outer coil shares its slots with the neighbour pole and rightly has fewer turns
      const shared = record.spansSlots?.[0] === (record.slots ?? 0) / (record.poles ?? 1);
      const wrong = t.findIndex((x, i) => i > (shared ? 1 : 0) && x > (t[i - 1] ?? 0));
      return wrong < 0
        ? undefined
        : W(
            'graded-turns',
            ['turns'],
            `Turns ${t.join(', ')} from the outer coil in: coil ${wrong + 1} has more than the one outside it. Outer coils usually have at least as many.`,
          );
    },
  },
  'second-count': {
    title: 'Second count of turns',
    run: ({ record }) => {
      const { turns: a, turnsSecondCount: b } = record;
      if (!a || a.length === 0) return undefined;
      if (!b || b.length === 0)
        return I(
          'second-count',
          ['turnsSecondCount'],
          'Count the turns of another coil (or every coil of another group) and enter it as the second count.',
        );
      const longest = Math.max(a.length, b.length);
      const at = (list: readonly number[], i: number) => (list.length === 1 ? list[0] : list[i]);
      for (let i = 0; i < longest; i++) {
        if (at(a, i) !== at(b, i)) {
          return E(
            'second-count',
            ['turns', 'turnsSecondCount'],
            `First count ${a.join(', ')}, second count ${b.join(', ')}: they differ. Count a third coil before going on.`,
          );
        }
      }
      return undefined;
    },
  },
};

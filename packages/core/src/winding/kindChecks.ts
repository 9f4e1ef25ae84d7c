import { CalculationInputError } from '../calculation.ts';
import { barWave } from './barWave.ts';
import { limit } from '../limits/limits.ts';
import { hasMagnets } from '../machine/machineKind.ts';
import { notAbove } from '../verdict.ts';
import { conductorAreaM2 } from '../wire/strands.ts';
import { E, W, I, f, type Checks, type Finding } from './checkTypes.ts';
import { rotorSlotRules } from './spectrum.ts';
import { twoSpeedOf } from './twoSpeed.ts';

/** Checks that only some kinds of winding have: single phase, two speeds; and the rotor beside the stator. */
export const KIND_CHECKS: Checks = {
  'main-aux': {
    title: 'Main and auxiliary',
    run: ({ record, layout }) => {
      if (record.kind !== 'single-phase' || record.poles === undefined) return undefined;
      const out: Finding[] = [];
      const want =
        (layout?.phases.length ?? 2) * (record.poleGroups === 'consequent' ? record.poles / 2 : record.poles);
      if (record.groupCount !== undefined && record.groupCount !== want)
        out.push(
          E(
            'main-aux',
            ['groupCount', 'poles'],
            `${record.groupCount} groups counted; main${(layout?.phases.length ?? 2) === 2 ? ' and auxiliary have' : ' alone has'} ${want} with ${record.poles} poles${record.poleGroups === 'consequent' ? ', consequent.' : record.groupCount * 2 === want ? '. Is it consequent pole?' : '.'}`,
          ),
        );
      if (record.auxShiftSlots !== undefined && record.slots !== undefined) {
        const deg = (record.auxShiftSlots * 180 * record.poles) / record.slots;
        if (Math.abs(deg - 90) > 1e-6)
          out.push(
            E(
              'main-aux',
              ['auxShiftSlots'],
              `The axes of main and auxiliary stand ${f(deg)}° electrical apart (${f(record.auxShiftSlots)} slots); 90° is ${f(record.slots / record.poles / 2)} slots.`,
            ),
          );
      }
      const main = conductorAreaM2(record.strands ?? []);
      const aux = conductorAreaM2(record.auxStrands ?? []);
      if (record.auxKind === 'split phase' && main > 0 && aux > 0 && aux >= main)
        out.push(
          W(
            'main-aux',
            ['strands', 'auxStrands'],
            `The auxiliary of a split-phase motor has the thinner wire; here ${f(aux * 1e6)} mm² against ${f(main * 1e6)} mm² of the main. Were the two exchanged?`,
          ),
        );
      if (record.auxKind !== undefined && record.auxKind !== 'split phase' && record.capacitorF === undefined)
        out.push(I('main-aux', ['capacitorF'], 'Record the capacitor: its value and voltage belong to this winding.'));
      return out;
    },
  },
  'turns-ratio': {
    title: 'Turns ratio of a capacitor-run motor',
    run: ({ record, figures, limits }) => {
      const a = figures.turnsRatio;
      const [low, high] = [limit('winding.turnsRatioLow', limits), limit('winding.turnsRatioHigh', limits)];
      if (record.kind !== 'single-phase' || record.auxKind !== 'capacitor run' || a === undefined) return undefined;
      return notAbove(low, a) && notAbove(a, high)
        ? undefined
        : W(
            'turns-ratio',
            ['auxTurns', 'turns'],
            `Effective turns ratio auxiliary to main ${f(a)}; ${low} to ${high} is usual for a capacitor-run motor.`,
          );
    },
  },
  'two-speed': {
    title: 'Two speeds from one winding',
    run: ({ record, layout }) => {
      if (record.kind !== 'two-speed' || record.poles === undefined) return undefined;
      if (record.poles % 4 !== 0)
        return E(
          'two-speed',
          ['poles'],
          `${record.poles} poles at the low speed would be ${record.poles / 2} at the high speed; enter the larger pole number, 4, 8, 12 …`,
        );
      if (!layout) return undefined;
      const two = twoSpeedOf(layout);
      if (!two.highBalanced)
        return W(
          'two-speed',
          ['slots', 'poles'],
          `At ${two.highPoles} poles the phases of this winding are not equal.`,
        );
      return record.duty
        ? undefined
        : I(
            'two-speed',
            ['duty'],
            `k_w ${f(two.lowFactor, 4)} at ${two.lowPoles} poles, ${f(two.highFactor, 4)} at ${two.highPoles}. Say what the two speeds are for: the links depend on it.`,
          );
    },
  },
  'bar-wave': {
    title: 'Bars joined into waves',
    run: ({ record }) => {
      const { slots, poles } = record;
      if (record.kind !== 'bar-rotor' || slots === undefined || poles === undefined) return undefined;
      if ((record.barsPerSlot ?? 2) !== 2) return undefined;
      try {
        barWave({ slots, poles, farPitch: record.farPitchSlots });
        return undefined;
      } catch (error) {
        const said = error instanceof CalculationInputError ? error.problems[0]?.message : undefined;
        return E('bar-wave', ['farPitchSlots', 'slots', 'poles'], said ?? 'These bars cannot be joined into a wave.');
      }
    },
  },
  'slot-combination': {
    title: 'Stator slots against rotor bars',
    run: ({ record, nameplate }) => {
      const { slots, rotorBars, poles } = record;
      if (hasMagnets(nameplate)) return undefined;
      if (slots === undefined || poles === undefined || rotorBars === undefined || rotorBars < 10) return undefined;
      const rules = rotorSlotRules(slots, rotorBars, poles, record.skewSlots ?? 0);
      return rules.length === 0
        ? undefined
        : I(
            'slot-combination',
            ['rotorBars'],
            `${slots} slots with ${rotorBars} bars: ${rules.map((r) => r.message).join('; ')}. An existing motor is not refused for it; count the bars again if it was quiet.`,
          );
    },
  },
};

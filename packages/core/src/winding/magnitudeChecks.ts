import { hasMagnets } from '../machine/machineKind.ts';
import { limit } from '../limits/limits.ts';
import { sizeRange, type SizeKey } from '../limits/sizeRanges.ts';
import { insulatedDiameterM } from '../wire/insulatedDiameter.ts';
import { wiresInHand } from '../wire/strands.ts';
import { notAbove } from '../verdict.ts';
import { CONDUCTORS, enamelShare, temperatureFactor } from './copper.ts';
import { ratingOf } from './recordLayout.ts';
import { E, W, I, f, type Checks, type Finding } from './checkTypes.ts';

/**
 * Usual air gap of a cage machine, m: 0.2 mm + 2 √(D L) mm with bore and length in m. Handbook rule of machine design, from memory.
 * @example usualAirGapM(0.15, 0.14) // 0.00049
 */
export const usualAirGapM = (boreM: number, lengthM: number): number => (0.2 + 2 * Math.sqrt(boreM * lengthM)) / 1000;

/** Checks of sizes: current, densities, fill, dimensions, copper, resistance. */
export const MAGNITUDE_CHECKS: Checks = {
  range: {
    title: 'Sizes within what random-wound low-voltage machines have',
    run: ({ record, nameplate, limits }) => {
      const out: Finding[] = [];
      const ask = (key: SizeKey, value: number | undefined): void => {
        const { label, field, low, high, unit } = sizeRange(key, limits);
        if (value === undefined || (notAbove(low, value) && notAbove(value, high))) return;
        out.push(
          W(
            'range',
            [field],
            `${label} ${f(value, 4)} ${unit} is outside the usual ${low} to ${high} ${unit}: is it right, and in this unit?`,
          ),
        );
      };
      const times = (x: number | undefined, factor: number) => (x === undefined ? undefined : x * factor);
      ask('bore', times(record.boreM, 1000));
      ask('coreLength', times(record.coreLengthM, 1000));
      ask('tooth', times(record.toothWidthM, 1000));
      ask('slotDepth', times(record.slotDepthM, 1000));
      // coils of strip go into open slots
      if (record.kind !== 'form-wound') ask('slotOpening', times(record.slotOpeningM, 1000));
      ask('airGap', times(record.airGapM, 1000));
      ask('ductWidth', times(record.ductWidthM, 1000));
      ask('liner', times(record.linerM, 1000));
      // a coil round a tooth stands out by its layers only: its own check speaks of it
      if (record.kind !== 'tooth-coil') {
        ask('endTurnsLead', times(record.extensionConnectionEndM, 1000));
        ask('endTurnsOther', times(record.extensionOppositeEndM, 1000));
      }
      ask('slotArea', times(record.slotAreaM2, 1e6));
      ask('rotorBars', record.rotorBars);
      for (const t of record.turns ?? []) ask('turns', t);
      const wires = wiresInHand(record.strands ?? []);
      ask('wires', wires === 0 ? undefined : wires);
      ask('output', times(nameplate.outputW, 1 / 1000));
      ask('frequency', nameplate.frequencyHz);
      ask('speed', nameplate.speedRpm);
      return out;
    },
  },
  current: {
    title: 'Plate: output against voltage and current',
    run: ({ nameplate, record, limits }) => {
      const rated = ratingOf(nameplate, record);
      const { voltageV } = rated;
      // the output on a two-speed plate belongs to the high speed and its larger current
      const currentA =
        record.kind === 'two-speed' ? Math.max(0, ...(nameplate.currentsA ?? [])) || undefined : rated.currentA;
      // the drive of a magnet machine gives another voltage and power factor than a line
      if (hasMagnets(nameplate)) return undefined;
      if (nameplate.outputW === undefined || voltageV === undefined || currentA === undefined) return undefined;
      const root = record.kind === 'single-phase' ? 1 : Math.sqrt(3);
      const product = nameplate.outputW / (root * voltageV * currentA);
      const { low, high } = sizeRange('product', limits);
      if (notAbove(low, product) && notAbove(product, high)) return undefined;
      return W(
        'current',
        ['connection'],
        `Output over volts and amperes gives efficiency × power factor = ${f(product)}; ${low} to ${high} is possible. ${product > high ? 'The current or voltage is too low, or the output too high (hp for kW?).' : 'The current or voltage is too high, or the output too low.'}`,
      );
    },
  },
  density: {
    title: 'Current density',
    run: ({ figures, nameplate, limits }) => {
      const J = figures.currentDensityAMm2;
      if (J === undefined) return undefined;
      const open = (nameplate.outputW ?? 1e9) < 1000 || /open|drip|IP ?2/i.test(nameplate.enclosure ?? '');
      const high = limit(open ? 'winding.densityVeryHigh' : 'winding.densityHigh', limits);
      const low = limit('winding.densityLow', limits);
      const say = `${f(J)} A/mm² (${f(1973.525 / J)} cmil/A)`;
      if (!notAbove(J, high))
        return W(
          'density',
          ['strands', 'circuits'],
          `Current density ${say} is above ${high} A/mm²: count wires in hand, size and circuits again.`,
        );
      return !notAbove(low, J)
        ? W(
            'density',
            ['strands', 'circuits'],
            `Current density ${say} is below ${low} A/mm²: count circuits and wires in hand again.`,
          )
        : undefined;
    },
  },
  'linear-loading': {
    title: 'Linear loading',
    run: ({ figures, limits }) => {
      const a = figures.linearLoadingAM;
      const [low, high] = [limit('winding.linearLow', limits), limit('winding.linearHigh', limits)];
      return a === undefined || (notAbove(low * 1000, a) && notAbove(a, high * 1000))
        ? undefined
        : W(
            'linear-loading',
            ['turns', 'circuits', 'boreM'],
            `Linear loading ${f(a / 1000)} kA/m; ${low} to ${high} is usual. Check turns, circuits and bore.`,
          );
    },
  },
  'slot-fill': {
    title: 'Slot fill',
    run: ({ figures, limits }) => {
      const fill = figures.insulatedSquareFill;
      if (fill === undefined) return undefined;
      const say = `Slot fill ${f(fill)} (insulated squares over net area, ${f(figures.wiresPerSlot ?? 0)} wires in a slot)`;
      if (!notAbove(fill, limit('winding.fillError', limits)))
        return E(
          'slot-fill',
          ['turns', 'strands', 'slotNetAreaM2'],
          `${say} is above ${limit('winding.fillError', limits)}: it cannot be put in by hand. Check turns, wires in hand, size and slot area.`,
        );
      return !notAbove(fill, limit('winding.fillWarn', limits))
        ? W(
            'slot-fill',
            ['turns', 'strands', 'slotNetAreaM2'],
            `${say} is above ${limit('winding.fillWarn', limits)}: tight.`,
          )
        : undefined;
    },
  },
  'wire-opening': {
    title: 'Wire passes the slot opening',
    run: ({ record }) => {
      if (!record.strands || record.slotOpeningM === undefined) return undefined;
      const grade = record.wireGrade === '1' ? 1 : 2;
      const widest = Math.max(...record.strands.map((s) => insulatedDiameterM(s.bareM, grade)));
      const room = record.slotOpeningM - 2 * (record.linerM ?? 0);
      return notAbove(widest + 0.0003, room)
        ? undefined
        : W(
            'wire-opening',
            ['strands', 'slotOpeningM', 'linerM'],
            `The wire is ${f(widest * 1000)} mm over enamel; with 0.3 mm play only ${f(Math.max(0, room - 0.0003) * 1000)} mm goes through the opening.`,
          );
    },
  },
  'flux-density': {
    title: 'Flux densities',
    run: ({ figures, limits, nameplate }) => {
      const out: Finding[] = [];
      if (hasMagnets(nameplate) && nameplate.emfConstantVs === undefined)
        return figures.seriesTurns === undefined
          ? undefined
          : I(
              'flux-density',
              ['turns'],
              'Flux cannot be judged: the magnets make it, and Ke is not on the nameplate. Turn the shaft and measure the line EMF.',
            );
      const fields = ['turns', 'circuits', 'connection', 'coreLengthM', 'boreM'];
      const judge = (name: string, value: number | undefined, warn: number, error: number, more: string[]) => {
        if (value === undefined) return;
        const say = `${name} flux density ${f(value)} T (${f(value * 64.516)} kl/in²)`;
        const hint = 'Half the turns, or twice the circuits, would double it; wye read as delta changes it by √3.';
        if (!notAbove(value, error))
          out.push(
            E('flux-density', [...fields, ...more], `${say} is above ${error} T: the record cannot be right. ${hint}`),
          );
        else if (!notAbove(value, warn))
          out.push(W('flux-density', [...fields, ...more], `${say} is above ${warn} T. ${hint}`));
      };
      judge(
        'Air-gap',
        figures.airGapT,
        limit('winding.airGapWarnT', limits),
        limit('winding.airGapErrorT', limits),
        [],
      );
      judge('Tooth', figures.toothT, limit('winding.toothWarnT', limits), limit('winding.toothErrorT', limits), [
        'toothWidthM',
      ]);
      judge(
        'Back-iron',
        figures.backIronT,
        limit('winding.backIronWarnT', limits),
        limit('winding.backIronErrorT', limits),
        ['backIronM'],
      );
      const low = limit('winding.airGapLowT', limits);
      if (figures.airGapT !== undefined && !notAbove(low, figures.airGapT)) {
        out.push(
          W(
            'flux-density',
            fields,
            `Air-gap flux density ${f(figures.airGapT)} T is below ${low} T: twice the turns or half the circuits would halve it; check turns, circuits and connection.`,
          ),
        );
      }
      return out;
    },
  },
  'unit-length': {
    title: 'Inch against millimetre',
    run: ({ record, nameplate }) => {
      const out: Finding[] = [];
      const { boreM: D, coreLengthM: L, toothWidthM: bt, slots: S } = record;
      if (D !== undefined && bt !== undefined && S !== undefined) {
        const share = bt / ((Math.PI * D) / S);
        if (!notAbove(0.25, share) || !notAbove(share, 0.75))
          out.push(
            E(
              'unit-length',
              ['toothWidthM', 'boreM'],
              `The tooth is ${f(100 * share)} % of the slot pitch at the bore; 25 to 75 % is possible. Is one of them in inch?`,
            ),
          );
      }
      if (D !== undefined && L !== undefined && nameplate.outputW !== undefined && nameplate.speedRpm !== undefined) {
        const coefficient = nameplate.outputW / 1000 / (D * D * L * nameplate.speedRpm);
        if (!notAbove(coefficient, 8 * 6) || !notAbove(1 / 8, coefficient)) {
          out.push(
            E(
              'unit-length',
              ['boreM', 'coreLengthM'],
              `${f(nameplate.outputW / 1000)} kW from this bore and length would be ${f(coefficient)} kW·min/m³; 1 to 6 is usual. ${coefficient > 48 ? 'Were inches typed as mm?' : 'Were mm typed as inches?'}`,
            ),
          );
        }
      }
      return out;
    },
  },
  'copper-mass': {
    title: 'Copper weighed against computed',
    run: ({ figures, record, limits }) => {
      // a coil that was measured tells more of the mean turn than the core's sizes
      const computed = figures.sampleBareMassKg ?? figures.geometryBareMassKg;
      if (record.copperKg === undefined || computed === undefined || !record.strands) return undefined;
      const from = figures.sampleBareMassKg === undefined ? 'coil geometry' : 'the sample coil';
      const material = CONDUCTORS[record.material ?? 'copper'];
      const share =
        record.copperState === 'with enamel'
          ? enamelShare(record.strands, record.wireGrade === '1' ? 1 : 2, material.densityKgM3)
          : 0;
      const weighed = record.copperKg / (1 + share);
      const off = (100 * (weighed - computed)) / computed;
      const size = Math.abs(off);
      if (notAbove(size, limit('winding.copperAskPercent', limits))) return undefined;
      const turns = record.turns?.[0];
      const w = wiresInHand(record.strands);
      const hint =
        turns === undefined
          ? ''
          : ` ${f((turns * weighed) / computed)} turns of this wire, or ${f((w * weighed) / computed)} wires in hand, would agree.`;
      const say = `Weighed ${f(weighed)} kg bare, computed from ${from} ${f(computed)} kg (${f(off)} %).${hint}`;
      const fields = ['copperKg', 'turns', 'strands'];
      return !notAbove(size, limit('winding.copperErrorPercent', limits))
        ? E('copper-mass', fields, say)
        : !notAbove(size, limit('winding.copperWarnPercent', limits))
          ? W('copper-mass', fields, say)
          : I('copper-mass', fields, say);
    },
  },
  resistance: {
    title: 'Resistance measured against computed',
    run: ({ figures, record, limits }) => {
      const { resistanceOhm: R, resistanceTemperatureC: T } = record;
      if (R === undefined || figures.lineResistance20Ohm === undefined) return undefined;
      if (T === undefined)
        return I(
          'resistance',
          ['resistanceTemperatureC'],
          'Add the winding temperature to compare the resistance with the computed one.',
        );
      const at20 = R * temperatureFactor(T, 20, CONDUCTORS[record.material ?? 'copper'].temperatureConstantC);
      const off = (100 * (at20 - figures.lineResistance20Ohm)) / figures.lineResistance20Ohm;
      if (notAbove(Math.abs(off), limit('winding.resistanceAskPercent', limits))) return undefined;
      const ratio = at20 / figures.lineResistance20Ohm;
      const near = (x: number) => Math.abs(ratio / x - 1) < 0.06;
      const hint =
        near(4) || near(0.25)
          ? ' A factor of four means twice or half the circuits.'
          : near(3) || near(1 / 3)
            ? ' A factor of three means wye taken for delta, or the reverse.'
            : '';
      const say = `Measured ${f(at20, 4)} Ω lead to lead at 20 °C, computed ${f(figures.lineResistance20Ohm, 4)} Ω (${f(off)} %).${hint}`;
      const fields = ['resistanceOhm', 'turns', 'strands', 'circuits', 'connection'];
      return !notAbove(Math.abs(off), limit('winding.resistanceWarnPercent', limits))
        ? W('resistance', fields, say)
        : I('resistance', fields, say);
    },
  },
  'core-diameter': {
    title: 'Core outside against bore',
    run: ({ record }) => {
      const { coreOuterM: o, boreM: D } = record;
      if (o === undefined || D === undefined || (notAbove(1.3 * D, o) && notAbove(o, 2.2 * D))) return undefined;
      return W(
        'core-diameter',
        ['coreOuterM', 'boreM'],
        `Core outside ${f(o * 1000)} mm is ${f(o / D)} times the bore; 1.3 to 2.2 is usual.`,
      );
    },
  },
  'core-sum': {
    title: 'Bore, slot and back iron make the core',
    run: ({ record, limits }) => {
      const { coreOuterM: o, boreM: D, slotDepthM: h, backIronM: c } = record;
      if (o === undefined || D === undefined || h === undefined || c === undefined) return undefined;
      const made = D + 2 * (h + c);
      // the difference of two lengths loses digits: what is compared are the lengths
      const room = (limit('winding.coreSumPercent', limits) / 100) * o;
      return notAbove(made, o + room) && notAbove(o - room, made)
        ? undefined
        : W(
            'core-sum',
            ['coreOuterM', 'boreM', 'slotDepthM', 'backIronM'],
            `Bore + 2 × (slot depth + back iron) = ${f(made * 1000, 4)} mm, but the core outside is ${f(o * 1000, 4)} mm.`,
          );
    },
  },
  gap: {
    title: 'Air gap against bore and length',
    run: ({ record, limits }) => {
      const { airGapM: gap, boreM: D, coreLengthM: L } = record;
      // cages only: wound and magnet rotors of the same size have other gaps
      if (gap === undefined || D === undefined || L === undefined || record.rotorBars === undefined) return undefined;
      const usual = usualAirGapM(D, L);
      const times = limit('winding.gapTimes', limits);
      if (notAbove(gap, times * usual) && notAbove(usual, times * gap)) return undefined;
      return I(
        'gap',
        ['airGapM', 'boreM', 'coreLengthM'],
        `Air gap ${f(gap * 1000)} mm where ${f(usual * 1000)} mm is usual for this bore and length: ${gap > usual ? 'was it measured across, on both sides together?' : 'one side is meant; was a feeler left out?'}`,
      );
    },
  },
  'slot-areas': {
    title: 'Net slot area below gross',
    run: ({ record }) =>
      record.slotAreaM2 !== undefined && record.slotNetAreaM2 !== undefined && record.slotNetAreaM2 >= record.slotAreaM2
        ? E(
            'slot-areas',
            ['slotAreaM2', 'slotNetAreaM2'],
            `Net slot area ${f(record.slotNetAreaM2 * 1e6)} mm² is not below the gross area ${f(record.slotAreaM2 * 1e6)} mm².`,
          )
        : undefined,
  },
};

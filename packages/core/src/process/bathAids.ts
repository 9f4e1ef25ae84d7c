import { refuse, runCalculation } from '../calculation.ts';
import { formatNumber } from '../quantity/format.ts';
import type { StepAid } from './aid.ts';
import { asTyped, given, millimetres, numberOf } from './aidFields.ts';
import { processBondedWire } from './bondedWire.ts';
import { processCapacitance } from './capacitance.ts';
import { processDryOut } from './dryOut.ts';
import { processDip } from './dip.ts';
import { celsius, choice, count, kilogram, millimetre, need, quantity } from './fieldKinds.ts';
import { baseOf, runOf } from './operations.ts';
import { processResinToHold } from './resinToHold.ts';
import { processTrickle } from './trickle.ts';

const percent = (name: string, label: string, o: { required?: true; hint?: string } = {}) =>
  quantity(name, label, 'percent', '%', o);
const seconds = (name: string, label: string, o: { required?: true; hint?: string } = {}) =>
  quantity(name, label, 'time', 's', o);

/** Aids at the dip tank, the vessel, the trickle stand and the bonding stand. */
export const BATH_AIDS: readonly StepAid[] = [
  {
    id: 'dry-out',
    title: 'Is it dry?',
    at: ['PRE', 'ODR'],
    fields: [
      {
        name: 'minutes',
        label: 'Minutes, reading by reading',
        read: { kind: 'counts' },
        hint: '0, 60, 90, 120',
        required: true,
      },
      {
        name: 'megohm',
        label: 'Insulation resistance of each',
        read: { kind: 'quantities', dimension: 'resistance', unit: 'MΩ' },
        required: true,
      },
      {
        name: 'part',
        label: 'Part temperature of each',
        read: { kind: 'quantities', dimension: 'temperature', unit: '°C' },
        required: true,
      },
    ],
    start: () => ({}),
    result: (values, { limits }) => {
      const list = (name: string): number[] => (Array.isArray(values[name]) ? (values[name] as number[]) : []);
      const [minutes, ohms, part] = [list('minutes'), list('megohm'), list('part')];
      if (minutes.length === 0 || ohms.length === 0 || part.length === 0) return undefined;
      for (const [field, of] of [
        ['megohm', ohms],
        ['part', part],
      ] as const)
        if (of.length !== minutes.length)
          refuse(field, `There are ${minutes.length} times, but ${of.length} readings here: one for each.`);
      const { values: is, working } = runCalculation(processDryOut, {
        readings: minutes.map((min, i) => ({ min, megohm: (ohms[i] ?? 0) / 1e6, partC: part[i] ?? 0 })),
        limits,
      });
      return {
        lines: [
          ['Stood for', `${formatNumber(is.steadyMin)} min`],
          ['Changes by', is.changePercent === undefined ? '' : `${formatNumber(is.changePercent, 2)} %`],
        ],
        verdict: is.verdict,
        reason: is.reason,
        fills: {
          part: `${formatNumber(part.at(-1) ?? 0, 4)} °C`,
          hours: `${formatNumber(is.steadyMin / 60, 3)} h`,
          ...(is.verdict === 'cannot judge' ? {} : { steady: is.verdict === 'pass' ? 'yes' : 'no' }),
        },
        working,
      };
    },
  },
  {
    id: 'viscosity',
    title: 'Is the resin as it should be?',
    at: ['IMPD'],
    fields: [
      seconds('cup', 'Flow cup', need),
      celsius('resin', 'Resin temperature', need),
      seconds('from', 'Data sheet: from'),
      seconds('to', 'Data sheet: to'),
      celsius('reference', 'at', { hint: '25 °C where nothing is said' }),
      quantity('perK', 'Change of the cup per K', 'number', '', { hint: '0.03 to 0.05; 0.035 where it is not known' }),
      kilogram('bath', 'Resin in the bath'),
      percent('solids', 'Solids now'),
      percent('wanted', 'Solids wanted'),
    ],
    start: () => ({}),
    result: (values) => {
      // times are read in minutes
      const cup = numberOf(values, 'cup');
      const cupS = cup === undefined ? undefined : 60 * cup;
      if (cupS === undefined || numberOf(values, 'resin') === undefined) return undefined;
      const share = (name: string, of: string) => {
        const x = numberOf(values, name);
        return x === undefined ? {} : { [of]: x / 100 };
      };
      const { values: dip, working } = runCalculation(processDip, {
        cupS,
        ...given(values, {
          resin: 'resinC',
          reference: 'referenceC',
          perK: 'perK',
          bath: 'bathKg',
        }),
        ...(['from', 'to'] as const).reduce((band, name) => {
          const x = numberOf(values, name);
          return x === undefined ? band : { ...band, [name === 'from' ? 'cupFromS' : 'cupToS']: 60 * x };
        }, {}),
        ...share('solids', 'solids'),
        ...share('wanted', 'solidsWanted'),
      });
      const at = numberOf(values, 'reference') ?? 25;
      return {
        lines: [
          [`Flow cup at ${formatNumber(at)} °C`, `${formatNumber(dip.atReferenceS ?? 0, 4)} s`],
          ...(dip.thinnerKg === undefined ? [] : [['Thinner to add', `${formatNumber(dip.thinnerKg)} kg`] as const]),
        ],
        ...(dip.inBand === undefined ? {} : { verdict: dip.inBand ? ('pass' as const) : ('attention' as const) }),
        says: dip.says,
        fills: { viscosity: formatNumber(cupS, 4) },
        working,
      };
    },
  },
  {
    id: 'pick-up',
    title: 'What the coat left',
    at: ['DRN', 'CLN'],
    fields: [
      kilogram('before', 'Mass before the dip', need),
      kilogram('drained', 'Mass after draining', need),
      kilogram('cured', 'Mass after the cure'),
      percent('solids', 'Solids of the resin'),
    ],
    start: ({ earlier }) => {
      // of the last coat that was drained
      const drained = Object.keys(earlier).filter((c) => baseOf(c) === 'DRN');
      const last = drained.sort((a, b) => runOf(b) - runOf(a)).find((c) => earlier[c]?.['wet'] !== undefined);
      const wet = last === undefined ? undefined : earlier[last]?.['wet'];
      return typeof wet === 'number' ? { drained: `${formatNumber(wet, 6)} kg` } : {};
    },
    result: (values) => {
      if (numberOf(values, 'before') === undefined || numberOf(values, 'drained') === undefined) return undefined;
      const solids = numberOf(values, 'solids');
      const { values: left, working } = runCalculation(processDip, {
        ...given(values, { before: 'beforeKg', drained: 'drainedKg', cured: 'curedKg' }),
        ...(solids === undefined ? {} : { solids: solids / 100 }),
      });
      return {
        lines: [
          ['Wet', `${formatNumber(left.wetKg ?? 0)} kg`],
          ...(left.curedKg === undefined
            ? []
            : [
                ['Cured', `${formatNumber(left.curedKg)} kg, ${formatNumber(left.curedPercent ?? 0, 3)} %`] as const,
                [
                  'Stayed of the wet',
                  left.retention === undefined ? '' : `${formatNumber(100 * left.retention, 3)} %`,
                ] as const,
              ]),
        ],
        says: left.says,
        fills: { wet: `${formatNumber(numberOf(values, 'drained') ?? 0, 6)} kg` },
        working,
      };
    },
  },
  {
    id: 'resin-to-hold',
    title: 'Resin to hold ready',
    at: ['IMPV'],
    fields: [
      millimetre('tank', 'Inside of the tank', need),
      millimetre('stand', 'Stand'),
      millimetre('part', 'Height of the part', need),
      millimetre('cover', 'Cover', { hint: '50 to 100 mm' }),
      kilogram('steel', 'Steel in it'),
      kilogram('copper', 'Copper in it'),
      quantity('stored', 'Resin stored', 'number', '', { hint: 'litre' }),
      quantity('storage', 'Storage holds', 'number', '', { hint: 'litre' }),
    ],
    start: ({ nameplate }) =>
      nameplate.massKg === undefined ? {} : { steel: `${formatNumber(nameplate.massKg, 5)} kg` },
    result: (values) => {
      if (numberOf(values, 'tank') === undefined || numberOf(values, 'part') === undefined) return undefined;
      const solids = (['steel', 'copper'] as const).flatMap((of) => {
        const kg = numberOf(values, of);
        return kg === undefined || kg === 0 ? [] : [{ of, kg }];
      });
      const { values: held, working } = runCalculation(processResinToHold, {
        ...given(values, {
          tank: 'tankM',
          stand: 'standM',
          part: 'partM',
          cover: 'coverM',
          stored: 'storedL',
          storage: 'storageL',
        }),
        solids,
      });
      return {
        lines: [
          ['Resin', `${formatNumber(held.litre, 4)} l`],
          ['Level', `${formatNumber(1000 * held.levelM, 4)} mm`],
        ],
        ...(held.missingL === undefined
          ? {}
          : { verdict: held.missingL > 0 ? ('attention' as const) : ('pass' as const) }),
        says: [held.says, 'The vessel’s own interlocks and its inspection come first.'],
        working,
      };
    },
  },
  {
    id: 'capacitance',
    title: 'Is it filled?',
    at: ['IMPV'],
    fields: [
      {
        name: 'series',
        label: 'Minutes and nF',
        read: { kind: 'text', long: true },
        required: true,
        hint: 'first reading under vacuum, before the resin: 0 41.2; 5 42.1; 10 43.95',
      },
      quantity('hold', 'Hold at least', 'time', 'min'),
    ],
    start: () => ({}),
    result: (values) => {
      const typed = values['series'];
      if (typeof typed !== 'string' || typed.trim() === '') return undefined;
      const samples = typed
        .split(/[;\n]+/)
        .map((pair) =>
          pair
            .trim()
            .split(/[\s]+/)
            .map((x) => Number(x.replace(',', '.'))),
        )
        .filter((pair) => pair.length > 0 && !(pair.length === 1 && pair[0] === 0));
      const bad = samples.findIndex((p) => p.length !== 2 || p.some((x) => !Number.isFinite(x)));
      if (bad >= 0)
        return {
          lines: [],
          verdict: 'cannot judge',
          reason: `Reading ${bad + 1} is not a time and a capacitance, like 5 42.1.`,
        };
      const hold = numberOf(values, 'hold');
      const { values: filled, working } = runCalculation(processCapacitance, {
        samples: samples.map(([min, nF]) => ({ min: min ?? 0, nF: nF ?? 0 })),
        ...(hold === undefined ? {} : { settings: { minHoldMin: hold } }),
      });
      return {
        lines: [
          ['Risen by', `${formatNumber(filled.risePercent, 3)} %`],
          ...(filled.slopePercentMin === undefined
            ? []
            : [['Rising now by', `${formatNumber(filled.slopePercentMin, 2)} % a minute`] as const]),
          ...(filled.stopMin === undefined ? [] : [['Decided at', `${formatNumber(filled.stopMin)} min`] as const]),
        ],
        verdict: filled.state === 'plateau' ? 'pass' : filled.state === 'not_yet' ? 'cannot judge' : 'attention',
        reason: filled.says,
        ...(filled.state === 'plateau' ? { fills: { end: 'capacitance plateau' } } : {}),
        working,
      };
    },
  },
  {
    id: 'trickle',
    title: 'Resin to dispense',
    at: ['IMPT'],
    fields: [
      count('slots', 'Slots', need),
      millimetre('core', 'Core length', need),
      quantity('slot', 'Slot area', 'area', 'mm²', need),
      count('wires', 'Wires in a slot', need),
      millimetre('wire', 'Wire over its enamel', need),
      millimetre('linerWidth', 'Liner, width'),
      millimetre('liner', 'Liner, thickness'),
      quantity('other', 'Wedge and separator', 'area', 'mm²'),
      quantity('ends', 'Section of an end', 'area', 'mm²', need),
      millimetre('endDiameter', 'Mean diameter of the ends', need),
      percent('endWire', 'Wire in the ends', need),
    ],
    start: ({ record }) => ({
      ...(record?.slots === undefined ? {} : { slots: String(record.slots) }),
      ...(record?.coreLengthM === undefined ? {} : { core: millimetres(record.coreLengthM) }),
      ...(record?.slotAreaM2 === undefined ? {} : { slot: `${formatNumber(1e6 * record.slotAreaM2, 5)} mm²` }),
      ...(record?.linerM === undefined ? {} : { liner: millimetres(record.linerM) }),
    }),
    result: (values) => {
      const all = given(values, {
        slots: 'slots',
        core: 'coreM',
        slot: 'slotAreaM2',
        wires: 'wires',
        wire: 'overallM',
        ends: 'endSectionM2',
        endDiameter: 'endDiameterM',
      });
      const endWire = numberOf(values, 'endWire');
      if (Object.keys(all).length < 7 || endWire === undefined) return undefined;
      const { values: resin, working } = runCalculation(processTrickle, {
        ...all,
        endWireShare: endWire / 100,
        ...given(values, { linerWidth: 'linerWidthM', liner: 'linerM', other: 'otherM2' }),
      });
      return {
        lines: [
          ['Void of a slot', `${formatNumber(1e6 * resin.slotVoidM2, 4)} mm²`],
          ['Into the slots', `${formatNumber(1000 * resin.slotsKg)} g`],
          ['Into the ends', `${formatNumber(1000 * resin.endsKg)} g`],
          ['Together', `${formatNumber(1000 * resin.kg)} g`],
        ],
        says: [
          'Part at 100 to 140 °C, turning at 10 to 30 r/min, half of it from each end; let it gel before it stops.',
        ],
        fills: { planned: `${formatNumber(resin.kg, 4)} kg` },
        working,
      };
    },
  },
  {
    id: 'bonded-wire',
    title: 'Stop at this resistance',
    at: ['IMPB'],
    fields: [
      choice('material', 'Wire', ['copper', 'aluminium']),
      quantity('cold', 'Cold resistance', 'resistance', 'Ω', need),
      celsius('at', 'at', need),
      quantity('leads', 'of it in the leads', 'resistance', 'Ω'),
      quantity('now', 'Resistance at the end', 'resistance', 'Ω'),
      celsius('from', 'Bonds from', { hint: '180 °C where the wire’s sheet is missing' }),
      celsius('to', 'to'),
      kilogram('wire', 'Wire of the winding'),
      quantity('amps', 'Current', 'current', 'A'),
      quantity('volts', 'or voltage', 'voltage', 'V'),
    ],
    start: () => ({}),
    result: (values) => {
      const [coldOhm, coldC] = [numberOf(values, 'cold'), numberOf(values, 'at')];
      if (coldOhm === undefined || coldC === undefined) return undefined;
      const now = numberOf(values, 'now');
      const { values: bond, working } = runCalculation(processBondedWire, {
        coldOhm,
        coldC,
        ...(values['material'] === 'aluminium' ? { material: 'aluminium' as const } : {}),
        ...given(values, {
          leads: 'leadOhm',
          now: 'nowOhm',
          from: 'fromC',
          to: 'toC',
          wire: 'wireKg',
          amps: 'amps',
          volts: 'volts',
        }),
      });
      const ohm = (x: number) => `${formatNumber(x, 4)} Ω`;
      return {
        lines: [
          ['Stop between', `${ohm(bond.fromOhm)} and ${ohm(bond.toOhm)}, best at ${ohm(bond.targetOhm)}`],
          ...(bond.byCurrentS === undefined
            ? []
            : [
                ['With this current', `${formatNumber(bond.byCurrentS)} s or longer: the core takes heat too`] as const,
              ]),
          ...(bond.byVoltageS === undefined
            ? []
            : [
                ['With this voltage', `${formatNumber(bond.byVoltageS)} s or longer: the core takes heat too`] as const,
              ]),
          ...(bond.nowC === undefined ? [] : [['It came to', `${formatNumber(bond.nowC, 4)} °C`] as const]),
        ],
        ...(now === undefined
          ? {}
          : {
              verdict: bond.verdict,
              reason: bond.reason,
              fills: {
                r0: ohm(coldOhm),
                t0: `${formatNumber(coldC, 4)} °C`,
                r: ohm(now),
                ...asTyped(values, { leads: 'lead' }, ohm),
                ...asTyped(values, { from: 'from', to: 'to' }, (c) => `${formatNumber(c, 4)} °C`),
                ...(values['material'] === 'aluminium' ? { material: 'aluminium' } : {}),
              },
            }),
        says: ['The winding is live and hot while it bonds: guard it, and let local codes decide.'],
        working,
      };
    },
  },
];

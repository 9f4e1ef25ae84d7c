import { runCalculation } from '../calculation.ts';
import type { Typed } from '../quantity/fields.ts';
import { formatNumber } from '../quantity/format.ts';
import type { AidContext, StepAid } from './aid.ts';
import { given, millimetres, numberOf, type AidValues } from './aidFields.ts';
import { processCoreLoss, processCoreSetUp, type CoreGeometry } from './coreTest.ts';
import { choice, count, kilogram, millimetre, need, quantity, yes } from './fieldKinds.ts';
import { processStrippedCopper } from './strippedCopper.ts';

const CORE_FIELDS = [
  millimetre('outer', 'Core outside', need),
  millimetre('bore', 'Bore', need),
  millimetre('slot', 'Slot depth', need),
  millimetre('length', 'Core length', need),
  count('ducts', 'Ducts'),
  millimetre('duct', 'Duct width'),
  quantity('stacking', 'Stacking factor', 'number', '', { hint: '0.95 where it is not known' }),
  quantity('frequency', 'Supply', 'frequency', 'Hz', need),
] as const;

const startOf = ({ record, nameplate }: AidContext): Typed =>
  Object.fromEntries(
    Object.entries({
      outer: millimetres(record?.coreOuterM),
      bore: millimetres(record?.boreM),
      slot: millimetres(record?.slotDepthM),
      length: millimetres(record?.coreLengthM),
      ducts: record?.ductCount === undefined ? '' : String(record.ductCount),
      duct: millimetres(record?.ductWidthM),
      frequency: nameplate.frequencyHz === undefined ? '' : String(nameplate.frequencyHz),
    }).filter(([, text]) => text !== ''),
  );

function coreOf(values: AidValues): Partial<CoreGeometry> | undefined {
  const core = given(values, {
    outer: 'outerM',
    bore: 'boreM',
    slot: 'slotDepthM',
    length: 'lengthM',
    ducts: 'ducts',
    duct: 'ductWidthM',
    stacking: 'stacking',
  });
  return ['outerM', 'boreM', 'slotDepthM', 'lengthM'].every((k) => k in core) ? core : undefined;
}

/** Aids at the core and the scale. */
export const CORE_AIDS: readonly StepAid[] = [
  {
    id: 'core-set-up',
    title: 'Set up the loop',
    at: ['CT1', 'CT2'],
    fields: [
      ...CORE_FIELDS,
      {
        name: 'supply',
        label: 'Voltages at hand',
        read: { kind: 'quantities', dimension: 'voltage', unit: 'V' },
        required: true,
        hint: 'taps too: 120, 230, 400',
      },
    ],
    start: (context) => ({
      ...startOf(context),
      ...(context.supplyTapsV && context.supplyTapsV.length > 0
        ? { supply: context.supplyTapsV.map((v) => formatNumber(v)).join(', ') }
        : {}),
    }),
    result: (values) => {
      const core = coreOf(values);
      const supplyV = values['supply'];
      if (!core || !Array.isArray(supplyV)) return undefined;
      const { values: set, working } = runCalculation(processCoreSetUp, {
        core,
        supplyV,
        ...given(values, { frequency: 'frequencyHz' }),
      });
      const mm = (m: number) => `${formatNumber(1000 * m, 4)} mm`;
      return {
        lines: [
          ['Back iron', `${mm(set.depthM)} deep, ${mm(set.netM)} of sheet, ${formatNumber(1e4 * set.areaM2, 4)} cm²`],
          ['Mass of the back iron', `${formatNumber(set.kg, 4)} kg`],
          ['Voltage of a turn', `${formatNumber(set.voltsPerTurn, 4)} V`],
          ...set.supplies.map(
            (s) =>
              [
                `${formatNumber(s.volts)} V`,
                `${s.turns} turn${s.turns === 1 ? '' : 's'}, ${formatNumber(s.flux, 4)} T (${s.offPercent > 0 ? '+' : ''}${formatNumber(s.offPercent, 2)} %), ${formatNumber(s.amps)} A, ${s.cableMm2 === undefined ? 'no single cable' : `${formatNumber(s.cableMm2)} mm²`}${s.near ? '' : ': too far from the target'}`,
              ] as const,
          ),
        ],
        says: [
          set.says,
          'The loop stands at supply potential: keep metal out of the bore, bolts across the core insulated. Local codes and licensed practice decide.',
        ],
        ...(set.chosen ? { fills: { loopTurns: String(set.chosen.turns) } } : {}),
        working,
      };
    },
  },
  {
    id: 'core-loss',
    title: 'What was read',
    at: ['CT1', 'CT2'],
    fields: [
      ...CORE_FIELDS,
      count('turns', 'Loop turns', need),
      quantity('volts', 'Voltage of the loop', 'voltage', 'V'),
      quantity('search', 'Voltage of the search turns', 'voltage', 'V', { hint: 'better than the loop’s own' }),
      count('searchTurns', 'Search turns'),
      quantity('watts', 'Power', 'power', 'W', need),
      yes('bySearch', 'Wattmeter on the search turns', { required: true }),
      quantity('hotSpot', 'Hot spot above the core round it', 'temperatureRise', 'K'),
    ],
    start: startOf,
    result: (values, { earlier, limits }) => {
      const core = coreOf(values);
      const [watts, turns] = [numberOf(values, 'watts'), numberOf(values, 'turns')];
      if (!core || watts === undefined || turns === undefined) return undefined;
      const was = earlier['CT1'] ?? {};
      const before =
        typeof was['loss'] === 'number' && typeof was['flux'] === 'number' && was['loss'] > 0 && was['flux'] > 0
          ? { lossWKg: was['loss'], flux: was['flux'] }
          : undefined;
      const { values: loss, working } = runCalculation(processCoreLoss, {
        core,
        watts,
        turns,
        wattsBySearch: values['bySearch'] === true,
        limits: { ...limits },
        ...given(values, {
          frequency: 'frequencyHz',
          volts: 'volts',
          search: 'searchVolts',
          searchTurns: 'searchTurns',
          hotSpot: 'hotSpotK',
        }),
        ...(before ? { before } : {}),
      });
      return {
        lines: [
          ['Flux density', `${formatNumber(loss.flux, 4)} T`],
          ['Loss', `${formatNumber(loss.lossWKg, 4)} W/kg of ${formatNumber(loss.kg, 4)} kg`],
          ...(loss.atTargetWKg === undefined
            ? []
            : [['At the target', `${formatNumber(loss.atTargetWKg, 4)} W/kg`] as const]),
          ...(loss.risePercent === undefined
            ? []
            : [['On the test before heat', `${formatNumber(loss.risePercent, 3)} %`] as const]),
        ],
        verdict: loss.verdict,
        reason: loss.reason,
        says: loss.advice,
        fills: {
          loopTurns: String(turns),
          watts: `${formatNumber(watts, 6).replaceAll('\u202f', '')} W`,
          flux: `${formatNumber(loss.flux, 4)} T`,
          loss: `${formatNumber(loss.lossWKg, 4)} W/kg`,
        },
        working,
      };
    },
  },
  {
    id: 'copper',
    title: 'Is all the copper there?',
    at: ['STR', 'DA2'],
    fields: [
      kilogram('stripped', 'Copper stripped', need),
      kilogram('cutOff', 'Copper cut off before', { hint: 'weighed at the cut' }),
      choice('state', 'It is', ['burned clean', 'with enamel']),
    ],
    start: ({ earlier }) => {
      const cut = earlier['CUT']?.['copper'];
      return typeof cut === 'number' ? { cutOff: `${formatNumber(cut, 5)} kg` } : {};
    },
    result: (values, { record, nameplate, limits }) => {
      const strippedKg = numberOf(values, 'stripped');
      if (strippedKg === undefined) return undefined;
      if (!record)
        return {
          lines: [],
          verdict: 'cannot judge',
          reason: 'There is no record of the winding to hold the mass against: take the data first.',
        };
      const cutOffKg = numberOf(values, 'cutOff') ?? 0;
      const { values: copper, working } = runCalculation(processStrippedCopper, {
        record,
        nameplate,
        strippedKg,
        cutOffKg,
        limits: { ...limits },
        ...(values['state'] === 'with enamel' ? { state: 'with enamel' as const } : {}),
      });
      return {
        lines: [
          ['Weighed, bare', `${formatNumber(copper.weighedKg, 4)} kg`],
          ...(copper.computedKg === undefined
            ? []
            : [['By the record', `${formatNumber(copper.computedKg, 4)} kg`] as const]),
          ...copper.suspects.map(
            (s) => [`Would fit: ${s.say}`, `${s.offPercent > 0 ? '+' : ''}${formatNumber(s.offPercent, 2)} %`] as const,
          ),
        ],
        verdict: copper.verdict,
        reason: copper.reason,
        fills: { copper: `${formatNumber(copper.weighedKg, 5)} kg` },
        working,
      };
    },
  },
];

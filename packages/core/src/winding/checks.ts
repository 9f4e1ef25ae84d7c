import { z } from 'zod';
import { defineCalculation } from '../calculation.ts';
import { limit, type ShopLimits } from '../limits/limits.ts';
import { shopLimitsSchema } from '../limits/shopLimitsSchema.ts';
import { nameplateSchema, polesFrom, HIGH_SLIP_PERCENT, type Nameplate } from '../machine/nameplate.ts';
import { formatNumber } from '../quantity/format.ts';
import { insulatedDiameterM } from '../wire/insulatedDiameter.ts';
import { wiresInHand } from '../wire/strands.ts';
import { connectionCandidates, possibleCircuits, readableCircuitLimit } from './connection.ts';
import { CONDUCTORS, enamelShare, temperatureFactor } from './copper.ts';
import { pitchFactor } from './factors.ts';
import { layoutOfRecord, ratingOf, windingFigures, type WindingFigures } from './figures.ts';
import { gcd } from './integers.ts';
import type { Layout } from './layout.ts';
import { windingRecordSchema, type WindingRecord } from './record.ts';

/** E blocks "verified", W is a warning, I is for information. */
export type Severity = 'E' | 'W' | 'I';

export interface Finding {
  check: string;
  severity: Severity;
  /** states both numbers and what would make them agree */
  message: string;
  fields: string[];
}

interface Context {
  record: WindingRecord;
  nameplate: Nameplate;
  layout: Layout | undefined;
  layoutProblem: string | undefined;
  figures: WindingFigures;
  limits: ShopLimits;
}

type Check = (c: Context) => Finding[] | Finding | undefined;

const E = (check: string, fields: string[], message: string): Finding => ({ check, severity: 'E', message, fields });
const W = (check: string, fields: string[], message: string): Finding => ({ check, severity: 'W', message, fields });
const I = (check: string, fields: string[], message: string): Finding => ({ check, severity: 'I', message, fields });
const f = (x: number, digits = 3) => formatNumber(x, digits);
const sum = (list: readonly number[]) => list.reduce((a, b) => a + b, 0);

function expectedCoils(record: WindingRecord): number | undefined {
  return record.slots === undefined || record.layers === undefined
    ? undefined
    : record.layers === 'double'
      ? record.slots
      : record.slots / 2;
}

/** The checks of an as-found three-phase record, one entry each; the list is the catalogue. */
export const RECORD_CHECKS: Readonly<Record<string, { title: string; run: Check }>> = {
  layout: {
    title: 'The winding can be laid in these slots',
    run: (c) => (c.layoutProblem ? E('layout', ['slots', 'poles', 'spansSlots'], c.layoutProblem) : undefined),
  },
  'coils-slots': {
    title: 'Coils against slots',
    run: ({ record }) => {
      const expected = expectedCoils(record);
      if (expected === undefined || record.coilCount === undefined || record.coilCount === expected) return undefined;
      const empty = record.layers === 'double' ? 2 * (expected - record.coilCount) : 2 * (expected - record.coilCount);
      return E(
        'coils-slots',
        ['coilCount', 'slots', 'layers'],
        `${record.coilCount} coils counted; ${record.slots} slots with ${record.layers === 'double' ? 'two coil sides' : 'one coil side'} in a slot hold ${expected}. ${
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
      if (!layout || record.groupCount === undefined || record.groupCount === layout.groups.length) return undefined;
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
    run: ({ record, layout }) => {
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
      const wanted = layout.groups.map((g) => g.coils.length);
      const same = (a: readonly number[]) =>
        a.some((_, shift) => a.every((n, i) => n === wanted[(i + shift) % wanted.length]));
      if (same(list) || same([...list].reverse())) return undefined;
      return W(
        'grouping',
        ['grouping'],
        `The sequence ${list.join('-')} is not the regular ${wanted.join('-')} nor a rotation or mirror image of it: the phases would not be equal.`,
      );
    },
  },
  feasible: {
    title: 'Three equal phases are possible',
    run: ({ record }) => {
      if (record.slots === undefined || record.poles === undefined) return undefined;
      const t = gcd(record.slots, record.poles / 2);
      if (record.slots % (3 * t) === 0) return undefined;
      return W(
        'feasible',
        ['slots', 'poles'],
        `${record.slots} slots cannot make three equal phases with ${record.poles} poles (slots must divide by ${3 * t}). Recount slots and poles.`,
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
      if (slip >= 0 && slip <= HIGH_SLIP_PERCENT) return undefined;
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
      record.poles !== undefined && nameplate.poles !== undefined && record.poles !== nameplate.poles
        ? W(
            'nameplate-poles',
            ['poles'],
            `${record.poles} poles in the winding, ${nameplate.poles} on the nameplate sheet.`,
          )
        : undefined,
  },
  span: {
    title: 'Coil span against pole pitch',
    run: ({ record, layout }) => {
      const spans = record.spansSlots;
      if (!spans || record.slots === undefined || record.poles === undefined) return undefined;
      const pitch = record.slots / record.poles;
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
          const say = [...new Set(wanted.map((w) => w.map((y) => `1-${y + 1}`).join(', ')))].join(' and ');
          out.push(
            W(
              'span',
              ['spansSlots'],
              `The spans ${spans.map((y) => `1-${y + 1}`).join(', ')} do not fill the belts of this core; ${say} would.`,
            ),
          );
        }
        return out;
      }
      if (single && record.form === 'concentric') return out;
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
      } else if (ratio < 0.6) {
        out.push(
          W(
            'span',
            ['spansSlots'],
            `Mean span ${f(mean)} slots is only ${f(100 * ratio)} % of the pole pitch ${f(pitch)} (k_p ${f(kp, 4)}); below 60 % is used only for two speeds.`,
          ),
        );
      } else if (ratio < 2 / 3 - 1e-9) {
        out.push(
          W(
            'span',
            ['spansSlots'],
            `Mean span ${f(mean)} slots is ${f(100 * ratio)} % of the pole pitch ${f(pitch)} (k_p ${f(kp, 4)}); 67 to 100 % is usual.`,
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
  circuits: {
    title: 'Circuits that work',
    run: ({ record, layout }) => {
      if (!layout || record.circuits === undefined) return undefined;
      const possible = possibleCircuits(layout);
      const hit = possible.find((p) => p.circuits === record.circuits);
      if (!hit) {
        return E(
          'circuits',
          ['circuits'],
          `${record.circuits} circuits would not be equal in this winding; ${possible.map((p) => p.circuits).join(', ')} would.`,
        );
      }
      return record.jumper && !hit.jumpers.includes(record.jumper)
        ? E(
            'circuits',
            ['circuits', 'jumper'],
            `${record.circuits} circuits work here only with ${hit.jumpers.join(' or ')} jumpers.`,
          )
        : undefined;
    },
  },
  'wires-ends': {
    title: 'Wire tips against ends and wires in hand',
    run: ({ record }) => {
      const { wireTipsPerLead: tips, endsPerLead: ends } = record;
      if (tips === undefined || ends === undefined || !record.strands) return undefined;
      const w = wiresInHand(record.strands);
      return tips === ends * w
        ? undefined
        : E(
            'wires-ends',
            ['wireTipsPerLead', 'endsPerLead', 'strands'],
            `${tips} wire tips at a lead, but ${ends} ends of ${w} wires in hand make ${ends * w}.${ends === tips ? ' Were wires counted instead of ends?' : ''}`,
          );
    },
  },
  'ends-connection': {
    title: 'Ends per lead against connection',
    run: ({ record, layout }) => {
      const e = record.endsPerLead;
      if (e === undefined || !layout || (record.leads ?? '3') !== '3') return undefined;
      const top = readableCircuitLimit(layout);
      const fits = connectionCandidates(e, top);
      const say = fits.map((x) => `${x.circuits}-circuit ${x.connection}`).join(' or ');
      if (fits.length === 0)
        return E(
          'ends-connection',
          ['endsPerLead'],
          `${e} ends at a lead fit no connection of this winding. Recount${record.strands && wiresInHand(record.strands) > 1 ? ': were wires counted instead of ends?' : '.'}`,
        );
      if (!record.connection || record.circuits === undefined)
        return I('ends-connection', ['endsPerLead'], `${e} ends at a lead mean ${say}.`);
      return fits.some((x) => x.connection === record.connection && x.circuits === record.circuits)
        ? undefined
        : E(
            'ends-connection',
            ['endsPerLead', 'connection', 'circuits'],
            `${e} ends at a lead do not make ${record.circuits}-circuit ${record.connection}; they make ${say}.`,
          );
    },
  },
  'star-points': {
    title: 'Star points inside',
    run: ({ record }) => {
      const { starPoints: stars, endsPerStar: ends, circuits: c, connection } = record;
      if (stars === undefined || !connection || c === undefined) return undefined;
      const leads = record.leads ?? '3';
      const inStars = stars === 0 ? 0 : ends === undefined ? undefined : stars * ends;
      const expected =
        leads === '3' && connection === 'wye'
          ? 3 * c
          : leads === '3' || leads === '6' || leads === '12'
            ? 0
            : undefined;
      if (expected === undefined || inStars === undefined || inStars === expected) return undefined;
      return E(
        'star-points',
        ['starPoints', 'endsPerStar'],
        `${inStars} ends lie in star points inside; ${c}-circuit ${connection} with ${leads} leads has ${expected}.`,
      );
    },
  },
  leads: {
    title: 'Leads against the voltages of the plate',
    run: ({ record, nameplate }) => {
      const v = nameplate.voltagesV;
      if (!record.leads || !v || v.length !== 2) return undefined;
      const ratio = Math.max(...v) / Math.min(...v);
      const expected =
        Math.abs(ratio - 2) < 0.06 ? ['9', '12'] : Math.abs(ratio - Math.sqrt(3)) < 0.08 ? ['6', '12'] : undefined;
      if (!expected || expected.includes(record.leads)) return undefined;
      return W(
        'leads',
        ['leads'],
        `${v.join('/')} V (1 : ${f(ratio)}) is made with ${expected.join(' or ')} leads; ${record.leads} were counted.`,
      );
    },
  },
  current: {
    title: 'Plate: output against voltage and current',
    run: ({ nameplate, record }) => {
      const { voltageV, currentA } = ratingOf(nameplate, record);
      if (nameplate.outputW === undefined || voltageV === undefined || currentA === undefined) return undefined;
      const product = nameplate.outputW / (Math.sqrt(3) * voltageV * currentA);
      if (product >= 0.35 && product <= 0.95) return undefined;
      return W(
        'current',
        ['connection'],
        `Output over volts and amperes gives efficiency × power factor = ${f(product)}; 0.35 to 0.95 is possible. ${product > 0.95 ? 'The current or voltage is too low, or the output too high (hp for kW?).' : 'The current or voltage is too high, or the output too low.'}`,
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
      if (J > high)
        return W(
          'density',
          ['strands', 'circuits'],
          `Current density ${say} is above ${high} A/mm²: count wires in hand, size and circuits again.`,
        );
      return J < low
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
    run: ({ figures }) => {
      const a = figures.linearLoadingAM;
      return a === undefined || (a >= 8000 && a <= 50000)
        ? undefined
        : W(
            'linear-loading',
            ['turns', 'circuits', 'boreM'],
            `Linear loading ${f(a / 1000)} kA/m; 8 to 50 is usual. Check turns, circuits and bore.`,
          );
    },
  },
  'slot-fill': {
    title: 'Slot fill',
    run: ({ figures, limits }) => {
      const fill = figures.insulatedSquareFill;
      if (fill === undefined) return undefined;
      const say = `Slot fill ${f(fill)} (insulated squares over net area, ${f(figures.wiresPerSlot ?? 0)} wires in a slot)`;
      if (fill > limit('winding.fillError', limits))
        return E(
          'slot-fill',
          ['turns', 'strands', 'slotNetAreaM2'],
          `${say} is above ${limit('winding.fillError', limits)}: it cannot be put in by hand. Check turns, wires in hand, size and slot area.`,
        );
      return fill > limit('winding.fillWarn', limits)
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
      return widest + 0.0003 <= room
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
    run: ({ figures, limits }) => {
      const out: Finding[] = [];
      const fields = ['turns', 'circuits', 'connection', 'coreLengthM', 'boreM'];
      const judge = (name: string, value: number | undefined, warn: number, error: number, more: string[]) => {
        if (value === undefined) return;
        const say = `${name} flux density ${f(value)} T (${f(value * 64.516)} kl/in²)`;
        const hint = 'Half the turns, or twice the circuits, would double it; wye read as delta changes it by √3.';
        if (value > error)
          out.push(
            E('flux-density', [...fields, ...more], `${say} is above ${error} T: the record cannot be right. ${hint}`),
          );
        else if (value > warn) out.push(W('flux-density', [...fields, ...more], `${say} is above ${warn} T. ${hint}`));
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
      if (figures.airGapT !== undefined && figures.airGapT < low) {
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
        if (share < 0.25 || share > 0.75)
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
        if (coefficient > 8 * 6 || coefficient < 1 / 8) {
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
      if (record.copperKg === undefined || figures.geometryBareMassKg === undefined || !record.strands)
        return undefined;
      const material = CONDUCTORS[record.material ?? 'copper'];
      const share =
        record.copperState === 'with enamel'
          ? enamelShare(record.strands, record.wireGrade === '1' ? 1 : 2, material.densityKgM3)
          : 0;
      const weighed = record.copperKg / (1 + share);
      const off = (100 * (weighed - figures.geometryBareMassKg)) / figures.geometryBareMassKg;
      const size = Math.abs(off);
      if (size <= limit('winding.copperAskPercent', limits)) return undefined;
      const turns = record.turns?.[0];
      const w = wiresInHand(record.strands);
      const hint =
        turns === undefined
          ? ''
          : ` ${f((turns * weighed) / figures.geometryBareMassKg)} turns of this wire, or ${f((w * weighed) / figures.geometryBareMassKg)} wires in hand, would agree.`;
      const say = `Weighed ${f(weighed)} kg bare, computed from coil geometry ${f(figures.geometryBareMassKg)} kg (${f(off)} %).${hint}`;
      const fields = ['copperKg', 'turns', 'strands'];
      return size > limit('winding.copperErrorPercent', limits)
        ? E('copper-mass', fields, say)
        : size > limit('winding.copperWarnPercent', limits)
          ? W('copper-mass', fields, say)
          : I('copper-mass', fields, say);
    },
  },
  resistance: {
    title: 'Resistance measured against computed',
    run: ({ figures, record }) => {
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
      if (Math.abs(off) <= 5) return undefined;
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
      return Math.abs(off) > 10 ? W('resistance', fields, say) : I('resistance', fields, say);
    },
  },
  'graded-turns': {
    title: 'Graded turns',
    run: ({ record, layout }) => {
      const t = record.turns;
      if (!t || t.length < 2 || record.form !== 'concentric' || !layout || t.length === layout.coils.length)
        return undefined;
      const wrong = t.findIndex((x, i) => i > 0 && x > (t[i - 1] ?? 0));
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
  'core-diameter': {
    title: 'Core outside against bore',
    run: ({ record }) => {
      const { coreOuterM: o, boreM: D } = record;
      if (o === undefined || D === undefined || (o >= 1.3 * D && o <= 2.2 * D)) return undefined;
      return W(
        'core-diameter',
        ['coreOuterM', 'boreM'],
        `Core outside ${f(o * 1000)} mm is ${f(o / D)} times the bore; 1.3 to 2.2 is usual.`,
      );
    },
  },
  'core-sum': {
    title: 'Bore, slot and back iron make the core',
    run: ({ record }) => {
      const { coreOuterM: o, boreM: D, slotDepthM: h, backIronM: c } = record;
      if (o === undefined || D === undefined || h === undefined || c === undefined) return undefined;
      const made = D + 2 * (h + c);
      return Math.abs(made - o) <= 0.05 * o
        ? undefined
        : W(
            'core-sum',
            ['coreOuterM', 'boreM', 'slotDepthM', 'backIronM'],
            `Bore + 2 × (slot depth + back iron) = ${f(made * 1000, 4)} mm, but the core outside is ${f(o * 1000, 4)} mm.`,
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
  'slot-combination': {
    title: 'Stator slots and rotor bars',
    run: ({ record }) => {
      const { slots: S1, rotorBars: S2, poles: P } = record;
      if (S1 === undefined || S2 === undefined || S2 === 0 || P === undefined) return undefined;
      const d = Math.abs(S1 - S2);
      const hit =
        d === 0 || S2 % (3 * P) === 0
          ? 'locking at standstill'
          : d === P || d === 2 * P || d === 5 * P
            ? 'synchronous cusps'
            : d === 3 * P
              ? 'cogging'
              : [1, 2, P - 1, P + 1, P - 2, P + 2].includes(d)
                ? 'radial forces: vibration and noise'
                : S2 > 1.25 * S1 && (record.skewSlots ?? 0) === 0
                  ? 'asynchronous crawling without skew'
                  : P === 2 && S2 % 2 === 1
                    ? 'odd bars with two poles'
                    : undefined;
      return hit === undefined
        ? undefined
        : I(
            'slot-combination',
            ['rotorBars'],
            `${S1} slots and ${S2} bars: handbooks warn of ${hit}. Recount the bars; an existing motor is not refused for it.`,
          );
    },
  },
};

export const checksInputSchema = z.strictObject({
  record: windingRecordSchema,
  nameplate: nameplateSchema,
  limits: shopLimitsSchema.default({}),
});

/** Runs every check on a record; what is missing is silent. */
export function checkRecord(record: WindingRecord, nameplate: Nameplate, limits: ShopLimits = {}): Finding[] {
  const laid = layoutOfRecord(record);
  const figures = windingFigures.compute(windingFigures.input.parse({ record, nameplate }));
  const complete = record.slots !== undefined && record.poles !== undefined && record.spansSlots !== undefined;
  const context: Context = {
    record,
    nameplate,
    limits,
    figures,
    layout: laid.layout,
    layoutProblem: laid.layout === undefined && complete ? laid.why : undefined,
  };
  const found = Object.values(RECORD_CHECKS).flatMap((check) => check.run(context) ?? []);
  const weight: Record<Severity, number> = { E: 0, W: 1, I: 2 };
  return found.sort((a, b) => weight[a.severity] - weight[b.severity]);
}

/** Fields without which a record cannot be verified. */
export const NEEDED_TO_VERIFY: readonly (keyof WindingRecord)[] = [
  'slots',
  'poles',
  'layers',
  'form',
  'spansSlots',
  'turns',
  'turnsSecondCount',
  'strands',
  'connection',
  'circuits',
  'leads',
  'boreM',
  'coreLengthM',
  'leadExit',
  'connectionSide',
];

/** Calculation `winding.checks`. */
export const windingChecks = defineCalculation({
  id: 'winding.checks',
  version: 1,
  title: 'Checks of an as-found winding record',
  sources: ['counting rules (derived)', 'ranges: common practice, the shop may set its own'],
  input: checksInputSchema,
  output: z.object({
    findings: z.array(
      z.object({
        check: z.string(),
        severity: z.enum(['E', 'W', 'I']),
        message: z.string(),
        fields: z.array(z.string()),
      }),
    ),
    missing: z.array(z.string()),
    verifiable: z.boolean(),
  }),
  example: {
    record: { slots: 36, poles: 4, layers: 'double', coilCount: 36, groupCount: 6, spansSlots: [9], form: 'lap' },
    nameplate: { speedRpm: 1455, frequencyHz: 50 },
  },
  compute: ({ record, nameplate, limits }) => {
    const findings = checkRecord(record, nameplate, limits);
    const missing = NEEDED_TO_VERIFY.filter((name) => record[name] === undefined);
    return {
      findings,
      missing: [...missing],
      verifiable: missing.length === 0 && findings.every((x) => x.severity !== 'E'),
    };
  },
});

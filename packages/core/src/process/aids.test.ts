import { describe, expect, it } from 'vitest';
import { METRIC_DEFAULTS, readForm, type Typed } from '../quantity/fields.ts';
import { processStrippedCopper } from './strippedCopper.ts';
import { aidsOf, askAid, type AidContext, type StepAid } from './aids.ts';
import { GUIDANCE } from './guidance.ts';
import { OPERATIONS, operation } from './operations.ts';

const record = processStrippedCopper.input.parse(processStrippedCopper.example).record;
const CONTEXT: AidContext = { record, nameplate: { frequencyHz: 50, massKg: 84 }, earlier: {}, limits: {} };
const ALL = [...OPERATIONS.keys()].flatMap((code) => aidsOf(code).map((aid) => [code, aid.id, aid] as const));
const aid = (code: string, id: string): StepAid => aidsOf(code).find((a) => a.id === id) as StepAid;
const ask = (code: string, id: string, typed: Typed, context: Partial<AidContext> = {}) => {
  const it = aid(code, id);
  const read = readForm(it.fields, typed, METRIC_DEFAULTS);
  expect(read.problems).toEqual([]);
  return askAid(it, read.values, { ...CONTEXT, ...context });
};
const line = (answer: ReturnType<typeof askAid>, label: string) => answer.result?.lines.find(([l]) => l === label)?.[1];

const CORE = {
  outer: '600',
  bore: '400',
  slot: '55',
  length: '450',
  ducts: '2',
  duct: '10',
  stacking: '0.95',
  frequency: '50',
};
const TYPED: Record<string, Typed> = {
  'core-set-up': { ...CORE, supply: '120, 230' },
  'core-loss': { ...CORE, turns: '22', volts: '120', watts: '640', bySearch: 'no', hotSpot: '6' },
  copper: { stripped: '4', cutOff: '0.8' },
  viscosity: { cup: '38', resin: '18', from: '28', to: '32', bath: '40', solids: '50', wanted: '45' },
  'pick-up': { before: '118.4', drained: '120.9', cured: '119.5', solids: '45' },
  'resin-to-hold': {
    tank: '1200',
    stand: '80',
    part: '900',
    cover: '100',
    steel: '1450',
    copper: '260',
    stored: '900',
    storage: '2000',
  },
  capacitance: { series: '0 41.2; 5 42,1; 10 43.95\n15 45.3' },
  trickle: {
    slots: '24',
    core: '90',
    slot: '92',
    wires: '46',
    wire: '0.96',
    linerWidth: '40',
    liner: '0.25',
    other: '9',
    ends: '420',
    endDiameter: '105',
    endWire: '60',
  },
  'dry-out': { minutes: '0, 60, 90, 120', megohm: '48, 50, 51, 52', part: '105, 105, 105, 105' },
  'bonded-wire': { cold: '0.5', at: '22', now: '0.79', wire: '0.8', amps: '60', volts: '36' },
};

describe('aids at the steps', () => {
  it('there is one for the core, the scale, the bath, the vessel, the trickle stand and bonding', () =>
    expect([...new Set(ALL.map(([, id]) => id))].sort()).toEqual(Object.keys(TYPED).sort()));
  it.each(ALL)('%s, %s: says nothing while too little is typed, and something when it is', (code, id, it) => {
    expect(askAid(it, {}, CONTEXT)).toEqual({ result: undefined });
    const answer = ask(code, id, TYPED[id] ?? {});
    expect(answer.problem).toBeUndefined();
    expect(JSON.stringify(answer.result)).not.toMatch(/NaN|undefined|null/);
    expect(answer.result?.lines.length).toBeGreaterThan(0);
  });
  it.each(ALL)('%s, %s: what it fills in is read by the step’s own fields', (code, id) => {
    const fills = ask(code, id, TYPED[id] ?? {}).result?.fills ?? {};
    const { fields } = operation(code);
    const own = Object.fromEntries(Object.entries(fills).filter(([name]) => fields.some((f) => f.name === name)));
    expect(readForm(fields, own, METRIC_DEFAULTS).problems).toEqual([]);
  });
  it.each(ALL)('%s, %s: what the motor’s records say is read by its fields', (_, __, it) => {
    const earlier = { CT1: { loss: 3, flux: 1.3 }, CUT: { copper: 0.7 }, DRN: { wet: 120.9 } };
    for (const context of [CONTEXT, { ...CONTEXT, earlier }, { ...CONTEXT, record: undefined, nameplate: {} }])
      expect(readForm(it.fields, it.start(context), METRIC_DEFAULTS).problems).toEqual([]);
  });
});

describe('what they say', () => {
  it('core set-up: the worked example, its turns into the record', () => {
    const set = ask('CT1', 'core-set-up', TYPED['core-set-up'] ?? {});
    expect(line(set, 'Voltage of a turn')).toBe('5.377 V');
    expect(line(set, '120 V')).toMatch(/^22 turns, 1\.337 T \(\+1\.4 %\), 31\.7 A, 10 mm²$/);
    expect(set.result?.fills).toEqual({ loopTurns: '22' });
    expect(ask('CT1', 'core-set-up', { ...CORE, supply: '8' }).result?.fills).toBeUndefined();
    expect(line(ask('CT1', 'core-set-up', { ...CORE, supply: '8' }), '8 V')).toMatch(/too far from the target$/);
  });
  it('core loss: on the test before heat where there was one', () => {
    const typed = TYPED['core-loss'] ?? {};
    const first = ask('CT1', 'core-loss', typed);
    expect(line(first, 'Loss')).toBe('2.577 W/kg of 248.4 kg');
    expect(line(first, 'On the test before heat')).toBeUndefined();
    const again = ask('CT2', 'core-loss', typed, { earlier: { CT1: { loss: 2, flux: 1.3366 } } });
    expect(line(again, 'On the test before heat')).toMatch(/^28\.\d %$/);
    expect(again.result?.verdict).toBe('fail');
    expect(ask('CT2', 'core-loss', typed, { earlier: { CT1: { loss: 0, flux: 1.3 } } }).result?.verdict).toBe('pass');
    expect(line(ask('CT1', 'core-loss', { ...typed, volts: '150' }), 'At the target')).toBeUndefined();
  });
  it('copper: both ends together, suspects named; without a record it cannot judge', () => {
    const copper = ask('STR', 'copper', TYPED['copper'] ?? {});
    expect(copper.result?.fills).toEqual({ copper: '4.8 kg' });
    expect(copper.result?.verdict).toBe('fail');
    const near = Number.parseFloat(line(copper, 'By the record') ?? '') * 1.09;
    expect(ask('STR', 'copper', { stripped: near.toFixed(3) }).result?.lines.map(([l]) => l)).toContain(
      'Would fit: turns 12 instead of 11',
    );
    const bare = ask('STR', 'copper', { stripped: '4', state: 'with enamel' });
    expect(Number.parseFloat(line(bare, 'Weighed, bare') ?? '')).toBeLessThan(4);
    expect(ask('STR', 'copper', { stripped: '4' }, { record: undefined }).result?.verdict).toBe('cannot judge');
  });
  it('viscosity: 29.74 s, inside its band, 4.444 kg of thinner', () => {
    const dip = ask('IMPD', 'viscosity', TYPED['viscosity'] ?? {});
    expect(line(dip, 'Flow cup at 25 °C')).toBe('29.74 s');
    expect(line(dip, 'Thinner to add')).toBe('4.444 kg');
    expect(dip.result?.verdict).toBe('pass');
    expect(ask('IMPD', 'viscosity', { cup: '50', resin: '25', from: '28', to: '32' }).result?.verdict).toBe(
      'attention',
    );
    expect(ask('IMPD', 'viscosity', { cup: '50', resin: '25' }).result?.verdict).toBeUndefined();
  });
  it('pick-up, resin to hold, trickle: the check values', () => {
    expect(line(ask('DRN', 'pick-up', TYPED['pick-up'] ?? {}), 'Stayed of the wet')).toBe('44 %');
    const held = ask('IMPV', 'resin-to-hold', TYPED['resin-to-hold'] ?? {});
    expect(line(held, 'Resin')).toBe('1003 l');
    expect(held.result?.verdict).toBe('attention');
    expect(line(ask('IMPT', 'trickle', TYPED['trickle'] ?? {}), 'Together')).toBe('179.2 g');
  });
  it('capacitance: pairs in lines or by semicolons, a decimal comma; a pair that is none is named', () => {
    expect(line(ask('IMPV', 'capacitance', TYPED['capacitance'] ?? {}), 'Risen by')).toBe('6.67 %');
    expect(ask('IMPV', 'capacitance', TYPED['capacitance'] ?? {}).result?.verdict).toBe('cannot judge');
    expect(ask('IMPV', 'capacitance', { series: '0 41; 5' }).result?.reason).toMatch(/^Reading 2 is not/);
    expect(ask('IMPV', 'capacitance', { series: '5 41; 3 42' }).problem?.field).toBe('samples.1.min');
    const flat = [...Array(20).keys()].map((i) => `${5 * i} ${i < 2 ? 40 : 44}`).join('; ');
    expect(ask('IMPV', 'capacitance', { series: flat })).toMatchObject({
      result: { verdict: 'pass', fills: { end: 'capacitance plateau' } },
    });
    expect(ask('IMPV', 'capacitance', { series: flat, hold: '300' }).result?.verdict).toBe('cannot judge');
  });
  it('bonding: where to stop before, what it came to after', () => {
    const before = ask('IMPB', 'bonded-wire', { cold: '0.5', at: '22' });
    expect(before.result?.fills).toBeUndefined();
    expect(line(before, 'Stop between')).toMatch(/best at 0\.8275 Ω$/);
    const after = ask('IMPB', 'bonded-wire', TYPED['bonded-wire'] ?? {});
    expect(line(after, 'It came to')).toBe('170.8 °C');
    expect(after.result?.fills).toMatchObject({ r0: '0.5 Ω', t0: '22 °C', r: '0.79 Ω' });
    const more = { ...TYPED['bonded-wire'], leads: '0.02', from: '165', to: '190', material: 'aluminium' };
    const filled = { lead: '0.02 Ω', from: '165 °C', to: '190 °C', material: 'aluminium' };
    expect(ask('IMPB', 'bonded-wire', more).result?.fills).toMatchObject(filled);
  });
  it('what a calculation cannot take comes as a sentence with its field', () =>
    expect(ask('IMPT', 'trickle', { ...TYPED['trickle'], wires: '400' }).problem).toEqual({
      field: 'slotAreaM2',
      message: expect.stringMatching(/no room for resin/) as string,
    }));
});

describe('guidance', () => {
  it('every operation says why, what a good one looks like and what usually goes wrong, in whole sentences', () => {
    for (const { code, what } of OPERATIONS.values()) {
      const text = GUIDANCE[code];
      for (const sentence of [what, text.why, text.good, text.mistake]) {
        expect(sentence, code).toMatch(/^["“A-Z].{19,}[.!]$/);
        expect(sentence, code).not.toMatch(/^(Optional|Count and position)\.$/);
      }
    }
  });
  it('no two operations share a sentence', () => {
    const all = Object.values(GUIDANCE).flatMap((g) => [g.why, g.good, g.mistake]);
    expect(new Set(all).size).toBe(all.length);
  });
});

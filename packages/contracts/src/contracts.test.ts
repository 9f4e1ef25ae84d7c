import { describe, expect, it } from 'vitest';
import {
  BALANCE_FIELDS,
  changePersonBody,
  dayInZone,
  formatInTimeZone,
  intakeSchema,
  may,
  newJobBody,
  newPersonBody,
  reasonBody,
  ROLES,
  setPinBody,
  shopSettingsSchema,
  startStepBody,
  typedSchema,
} from './index.ts';

const job = {
  customerName: 'Graholm Quarry',
  what: 'Crusher motor',
  nameplate: {},
  intake: { came: 'whole motor' },
  route: 'ac_random_rewind',
  impregnation: 'dip',
  priority: 'ordinary',
};
const firstProblem = (r: { success: boolean; error?: { issues: { path: PropertyKey[]; message: string }[] } }) =>
  r.success ? undefined : `${r.error?.issues[0]?.path.join('.')}: ${r.error?.issues[0]?.message}`;

describe('roles', () => {
  it('each may do what the ones before it may, and no more', () => {
    for (const [i, role] of ROLES.entries())
      for (const [k, needed] of ROLES.entries()) expect(may(role, needed)).toBe(i >= k);
  });
});

describe('bodies of a request', () => {
  it('a motor is taken in with little; the rest has sound defaults', () => {
    const read = newJobBody.parse(job);
    expect(read.intake).toMatchObject({ quantity: 1, fitted: [], complaint: '' });
  });
  it.each([
    [{ ...job, customerName: '  ' }, 'customerName: Name the customer.'],
    [{ ...job, what: '' }, 'what: Say what it is'],
    [{ ...job, promised: '30.11.2026' }, 'promised: Type the date as year-month-day'],
    [{ ...job, route: 'something' }, 'route: '],
    [{ ...job, intake: { came: 'whole motor', quantity: 0 } }, 'intake.quantity: '],
    [{ ...job, intake: { came: 'half a motor' } }, 'intake.came: '],
    [{ ...job, extra: 1 }, ': '],
  ])('refuses %#', (body, why) => {
    expect(firstProblem(newJobBody.safeParse(body))).toContain(why);
  });
  it('trims words and keeps them within bounds', () => {
    expect(intakeSchema.parse({ came: 'stator only', complaint: ' hums ' }).complaint).toBe('hums');
    expect(intakeSchema.safeParse({ came: 'stator only', complaint: 'x'.repeat(2001) }).success).toBe(false);
  });
  it('typed fields: at most 200, each at most 4000 signs', () => {
    const many = (n: number) => Object.fromEntries(Array.from({ length: n }, (_, i) => [`f${i}`, '1']));
    expect(typedSchema.safeParse(many(200)).success).toBe(true);
    expect(firstProblem(typedSchema.safeParse(many(201)))).toContain('At most 200 fields');
    expect(typedSchema.safeParse({ a: 'x'.repeat(4001) }).success).toBe(false);
    expect(typedSchema.safeParse({ a: 5 }).success).toBe(false);
  });
  it('a hold is passed and a step reopened only with a reason', () => {
    expect(firstProblem(startStepBody.safeParse({ override: { reason: ' x ' } }))).toContain(
      'Say why the hold is passed.',
    );
    expect(startStepBody.safeParse({}).success).toBe(true);
    expect(firstProblem(reasonBody.safeParse({ reason: '' }))).toContain('A reason is needed.');
  });
});

describe('people', () => {
  const person = { name: 'Aud Lien', signIn: 'Aud.Lien ', role: 'winder', password: 'long enough' };
  it('sign-in names are kept in small letters', () => {
    expect(newPersonBody.parse(person).signIn).toBe('aud.lien');
  });
  it.each([
    [{ ...person, signIn: 'a b' }, 'Use 2 to 40 small letters'],
    [{ ...person, password: 'short' }, 'at least 8 characters'],
    [{ ...person, role: 'owner' }, 'role'],
  ])('refuses %#', (body, why) => {
    expect(firstProblem(newPersonBody.safeParse(body))).toContain(why);
  });
  it('a PIN is 4 to 8 digits, a change may leave the password', () => {
    for (const pin of ['1234', '12345678']) expect(setPinBody.safeParse({ pin }).success).toBe(true);
    for (const pin of ['123', '123456789', '12a4']) expect(setPinBody.safeParse({ pin }).success).toBe(false);
    expect(changePersonBody.safeParse({ version: 1, name: 'A', role: 'tester', active: true }).success).toBe(true);
  });
});

describe('the shop', () => {
  it('has defaults for everything but its name', () => {
    const shop = shopSettingsSchema.parse({ name: 'Shop' });
    expect(shop.units).toEqual({
      lengthUnit: 'mm',
      temperatureUnit: '°C',
      massUnit: 'kg',
      powerUnit: 'kW',
      wireSystem: 'metric',
    });
    expect(shop.label).toEqual({ widthMm: 100, heightMm: 60 });
    expect(shop.leaveOut).toEqual({});
  });
  it.each([
    [{ name: 'S', timeZone: 'Moon/Crater' }, 'This is not a time zone'],
    [{ name: 'S', label: { widthMm: 5, heightMm: 60 } }, 'label.widthMm'],
    [{ name: 'S', leaveOut: { ac_random_rewind: ['PVT'] } }, 'stays in every route'],
    [{ name: 'S', leaveOut: { ac_random_rewind: ['BRN'] } }, 'Burn-off and slow cooling go together'],
    [{ name: 'S', leaveOut: { ac_random_rewind: ['CT1'] } }, 'core test'],
    [{ name: 'S', leaveOut: { ac_random_rewind: ['XYZ'] } }, 'There is no operation XYZ'],
    [{ name: 'S', leaveOut: { dc: [] } }, 'leaveOut'],
  ])('refuses %#', (settings, why) => {
    expect(firstProblem(shopSettingsSchema.safeParse(settings))).toContain(why);
  });
});

describe('times', () => {
  const at = '2026-03-29T00:30:00Z';
  it.each([
    ['UTC', 'yyyy-MM-dd', '2026-03-29 00:30'],
    ['Europe/Oslo', 'dd.MM.yyyy', '29.03.2026 01:30'],
    ['America/New_York', 'MM/dd/yyyy', '03/28/2026 20:30'],
    ['Pacific/Auckland', 'dd/MM/yyyy', '29/03/2026 13:30'],
  ])('in %s as %s', (zone, order, text) => {
    expect(formatInTimeZone(at, zone, order, 'with time')).toBe(text);
    expect(formatInTimeZone(at, zone, order, 'day')).toBe(text.slice(0, 10));
  });
  it('a day begins at midnight of the shop, not of the world', () => {
    const at = new Date('2026-12-31T22:59:59Z');
    expect(dayInZone(at, 'Europe/Oslo')).toBe('2026-12-31');
    expect(dayInZone(new Date(at.getTime() + 1000), 'Europe/Oslo')).toBe('2027-01-01');
    expect(dayInZone(at, 'Pacific/Auckland')).toBe('2027-01-01');
    expect(dayInZone(at, 'America/Los_Angeles')).toBe('2026-12-31');
  });
  it('summer time begins between two readings an hour apart', () => {
    expect(formatInTimeZone('2026-03-29T01:30:00Z', 'Europe/Oslo', 'yyyy-MM-dd', 'with time')).toBe('2026-03-29 03:30');
    expect(formatInTimeZone('2026-03-29T01:30:07Z', 'Europe/Oslo', 'yyyy-MM-dd', 'clock with seconds')).toBe(
      '03:30:07',
    );
  });
});

describe('balance fields', () => {
  it('have names of their own', () => {
    const names = BALANCE_FIELDS.map((f) => f.name);
    expect(new Set(names).size).toBe(names.length);
  });
});

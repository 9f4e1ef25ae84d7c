import type { INestApplicationContext } from '@nestjs/common';
import { balanceEntryBody } from '@norther/contracts';
import { standReadings, vectorOf, type Heavy } from '@norther/core';
import { Balances } from '../balance/balances.ts';
import { nowMs } from '../clock/clock.ts';
import type { Act } from '../database/writes.ts';
import { demoNumber } from './demoNumbers.ts';

const MIN = 60_000;
/** The whey separator's rotor stands on the stand, both trials done; the winch's was refused for its shaft. */
const ON_STAND = 21;
const BENT = 13;

const SET_UP = {
  kind: 'cage rotor', mass: '34', service: '1458', balancing: '900', grade: '2.5', bearingA: '0', bearingB: '430', centre: '212',
  x1: '96', radius1: '68', way1: 'add', places1: '14', first1: '0', taken1: '6',
  x2: '334', radius2: '68', way2: 'add', places2: '14', first2: '0',
  stand: 'Belt stand', drive: 'belt', readings: 'vibration', phase: 'lead', view: 'drive end', unit: 'mm/s', stock: '1 g, 2 g, 3 g, 5 g, 8 g, 12 g',
  key: 'half', keyWidth: '12', keyHeight: '8', keyLength: '70', keyRadius: '19',
  seatTir: '0.006', shaftEndTir: '0.02', shaft: '42', coreTir: '0.03', airGap: '0.45',
};

/** Rotors of the demo on the stand. */
export async function addDemoBalance(app: INestApplicationContext, act: (who: string, at: number) => Act): Promise<void> {
  const balances = app.get(Balances);
  const number = demoNumber(ON_STAND);
  let at = nowMs() - 55 * MIN;
  const { id } = await balances.begin(act('winder', at), number, { typed: SET_UP });
  const rotor = { massKg: 34, inertiaKgM2: 0.52, bearingAMm: 0, bearingBMm: 430, centreMm: 212, stiffness: [260000, 240000] as const, damping: [80, 80] as const };
  const heavy: Heavy[] = [
    { gMm: 1720, angleDeg: 128, xMm: 96 },
    { gMm: 980, angleDeg: 287, xMm: 334 },
  ];
  const read = (extra: Heavy[] = []) =>
    standReadings(rotor, 900, [...heavy, ...extra]).map(vectorOf).map((v) => ({ size: Number(v.size.toFixed(3)), angleDeg: Number(v.angleDeg.toFixed(1)) }));
  const enter = async (entry: object) => {
    at += 8 * MIN;
    await balances.enter(act('winder', at), number, id, balanceEntryBody.parse({ entry }));
  };
  await enter({ kind: 'run', readings: read(), rpm: 901 });
  await enter({ kind: 'trial', plane: 1, gMm: 816, angleDeg: 0, readings: read([{ gMm: 816, angleDeg: 0, xMm: 96 }]), rpm: 899 });
  await enter({ kind: 'trial', plane: 2, gMm: 816, angleDeg: 90, readings: read([{ gMm: 816, angleDeg: 90, xMm: 334 }]), rpm: 900 });
  await balances.begin(act('winder', nowMs() - 170 * MIN), demoNumber(BENT), { typed: { ...SET_UP, mass: '21', seatTir: '0.031', shaftEndTir: '0.11' } });
}

import type { INestApplicationContext } from '@nestjs/common';
import { balanceEntryBody } from '@norther/contracts';
import { balanceNow, massesAlong, seeded, simulatedRun, spinOrder, vectorOf } from '@norther/core';
import { BalanceRepository } from '../balance/balanceRepository.ts';
import { Balances } from '../balance/balances.ts';
import { Families } from '../balance/families.ts';
import { nowMs } from '../clock/clock.ts';
import { Database } from '../database/database.ts';
import type { Act } from '../database/writes.ts';
import { ReadJob } from '../job/readJob.ts';
import { demoNumber } from './demoNumbers.ts';

const MIN = 60_000;
/** The whey separator's rotor is in the middle of its balance; the winch's was refused for its shaft. */
const ON_STAND = 21;
const BENT = 13;
const FAN = 28;
const ARMATURE = 29;

const SET_UP = {
  kind: 'cage rotor', mass: '34', service: '1458', balancing: '900', grade: '2.5', bearingA: '0', bearingB: '430', centre: '212',
  x1: '96', radius1: '68', way1: 'add', places1: '14', called1: 'pin', first1: '0', taken1: '6',
  x2: '334', radius2: '68', way2: 'add', places2: '14', called2: 'pin', first2: '0',
  stand: 'Belt stand', drive: 'belt', readings: 'vibration', phase: 'lead', driveEnd: 'A', view: 'drive end', unit: 'mm/s', stock: '1 g, 2 g, 3 g, 5 g, 8 g, 12 g',
  key: 'half', keyWidth: '12', keyHeight: '8', keyLength: '70', keyRadius: '19',
  seatTir: '0.006', shaftEndTir: '0.02', shaft: '42', coreTir: '0.03', airGap: '0.45',
};
/** A wheel that hangs over: its centre of mass and its only plane lie beyond bearing A. */
const FAN_SET_UP = {
  kind: 'fan', mass: '24', service: '1440', balancing: '720', grade: '6.3', bearingA: '120', bearingB: '470', centre: '40', body: '62',
  x1: '35', radius1: '210', way1: 'add', places1: '11', called1: 'blade', first1: '0', taken1: '',
  stand: 'Belt stand', drive: 'belt', readings: 'vibration', phase: 'lead', driveEnd: 'B', view: 'other end', unit: 'mm/s', stock: '2 g, 4 g, 7 g, 11 g, 16 g, 25 g',
  key: 'none', seatTir: '0.008', shaftEndTir: '0.015', shaft: '38',
};
/** Milled on the tooth tops, never at the slot that holds the banding knot. */
const ARMATURE_SET_UP = {
  kind: 'armature', mass: '1.9', service: '14200', balancing: '1800', grade: '6.3', bearingA: '0', bearingB: '168', centre: '88',
  x1: '62', radius1: '27', way1: 'mill tooth tops', places1: '19', called1: 'tooth', first1: '0', taken1: '11', tool1: '2.2', depth1: '1.4', length1: '26',
  x2: '112', radius2: '27', way2: 'mill tooth tops', places2: '19', called2: 'tooth', first2: '0', taken2: '11', tool2: '2.2', depth2: '1.4', length2: '26',
  stand: 'Belt stand', drive: 'belt', readings: 'unbalance per plane', unbalanceUnit: 'g·mm', driveEnd: 'A', view: 'drive end',
  key: 'none', seatTir: '0.004', commutatorTir: '0.02',
};

/** Rotors of the demo on the stand. */
export async function addDemoBalance(app: INestApplicationContext, act: (who: string, at: number) => Act): Promise<void> {
  const on = await begin(app, act, ON_STAND, SET_UP, 55);
  await on.enter({ kind: 'run' });
  await on.enter({ kind: 'trial', plane: 1, gMm: 816, angleDeg: 0 });
  await on.enter({ kind: 'trial', plane: 2, gMm: 816, angleDeg: 90 });

  await app.get(Balances).begin(act('winder', nowMs() - 170 * MIN), demoNumber(BENT), { typed: { ...SET_UP, mass: '21', seatTir: '0.031', shaftEndTir: '0.11' } });

  const fan = await begin(app, act, FAN, FAN_SET_UP, 200);
  await fan.enter({ kind: 'run' });
  await fan.enter({ kind: 'trial', plane: 1, gMm: 1470, angleDeg: 0 });
  await fan.correct();
  await fan.enter({ kind: 'run' });
  await app.get(Families).keep(act('winder', nowMs() - 140 * MIN), { name: 'Fan wheel, eleven blades, 24 kg', job: fan.number, session: fan.id });

  const armature = await begin(app, act, ARMATURE, ARMATURE_SET_UP, 90);
  await armature.enter({ kind: 'run' });
  await armature.correct();
  await armature.enter({ kind: 'run' });
}

/** A balance of the demo, as the simulated stand would have read it. */
async function begin(app: INestApplicationContext, act: (who: string, at: number) => Act, nth: number, typed: Record<string, string>, minAgo: number) {
  const balances = app.get(Balances);
  const number = demoNumber(nth);
  let at = nowMs() - minAgo * MIN;
  const { id } = await balances.begin(act('winder', at), number, { typed });
  const random = seeded(nth);
  const session = async () => {
    const row = await app.get(ReadJob).row(number, app.get(Database).tables);
    const found = await app.get(BalanceRepository).one(app.get(Database).tables, row, id);
    if (!found) throw new Error('no such balance');
    return { ...found.session, entries: found.entries.map((e) => e.entry) };
  };
  const put = async (entry: object) => {
    at += 8 * MIN;
    await balances.enter(act('winder', at), number, id, balanceEntryBody.parse({ entry }));
  };
  return {
    number,
    id,
    enter: async (entry: { kind: 'run' } | { kind: 'trial'; plane: number; gMm: number; angleDeg: number }) => {
      const { setUp, part, entries } = await session();
      const xOf = (plane: number) => setUp.planes[plane - 1]?.xMm ?? 0;
      const masses = [
        ...massesAlong(setUp, entries),
        ...(entry.kind === 'trial' ? [{ xMm: xOf(entry.plane), gMm: entry.gMm, angleDeg: entry.angleDeg }] : []),
      ];
      const run = simulatedRun(spinOrder(setUp, { job: number, rotor: `${number} ${part}`, masses }), undefined, random, { gain: 0.004, phaseDeg: 0.4, mmS: 0.004 });
      const readings = run.map(vectorOf).map((v) => ({ size: Number(v.size.toPrecision(4)), angleDeg: Number(v.angleDeg.toFixed(1)) }));
      await put({ ...entry, readings, rpm: setUp.balancingRpm });
    },
    correct: async () => {
      const { setUp, entries, limits } = await session();
      const is = balanceNow(setUp, entries, limits);
      await put({
        kind: 'correction',
        masses: (is.next ?? []).flatMap((n) => {
          const p = setUp.planes[n.plane - 1];
          return n.masses.map((m) => ({
            plane: n.plane, angleDeg: m.angleDeg, massG: (p?.way === 'add' ? 1 : -1) * Number(m.massG.toFixed(3)), radiusMm: p?.radiusMm ?? 1,
            how: m.depthMm === undefined ? (p?.way ?? '') : `${p?.way ?? ''}, ${Number(m.depthMm.toFixed(3))} mm deep`,
            ...(m.place === undefined ? {} : { place: m.place }),
          }));
        }),
      });
    },
  };
}

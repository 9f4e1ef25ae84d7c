import { chamberBody, loadPartBody, newLoadBody, ovenReadingBody, vesselBody } from '@norther/contracts';
import type { INestApplicationContext } from '@nestjs/common';
import type { Act } from '../database/writes.ts';
import { nowMs } from '../clock/clock.ts';
import { LoadNotes } from '../oven/loadNotes.ts';
import { Loads } from '../oven/loads.ts';
import { PartsOut } from '../oven/partsOut.ts';
import { Stock } from '../stock/stock.ts';
import { Tanks } from '../tank/tanks.ts';
import { VesselSetUps } from '../vessel/vesselSetUps.ts';
import { Steps } from '../process/steps.ts';
import { Ovens } from '../oven/ovens.ts';
import { demoNumber } from './demoNumbers.ts';
import { lastWorking } from './shopHours.ts';

const MIN = 60_000;
const HOUR = 60 * MIN;

/** Chambers of the invented shop. */
const CHAMBERS = [
  { name: 'Bake oven 1', uses: ['bake', 'dry'], door: ['1300', '1150'], mostMass: '1400', highest: '200' },
  { name: 'Bake oven 2', uses: ['bake', 'dry'], door: ['700', '650'], mostMass: '180', highest: '180' },
  { name: 'Burn-off oven', uses: ['burn-off'], door: ['1200', '1050'], mostMass: '1600', highest: '420' },
] as const;

/** Parts of the demo that stand in an oven, by the number of their motor. */
export const IN_BAKE = [5, 23] as const;
export const IN_BURN = 24;
export const IN_VESSEL = 27;
const UNDER_CURED = 25;

/** The dip tank of the invented shop: filled, tested every fortnight, thickening as resin does, topped up once. */
export async function addDemoTank(app: INestApplicationContext, act: (key: string, at: number) => Act): Promise<void> {
  const tanks = app.get(Tanks);
  const DAY = 24 * HOUR;
  const { id } = await tanks.add(act('foreman', nowMs() - 80 * DAY), {
    typed: {
      name: 'Dip tank',
      resin: 'Polyester dip resin',
      unit: 's',
      reference: '25',
      least: '22',
      most: '42',
      perK: '0.035',
      coldest: '16',
      warmest: '30',
      everyDays: '14',
    },
  });
  const lots = (await app.get(Stock).list()).filter((l) => l.what.kind === 'material' && l.what.name === 'Polyester dip resin');
  const [first, second] = lots;
  if (!first || !second) return;
  const fill = (at: number, lotId: string, quantity: number, leftKg?: number) =>
    tanks.fill(act('winder', at), id, { lots: [{ lotId, quantity }], ...(leftKg === undefined ? {} : { leftKg }) });
  await fill(lastWorking(nowMs() - 59 * DAY), first.id, 60);
  for (const [daysAgo, viscosity, temperature] of [
    [58, '31', '21'],
    [44, '31.8', '22'],
    [30, '34.1', '21'],
    [17, '33.4', '23'],
  ] as const)
    await tanks.test(act('winder', lastWorking(nowMs() - daysAgo * DAY)), id, { viscosity, temperature, clean: 'yes', level: '640' });
  await fill(lastWorking(nowMs() - 16 * DAY), second.id, 25, 41);
  await tanks.test(act('winder', lastWorking(nowMs() - 4 * DAY)), id, {
    viscosity: '32.6',
    temperature: '22',
    clean: 'yes',
    disc: 'yes',
    level: '690',
    gel: '18 min',
  });
}

/** The store of the vacuum-pressure resin, and the vessel. */
export async function addDemoVessel(app: INestApplicationContext, act: (key: string, at: number) => Act): Promise<void> {
  const tanks = app.get(Tanks);
  const DAY = 24 * HOUR;
  const { id } = await tanks.add(act('foreman', nowMs() - 70 * DAY), {
    typed: {
      name: 'Epoxy store',
      resin: 'Epoxy for vacuum-pressure',
      unit: 'mPa·s',
      reference: '25',
      most: '1200',
      coldest: '18',
      warmest: '30',
      everyDays: '30',
    },
  });
  const lot = (await app.get(Stock).list()).find((l) => l.lot === 'R-26-17');
  if (!lot) return;
  await tanks.fill(act('winder', lastWorking(nowMs() - 50 * DAY)), id, { lots: [{ lotId: lot.id, quantity: 820 }] });
  for (const [daysAgo, viscosity] of [
    [49, '705'],
    [30, '722'],
    [9, '741'],
  ] as const)
    await tanks.test(act('winder', lastWorking(nowMs() - daysAgo * DAY)), id, { viscosity, temperature: '24', clean: 'yes', disc: 'yes' });
  await app.get(VesselSetUps).add(
    act('foreman', nowMs() - 60 * DAY),
    vesselBody.parse({
      typed: {
        name: 'Vessel 1',
        diameter: '1200',
        depth: '1500',
        stand: '80',
        cover: '60',
        vacuum: '5 mbar',
        vacuumHold: '30 min',
        soak: '15 min',
        pressure: '4 bar',
        holdLeast: '60 min',
        holdMost: '240 min',
        transfer: '0.5 bar',
        partCold: '40',
        partWarm: '60',
        resinCold: '18',
        resinWarm: '30',
        monomer: '2 mbar',
        reliefDue: new Date(nowMs() + 160 * DAY).toISOString().slice(0, 10),
      },
      tankId: id,
    }),
  );
}

/** Chambers, and a load of yesterday that left too early and was found out. Its temperatures were read by hand. */
export async function addDemoOvens(app: INestApplicationContext, act: (key: string, at: number) => Act): Promise<void> {
  const ovens = app.get(Ovens);
  const loads = app.get(Loads);
  const ids = new Map<string, string>();
  for (const c of CHAMBERS)
    ids.set(
      c.name,
      (
        await ovens.addChamber(
          act('foreman', nowMs() - 90 * 24 * HOUR),
          chamberBody.parse({
            typed: { name: c.name, doorWidth: c.door[0], doorHeight: c.door[1], mostMass: c.mostMass, highest: c.highest },
            uses: c.uses,
          }),
        )
      ).id,
    );
  // out at the end of a working day, before the cure was done
  const out = lastWorking(nowMs() - 3 * HOUR);
  const begun = out - 4 * HOUR;
  const load = await loads.begin(
    act('winder', begun),
    newLoadBody.parse({
      chamberId: ids.get('Bake oven 2'),
      use: 'bake',
      resin: 'Polyester dip resin',
      typed: { setPoint: '152' },
    }),
  );
  const { part } = await loads.putIn(
    act('winder', begun + MIN),
    load.id,
    loadPartBody.parse({ job: demoNumber(UNDER_CURED), typed: { mass: '19', width: '260', height: '240' } }),
  );
  await loads.start(act('winder', begun + 2 * MIN), load.id);
  for (let min = 10; min <= 230; min += 30) {
    const c = 150 - 128 * Math.exp(-min / 55);
    await app.get(LoadNotes).reading(
      act('winder', begun + (min + 3) * MIN),
      load.id,
      ovenReadingBody.parse({ part, typed: { c: c.toFixed(0) }, at: new Date(begun + (min + 2) * MIN).toISOString() }),
    );
  }
  await app.get(PartsOut).takeOut(act('winder', out), load.id, part, 'Needed on the quay in the morning.');
  await app.get(Steps).finish(act('winder', out + MIN), demoNumber(UNDER_CURED), 'CUR', {
    typed: { oven: `Bake oven 2, load ${load.number}` },
  });
}

import {
  changeChamberBody,
  changeVesselBody,
  loadPartBody,
  newCycleBody,
  newLoadBody,
  type InstrumentKind,
} from '@norther/contracts';
import { PLANT_TIMES, type VesselStage } from '@norther/core';
import type { INestApplicationContext } from '@nestjs/common';
import { now, nowMs } from '../clock/clock.ts';
import type { Act } from '../database/writes.ts';
import { Commands } from '../instrument/commands.ts';
import { Instruments } from '../instrument/instruments.ts';
import { LoadRuns } from '../load/loadRuns.ts';
import { Loads } from '../oven/loads.ts';
import { Ovens } from '../oven/ovens.ts';
import { People } from '../auth/people.ts';
import { demoNumber } from './demoNumbers.ts';
import { VesselRepository } from '../vessel/vesselRepository.ts';
import { Vessels } from '../vessel/vessels.ts';
import { VesselSetUps } from '../vessel/vesselSetUps.ts';
import { IN_BAKE, IN_BURN, IN_VESSEL } from './demoOvens.ts';

/** Keys of the simulated instruments, by the name of the program that has each. */
export type DemoKeys = Readonly<Record<string, string>>;

const SIMULATED: readonly { program: string; name: string; kind: InstrumentKind; mayWrite: string[] }[] = [
  { program: 'oven', name: 'Bake oven 1, logger', kind: 'oven logger', mayWrite: ['oven'] },
  { program: 'tank', name: 'Vessel 1, plant', kind: 'resin tank', mayWrite: ['resin tank'] },
  { program: 'burn', name: 'Burn-off oven, logger', kind: 'oven logger', mayWrite: ['oven'] },
  { program: 'stand', name: 'Belt stand', kind: 'balancing stand', mayWrite: ['balance'] },
  {
    program: 'analyser',
    name: 'Winding analyser',
    kind: 'winding analyser',
    mayWrite: ['surge', 'resistance', 'insulation', 'high potential'],
  },
  { program: 'dynamometer', name: 'Dynamometer 1', kind: 'dynamometer', mayWrite: ['load', 'cooling'] },
];
/** So long before now the simulated runs began, min: as `scripts/start.mjs` tells their programs. */
/** The motor on the dynamometer; its stand comes up within, s. */
const IN_LOAD = 34;
const STARTS_WITHIN_S = 900;
const BAKE_BEHIND_MIN = 210;
const BURN_BEHIND_MIN = 760;
const VESSEL_BEHIND_MIN = 168;

/** The demo shop's simulated instruments, each known by the key that its program has, and the loads that they read. */
export async function addDemoInstruments(app: INestApplicationContext, keys: DemoKeys): Promise<void> {
  const instruments = app.get(Instruments);
  if ((await instruments.list()).length > 0) return;
  const admin = await app.get(People).firstAdmin();
  if (!admin) return;
  const ids = new Map<string, string>();
  for (const { program, ...one } of SIMULATED) {
    const key = keys[program];
    if (key === undefined) continue;
    const { id } = await instruments.add(
      { actor: admin, at: now() },
      { ...one, calibratedUntil: `${now().getUTCFullYear() + 1}-06-30` },
      { simulated: true, key },
    );
    ids.set(program, id);
  }
  const act = (behindMin: number): Act => ({ actor: admin, at: new Date(nowMs() - behindMin * 60_000) });
  const brake = ids.get('dynamometer');
  if (brake) await addLoadRun(app, act, brake);
  const plant = ids.get('tank');
  if (plant) await addCycle(app, act, plant);
  const oven = ids.get('oven');
  if (oven)
    await addLoad(app, act, {
      chamber: 'Bake oven 1',
      instrumentId: oven,
      use: 'bake',
      resin: 'Polyester dip resin',
      setPoint: '152',
      behindMin: BAKE_BEHIND_MIN,
      parts: [
        { job: demoNumber(IN_BAKE[0]), mass: '33', width: '330', height: '310', channel: 'probe 2' },
        { job: demoNumber(IN_BAKE[1]), mass: '84', width: '420', height: '400', channel: 'probe 1' },
      ],
    });
  const burn = ids.get('burn');
  if (burn)
    await addLoad(app, act, {
      chamber: 'Burn-off oven',
      instrumentId: burn,
      use: 'burn-off',
      setPoint: '355',
      behindMin: BURN_BEHIND_MIN,
      parts: [
        { job: demoNumber(IN_BURN), mass: '150', width: '560', height: '520', channel: 'probe 1', corePlate: 'organic' },
      ],
    });
}

/** A motor that is under load as the shop is opened: at rated output, its stand beginning as soon as it is there. */
async function addLoadRun(app: INestApplicationContext, act: (behindMin: number) => Act, instrument: string): Promise<void> {
  const number = demoNumber(IN_LOAD);
  const runs = app.get(LoadRuns);
  const { id } = await runs.begin(act(1), number, { instrument, stage: 'FI' }, STARTS_WITHIN_S);
  const ratedNm = (await runs.list(number)).find((r) => r.id === id)?.ratedNm ?? 0;
  await app.get(Commands).give(act(1), instrument, {
    command: 'set load', value: Number((0.98 * ratedNm).toPrecision(3)), withinS: STARTS_WITHIN_S,
  });
}

async function addLoad(
  app: INestApplicationContext,
  act: (behindMin: number) => Act,
  of: {
    chamber: string;
    instrumentId: string;
    use: 'bake' | 'burn-off';
    resin?: string;
    setPoint: string;
    behindMin: number;
    parts: { job: string; mass: string; width: string; height: string; channel: string; corePlate?: string }[];
  },
): Promise<void> {
  const ovens = app.get(Ovens);
  const loads = app.get(Loads);
  const chamber = (await ovens.view()).chambers.find((c) => c.name === of.chamber);
  if (!chamber) return;
  await ovens.changeChamber(
    act(of.behindMin + 30),
    chamber.id,
    changeChamberBody.parse({
      typed: chamber.typed,
      uses: chamber.uses,
      instrumentId: of.instrumentId,
      version: chamber.version,
      active: true,
    }),
  );
  const load = await loads.begin(
    act(of.behindMin + 8),
    newLoadBody.parse({
      chamberId: chamber.id,
      use: of.use,
      ...(of.resin ? { resin: of.resin } : {}),
      typed: { setPoint: of.setPoint },
    }),
  );
  for (const { job, channel, ...typed } of of.parts)
    await loads.putIn(act(of.behindMin + 5), load.id, loadPartBody.parse({ job, typed, channels: [channel] }));
  await loads.start(act(of.behindMin + 1), load.id);
}

/** A cycle of the vessel: under pressure, before its plateau. */
async function addCycle(
  app: INestApplicationContext,
  act: (behindMin: number) => Act,
  instrumentId: string,
): Promise<void> {
  const vessels = app.get(Vessels);
  const vessel = (await vessels.list()).find((v) => v.name === 'Vessel 1');
  if (!vessel) return;
  await app.get(VesselSetUps).change(
    act(VESSEL_BEHIND_MIN + 40),
    vessel.id,
    changeVesselBody.parse({
      typed: vessel.typed,
      tankId: vessel.tank?.id ?? null,
      instrumentId,
      version: vessel.version,
      active: true,
    }),
  );
  const { id } = await vessels.begin(
    act(VESSEL_BEHIND_MIN),
    vessel.id,
    newCycleBody.parse({ jobs: [demoNumber(IN_VESSEL)], typed: { partHeight: '560', steel: '190', copper: '31' } }),
  );
  const rows = app.get(VesselRepository);
  const at = (min: number) => act(VESSEL_BEHIND_MIN - min);
  const marks: [VesselStage, number][] = [
    ['warm', 8],
    ['vacuum', PLANT_TIMES.vacuum],
    ['admit', PLANT_TIMES.admit],
    ['soak', PLANT_TIMES.soak],
    ['pressurise', PLANT_TIMES.pressurise],
    ['hold', PLANT_TIMES.hold],
  ];
  await rows.database.transaction(async (tx) => {
    for (const [stage, atMin] of marks)
      await rows.addEvent(tx, { cycleId: id, kind: 'stage', stage, personName: at(atMin).actor.name, at: at(atMin).at, atMin });
    await rows.addEvent(tx, {
      cycleId: id,
      kind: 'leak test',
      personName: at(PLANT_TIMES.leak).actor.name,
      at: at(PLANT_TIMES.leak).at,
      atMin: PLANT_TIMES.leak,
    });
  });
}

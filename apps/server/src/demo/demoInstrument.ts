import { changeChamberBody, loadPartBody, newLoadBody, type InstrumentKind } from '@norther/contracts';
import type { INestApplicationContext } from '@nestjs/common';
import { now, nowMs } from '../clock/clock.ts';
import type { Act } from '../database/writes.ts';
import { Instruments } from '../instrument/instruments.ts';
import { Loads } from '../oven/loads.ts';
import { Ovens } from '../oven/ovens.ts';
import { People } from '../auth/people.ts';
import { demoNumber } from './demoNumbers.ts';
import { IN_BAKE, IN_BURN } from './demoOvens.ts';

/** Keys of the simulated instruments, by the name of the program that has each. */
export type DemoKeys = Readonly<Record<string, string>>;

const SIMULATED: readonly { program: string; name: string; kind: InstrumentKind; mayWrite: string[] }[] = [
  { program: 'oven', name: 'Bake oven 1, logger', kind: 'oven logger', mayWrite: ['oven'] },
  { program: 'burn', name: 'Burn-off oven, logger', kind: 'oven logger', mayWrite: ['oven'] },
];
/** So long before now the simulated runs began, min: as `scripts/start.mjs` tells their programs. */
const BAKE_BEHIND_MIN = 210;
const BURN_BEHIND_MIN = 760;

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

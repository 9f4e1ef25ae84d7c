import type { INestApplicationContext } from '@nestjs/common';
import { now } from '../clock/clock.ts';
import { Instruments } from '../instrument/instruments.ts';
import { People } from '../auth/people.ts';

/** The demo shop's simulated oven logger, known by the key that its program has. */
export async function addDemoInstrument(app: INestApplicationContext, key: string): Promise<void> {
  const instruments = app.get(Instruments);
  if ((await instruments.list()).length > 0) return;
  const admin = await app.get(People).firstAdmin();
  if (!admin) return;
  await instruments.add(
    { actor: admin, at: now() },
    {
      name: 'Bake oven 1, logger',
      kind: 'oven logger',
      calibratedUntil: `${now().getUTCFullYear() + 1}-06-30`,
      mayWrite: ['oven'],
    },
    { simulated: true, key },
  );
}

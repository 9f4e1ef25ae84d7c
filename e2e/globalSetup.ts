import { freePort } from './freePort.ts';
import { runNorther } from './server.ts';

export default async function globalSetup(): Promise<() => Promise<void>> {
  const norther = await runNorther(await freePort());
  process.env['NORTHER_URL'] = norther.base;
  return norther.stop;
}

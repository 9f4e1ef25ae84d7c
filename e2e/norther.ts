import { test as base } from '@playwright/test';
import { freePort } from './freePort.ts';
import { copyOfDemo, serveNorther } from './server.ts';

export { expect } from '@playwright/test';

/** Tests of one worker share a Norther of their own: built server, own database, copied from the demo shop that was loaded once. */
export const test = base.extend<object, { norther: string }>({
  norther: [
    // eslint-disable-next-line no-empty-pattern -- the library tells fixtures by this pattern
    async ({}, use, worker) => {
      const norther = await serveNorther(await copyOfDemo(`worker_${worker.workerIndex}`), await freePort());
      process.env['NORTHER_URL'] = norther.base;
      await use(norther.base);
      await norther.end();
    },
    { scope: 'worker', auto: true, timeout: 120_000 },
  ],
});

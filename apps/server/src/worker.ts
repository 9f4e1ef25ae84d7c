import 'reflect-metadata';
import { createWorker } from './app.ts';
import { refuseShiftedClock } from './clock/clock.ts';
import { withoutValues } from './problem/problemFilter.ts';
import { startFailure } from './problem/startFailure.ts';
import { Worker } from './queue/worker.ts';

process.on('unhandledRejection', (reason) => process.stderr.write(`norther worker: ${withoutValues(reason)}\n`));

try {
  refuseShiftedClock();
  const app = await createWorker();
  const parent = process.ppid;
  const end = () => void app.close().finally(() => process.exit(0));
  process.once('SIGTERM', end);
  process.once('SIGINT', end);
  if (process.env['NORTHER_STARTED'] === 'yes')
    setInterval(() => {
      if (process.ppid !== parent) end();
    }, 500).unref();
  await app.get(Worker).start();
} catch (error) {
  process.stderr.write(`norther worker: ${startFailure(error, 0)}\n`);
  process.exit(1);
}

import 'reflect-metadata';
import { createApp } from './app.ts';
import { refuseShiftedClock } from './clock/clock.ts';
import { Database } from './database/database.ts';
import { couldDropGuards } from './database/prepareDatabase.ts';
import { addDemoInstruments, type DemoKeys } from './demo/demoInstrument.ts';
import { loadDemo } from './demo/demo.ts';
import { startFailure } from './problem/startFailure.ts';
import { withoutValues } from './problem/problemFilter.ts';

const host = process.env['HOST'] ?? '127.0.0.1';
const port = Number(process.env['PORT'] ?? 4310);

const DEMO_LOCK = 471102;

function say(text: string): void {
  process.stdout.write(`${text}\n`);
}

// nothing a request or a lost connection does may end the process: it is logged, the request is answered
process.on('unhandledRejection', (reason) => process.stderr.write(`norther: ${withoutValues(reason)}\n`));

let ending = false;

try {
  refuseShiftedClock();
  const app = await createApp();
  // what breaks because one was asked to end while one began is no fault of the start
  for (const signal of ['SIGTERM', 'SIGINT', 'SIGHUP'] as const) process.once(signal, () => (ending = true));
  // a start script that was killed takes its server with it; the database stays for the next start
  const parent = process.ppid;
  if (process.env['NORTHER_STARTED'] === 'yes')
    setInterval(() => {
      if (process.ppid !== parent) void app.close().finally(() => process.exit(0));
    }, 500).unref();
  await app.get(Database).migrate();
  if (await couldDropGuards(process.env['DATABASE_URL'] ?? ''))
    say(
      'norther: the user of DATABASE_URL could drop what guards the records; name an owner in DATABASE_OWNER_URL and run as another user.',
    );
  const { People } = await import('./auth/people.ts');
  // of several servers that start at once one loads the demo, the others wait for it
  await app.get(Database).alone(DEMO_LOCK, async () => {
    if (process.env['NORTHER_DEMO'] === 'yes') {
      const loaded = await loadDemo(app);
      if (loaded > 0) say(`norther: demo shop loaded, ${loaded} motors.`);
    }
    const keys = process.env['NORTHER_INSTRUMENT_KEYS'];
    if (keys && (await app.get(People).setup()).demo.length > 0)
      await addDemoInstruments(app, JSON.parse(keys) as DemoKeys);
  });
  await app.listen({ host, port });
  const shown = host === '0.0.0.0' ? "this machine's address" : host;
  say(`\nNorther is open at http://${shown === host ? host : '<' + shown + '>'}:${port}`);
  const setup = await app.get(People).setup();
  if (setup.needsFirstAdmin) say('No people yet: the first visitor creates the admin.');
  for (const p of setup.demo) say(`  ${p.signIn.padEnd(10)} ${p.password}   ${p.name}, ${p.role}`);
  say('Stop with Ctrl-C.');
} catch (error) {
  if (ending) process.exit(0);
  process.stderr.write(`norther: ${startFailure(error, port)}\n`);
  process.exit(1);
}

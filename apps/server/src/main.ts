import 'reflect-metadata';
import { createApp } from './app.ts';
import { Database } from './database/database.ts';
import { loadDemo } from './demo/demo.ts';

const host = process.env['HOST'] ?? '127.0.0.1';
const port = Number(process.env['PORT'] ?? 4310);

function say(text: string): void {
  process.stdout.write(`${text}\n`);
}

try {
  const app = await createApp();
  await app.get(Database).migrate();
  if (process.env['NORTHER_DEMO'] === 'yes') {
    const loaded = await loadDemo(app);
    if (loaded > 0) say(`norther: demo shop loaded, ${loaded} motors.`);
  }
  await app.listen({ host, port });
  const shown = host === '0.0.0.0' ? "this machine's address" : host;
  say(`\nNorther is open at http://${shown === host ? host : '<' + shown + '>'}:${port}`);
  const { People } = await import('./auth/people.ts');
  const setup = await app.get(People).setup();
  if (setup.needsFirstAdmin) say('No people yet: the first visitor creates the admin.');
  for (const p of setup.demo) say(`  ${p.signIn.padEnd(10)} ${p.password}   ${p.name}, ${p.role}`);
  say('Stop with Ctrl-C.');
} catch (error) {
  const code = (error as { code?: string }).code;
  const sentence =
    code === 'EADDRINUSE'
      ? `Port ${port} is in use. Choose another: PORT=${port + 1} npm start`
      : code === 'ECONNREFUSED'
        ? 'The database of DATABASE_URL cannot be reached. Check that it runs and that the address is right.'
        : error instanceof Error
          ? (error.stack ?? error.message)
          : String(error);
  process.stderr.write(`norther: ${sentence}\n`);
  process.exit(1);
}

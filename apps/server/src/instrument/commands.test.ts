import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { client, serve, startServer, type Client, type TestServer } from '../testing/server.ts';

interface Told {
  id: number;
  command: string;
  value: number | null;
}
interface Following {
  stopHere: () => Promise<void>;
  letGoOn: () => Promise<void>;
  close: () => Promise<void>;
}
type Follow = (x: {
  api: string;
  headers: Record<string, string>;
  on: (c: Told) => { answer: string; said: string };
  safe: () => void;
  ready: () => void;
}) => Following;

let server: TestServer;
let tester: Client;
let admin: Client;
let follow: Follow;
let brake: { id: string; key: string };
beforeAll(async () => {
  const path = new URL('../../../../scripts/instruments/following.mjs', import.meta.url).href;
  ({ follow } = (await import(/* @vite-ignore */ path)) as { follow: Follow });
  server = await startServer('norther_commands', 'demo');
  [tester, admin] = await Promise.all([server.as('runa'), server.as('liv')]);
  brake = (await admin('POST', 'instruments', { name: 'Brake 1', kind: 'dynamometer', mayWrite: ['load'] })).body;
}, 120_000);
afterAll(() => server.stop());

const tell = (body: object, as = tester) => as('POST', `instruments/${brake.id}/commands`, body);
const view = async () =>
  (await tester('GET', 'instruments')).body.find((i: { name: string }) => i.name === 'Brake 1') as {
    state: string;
    hears: boolean;
    commands: { id: number; answer: string; said: string }[];
  };
const until = async (what: () => boolean | Promise<boolean>, ms = 5000) => {
  const from = Date.now();
  while (!(await what())) {
    if (Date.now() - from > ms) throw new Error('it did not happen in time');
    await new Promise((r) => setTimeout(r, 25));
  }
  return Date.now() - from;
};
/** A brake that does what it is told; it follows this server or another on the same database. */
function simulated(base = server.base) {
  const done: Told[] = [];
  const states: string[] = [];
  const line = follow({
    api: base,
    headers: { Authorization: `Bearer ${brake.key}`, 'Content-Type': 'application/json' },
    on: (c) => {
      done.push(c);
      return { answer: 'done', said: '' };
    },
    safe: () => states.push('safe'),
    ready: () => states.push('ready'),
  });
  return { done, states, ...line };
}

describe('a command', () => {
  it('reaches the instrument at once and is answered; everybody sees by whom and what became of it', async () => {
    const one = simulated();
    await until(async () => (await view()).hears);
    const { body } = await tell({ command: 'set load', value: 12.5 });
    expect(await until(() => one.done.length === 1)).toBeLessThan(1000);
    expect(one.done[0]).toMatchObject({ id: body.id, command: 'set load', value: 12.5 });
    await until(async () => (await view()).commands[0]?.answer === 'done');
    expect((await view()).commands[0]).toMatchObject({ id: body.id, person: 'Runa Solvik', value: 12.5 });
    await one.close();
    await until(async () => !(await view()).hears);
  });
  it('crosses from one server to another', async () => {
    const other = await serve('norther_commands', 'none');
    const one = simulated(other.base);
    await until(async () => (await view()).hears);
    await tell({ command: 'stop' });
    await until(() => one.done.length === 1);
    await one.close();
    await other.stop();
  });
  it('expires: what was not done in time is not done when the line is up again', async () => {
    await tell({ command: 'set load', value: 3, withinS: 1 });
    await new Promise((r) => setTimeout(r, 1200));
    expect((await view()).commands[0]?.answer).toBe('expired');
    await tell({ command: 'set load', value: 4, withinS: 30 });
    const one = simulated();
    await until(() => one.done.length > 0);
    await new Promise((r) => setTimeout(r, 300));
    expect(one.done.map((c) => c.value)).toEqual([4]);
    await one.close();
    // and a late answer is told back
    const { body } = await tell({ command: 'stop', withinS: 1 });
    await new Promise((r) => setTimeout(r, 1200));
    const late = await client(server.base)(
      'POST',
      `instruments/me/commands/${body.id}/answer`,
      { answer: 'done' },
      {
        Authorization: `Bearer ${brake.key}`,
      },
    );
    expect([late.status, late.body.title]).toEqual([409, 'Expired']);
  });
  it('a stop on the spot wins: nothing is done from afar until it is let go on there', async () => {
    const one = simulated();
    await until(async () => (await view()).state === 'ready');
    await one.stopHere();
    const refused = await tell({ command: 'set load', value: 5 });
    expect([refused.status, refused.body.detail]).toEqual([409, expect.stringMatching(/stopped on the spot/)]);
    await one.letGoOn();
    expect((await tell({ command: 'set load', value: 6 })).status).toBe(201);
    await until(() => one.done.length === 1);
    await one.close();
  });
  it('silence of two seconds brings it to its safe state by itself; then it goes on where it was', async () => {
    const other = await serve('norther_commands', 'none');
    const one = simulated(other.base);
    await until(async () => (await view()).hears);
    const port = Number(new URL(other.base).port);
    await other.stop();
    const took = await until(() => one.states.includes('safe'), 4000);
    expect(took).toBeGreaterThan(1000);
    expect(took).toBeLessThan(3500);
    const again = await serve('norther_commands', 'none', port);
    await until(() => one.states.includes('ready'), 8000);
    await tell({ command: 'set load', value: 7 });
    await until(() => one.done.length === 1);
    await one.close();
    await again.stop();
  });
});

describe('what is refused', () => {
  it.each([
    [{ command: 'next load' }, 'command', /can be told set load, hold, unload, stop/],
    [{ command: 'set load' }, 'value', /say how much/],
    [{ command: 'stop', value: 1 }, 'value', /takes no value/],
    [{ command: 'jump' }, 'command', /.+/],
    [{ command: 'stop', withinS: 0 }, 'withinS', /.+/],
  ])('%j', async (body, field, sentence) => {
    const answer = await tell(body);
    expect([answer.status, answer.body.field ?? answer.body.problems?.[0]?.field]).toEqual([422, field]);
    expect(answer.body.detail).toMatch(sentence);
  });
  it('by role, by key, and for an instrument that only sends', async () => {
    expect((await tell({ command: 'stop' }, await server.as('ines'))).status).toBe(403);
    const tank = (await admin('POST', 'instruments', { name: 'Meter', kind: 'power meter', mayWrite: ['power'] })).body;
    const only = await tester('POST', `instruments/${tank.id}/commands`, { command: 'stop' });
    expect([only.status, only.body.detail]).toEqual([422, expect.stringMatching(/only sends/)]);
    const { body } = await tell({ command: 'stop' });
    const foreign = await client(server.base)(
      'POST',
      `instruments/me/commands/${body.id}/answer`,
      { answer: 'done' },
      {
        Authorization: `Bearer ${tank.key}`,
      },
    );
    expect(foreign.status).toBe(404);
    expect((await client(server.base)('GET', 'instruments/me/commands')).status).toBe(401);
  });
});

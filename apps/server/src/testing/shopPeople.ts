import { afterAll, beforeAll } from 'vitest';
import { startServer, type Client, type TestServer } from './server.ts';

/** What a desk sends to take a motor in. */
export const intake = { came: 'whole motor', complaint: 'hums' };
export const newJob = (more: object = {}) => ({
  customerName: 'Test Works',
  what: 'Test motor',
  nameplate: { speedRpm: '1455', frequencyHz: '50', outputW: '4 kW', voltagesV: '400' },
  intake,
  route: 'ac_random_rewind',
  impregnation: 'dip',
  priority: 'ordinary',
  ...more,
});

/** A server on a copy of the demo shop for one file of tests, and its people signed in. */
export function demoShop(database: string) {
  let server: TestServer | undefined;
  const people = new Map<string, Client>();
  beforeAll(async () => {
    server = await startServer(database, 'demo');
    for (const name of ['ines', 'runa', 'odd', 'liv', 'per']) people.set(name, await server.as(name));
  }, 120_000);
  afterAll(() => server?.stop());
  const as =
    (name: string): Client =>
    (...request) => {
      const client = people.get(name);
      if (!client) throw new Error(`${name} is not signed in`);
      return client(...request);
    };
  const winder = as('ines');
  return {
    server: (): TestServer => {
      if (!server) throw new Error('the server does not run');
      return server;
    },
    winder,
    tester: as('runa'),
    foreman: as('odd'),
    admin: as('liv'),
    viewer: as('per'),
    /** takes a motor in and gives its number */
    take: async (more: object = {}): Promise<string> =>
      ((await winder('POST', 'jobs', newJob(more))).body as { number: string }).number,
  };
}

import { partOf } from './partOf.ts';
import { signedIn, type Client } from './client.ts';
import { demo } from './demoNumber.ts';

interface Timed {
  ms: number;
  status: number;
  body: { detail?: string; id?: string };
}
const timed = async (work: () => Promise<{ status: number; body: Timed['body'] }>): Promise<Timed> => {
  const begun = Date.now();
  const { status, body } = await work();
  return { ms: Date.now() - begun, status, body };
};
/** The slowest of a hundred, ms. */
export const p99 = (all: readonly { ms: number }[]): number =>
  all.map((x) => x.ms).sort((a, b) => a - b)[Math.ceil(all.length * 0.99) - 1] ?? 0;

export interface Storm {
  /** what one request after the other would take, ms: the reference of the bound */
  serial: number;
  finishing: Timed[];
  lists: Timed[];
  reports: Timed[];
  /** the reports read right after they were accepted */
  readable: Timed[];
}

/**
 * Sixty people at once on a demo shop: 30 finish a step, 15 make lists, 15 issue a report.
 * The first call fills the shop with sixty more motors; each storm leaves it as it was.
 */
export async function stormOn(base: string): Promise<(before?: () => Promise<void>) => Promise<Storm>> {
  const admin = await signedIn(base, 'liv');
  const foreman = await signedIn(base, 'odd');
  const numbers: string[] = [];
  const { body: file } = await admin('GET', `jobs/${demo(7)}/export.json`);
  for (let i = 0; i < 60; i++) {
    const number = `S-${String(i).padStart(2, '0')}`;
    const made = await admin('POST', 'import', {
      ...file,
      job: { ...file.job, number, nameplate: { ...file.job.nameplate, serial: `STORM-${i}` } },
    });
    if (made.status !== 201) throw new Error(JSON.stringify(made.body));
    numbers.push(number);
  }
  const [listed, stepped, reported] = [numbers.slice(0, 15), numbers.slice(15, 45), numbers.slice(45)];
  for (const number of listed) {
    const { body: job } = await foreman('GET', `jobs/${number}`);
    await foreman('POST', `jobs/${number}/winding/release`, { revision: partOf(job).found.revision });
  }

  const start = (n: string) => foreman('POST', `jobs/${n}/steps/SLP/start`, { override: { reason: 'storm' } });
  const again = (n: string) => foreman('POST', `jobs/${n}/steps/SLP/reopen`, { reason: 'again' });
  const finish = (who: Client, n: string) =>
    timed(() => who('POST', `jobs/${n}/steps/SLP/finish`, { typed: { lot: 'B-12', dry: 'yes' } }));
  const list = (who: Client, n: string) =>
    timed(async () => {
      const { body } = await who('GET', `jobs/${n}/material/stator`);
      return who('POST', `jobs/${n}/material/stator/lists`, { version: body.version });
    });
  const report = (n: string) => timed(() => foreman('POST', `jobs/${n}/reports`, { reason: 'as it stands now' }));

  /** The quickest of three of each kind, times how many of it there are. */
  async function oneAfterAnother(winder: Client): Promise<number> {
    let [finishing, listing, reporting] = [Infinity, Infinity, Infinity];
    for (const [i, n] of stepped.slice(0, 3).entries()) {
      await start(n);
      finishing = Math.min(finishing, (await finish(winder, n)).ms);
      await again(n);
      listing = Math.min(listing, (await list(winder, listed[i] as string)).ms);
      reporting = Math.min(reporting, (await report(reported[i] as string)).ms);
    }
    return 30 * finishing + 15 * listing + 15 * reporting;
  }

  return async (before) => {
    const winder = await signedIn(base, 'ines');
    const serial = await oneAfterAnother(winder);
    await before?.();
    const started = await Promise.all(stepped.map(start));
    const idle = started.find((s) => s.status !== 200);
    if (idle) throw new Error(`a step could not be started: ${JSON.stringify(idle.body)}`);
    const [finishing, lists, reports] = await Promise.all([
      Promise.all(stepped.map((n) => finish(winder, n))),
      Promise.all(listed.map((n) => list(winder, n))),
      Promise.all(reported.map(report)),
    ]);
    const readable = await Promise.all(reports.map((r) => timed(() => foreman('GET', `reports/${r.body.id}`))));
    for (const n of stepped) await again(n);
    return { serial, finishing, lists, reports, readable };
  };
}

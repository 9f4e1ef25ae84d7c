import { LOAD_CHANNELS, LoadStand, plateMachine } from '@norther/core';
import { signedIn } from '../../apps/server/src/testing/client.ts';
import { inDemoShop } from './shop.ts';
import type { Figure } from './figure.ts';

const SCREENS = 20;
const SECONDS = 60;
const STEP_MS = 50;
const BATCH = 2;
const MOST_LAG_MS = 250;
const MOST_GROWN = 1.1;
const PLATE = { outputW: 17_000, voltagesV: [400], currentsA: [31.9], frequencyHz: 50, speedRpm: 1464, poles: 4 };

/** A screen: the samples of a trace as its line brings them. */
async function screen(base: string, cookie: string, trace: string, on: (x: number[]) => void): Promise<() => void> {
  const stop = new AbortController();
  const answer = await fetch(`${base}/live?traces=${trace}`, { headers: { Cookie: cookie }, signal: stop.signal });
  void (async () => {
    const decoder = new TextDecoder();
    let text = '';
    for await (const piece of answer.body ?? []) {
      text += decoder.decode(piece as Uint8Array, { stream: true });
      for (let end = text.indexOf('\n\n'); end >= 0; end = text.indexOf('\n\n')) {
        const event = text.slice(0, end);
        text = text.slice(end + 2);
        const data = /^data: (\{.*\})$/m.exec(event)?.[1];
        if (data?.includes('"x"')) on((JSON.parse(data) as { x: number[] }).x);
      }
    }
  })().catch(() => undefined);
  return () => stop.abort();
}

/** Twenty samples a second of fourteen channels, guarded, to twenty screens for a minute. */
export const benchLoadRun = (): Promise<Figure[]> =>
  inDemoShop(async ({ origin, heldBytes }) => {
    const base = `${origin}/api`;
    const [liv, runa] = [await signedIn(base, 'liv'), await signedIn(base, 'runa')];
    const made = (await liv('POST', 'instruments', { name: 'Brake', kind: 'dynamometer', mayWrite: ['load'] }))
      .body as {
      id: string;
      key: string;
    };
    const jobs = (await runa('GET', 'jobs')).body as { number: string; what: string }[];
    const number = jobs.find((j) => j.what.startsWith('Quay winch'))?.number ?? '';
    const begun = await runa('POST', `jobs/${number}/load-runs`, { instrument: made.id, stage: 'FI' });
    if (begun.status !== 201) throw new Error(JSON.stringify(begun.body));
    const machine = plateMachine(PLATE);
    if (typeof machine === 'string') throw new Error(machine);
    const stand = new LoadStand({ job: number, stream: 'x', mostNm: 500, line20Ohm: 0.3, ...machine }, 3);
    stand.set(0.9 * machine.ratedNm);
    const start = Date.now();
    let read = 0;
    const send = async (batch: number): Promise<string> => {
      const rows = Array.from({ length: BATCH }, () => {
        stand.advance(STEP_MS / 1000);
        return stand.read();
      });
      const answer = await fetch(`${base}/instruments/${made.id}/samples`, {
        method: 'POST',
        headers: { Authorization: `Bearer ${made.key}`, 'Content-Type': 'application/json' },
        body: JSON.stringify({
          stream: 'bench',
          batch,
          what: 'load',
          job: number,
          channels: LOAD_CHANNELS,
          start: new Date(start + read * STEP_MS).toISOString(),
          step: STEP_MS / 1000,
          values: LOAD_CHANNELS.map((_, k) => rows.map((r) => r[k])),
        }),
      });
      read += BATCH;
      if (answer.status !== 202) throw new Error(await answer.text());
      return ((await answer.json()) as { trace: string }).trace;
    };
    const trace = await send(0);
    const signed = await fetch(`${base}/session`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ signIn: 'per', password: 'harbour-2026' }),
    });
    const cookie = signed.headers
      .getSetCookie()
      .map((c) => c.split(';')[0])
      .join('; ');
    const lags: number[] = [];
    const got = Array.from({ length: SCREENS }, () => new Set<number>());
    const closing = await Promise.all(
      got.map((mine) =>
        screen(base, cookie, trace, (x) => {
          for (const s of x) {
            mine.add(Math.round(s * 1000));
            lags.push(Date.now() - (start + s * 1000));
          }
        }),
      ),
    );
    await new Promise((r) => setTimeout(r, 500));
    const batches = (SECONDS * 1000) / STEP_MS / BATCH;
    const held: number[] = [];
    for (let batch = 1; batch <= batches; batch++) {
      if (batch % (batches / SECONDS) === 0) held.push(heldBytes());
      // a batch goes when its last sample was read
      await new Promise((r) => setTimeout(r, Math.max(0, start + (read + BATCH) * STEP_MS - Date.now())));
      await send(batch);
    }
    await new Promise((r) => setTimeout(r, 1000));
    for (const close of closing) close();
    lags.sort((a, b) => a - b);
    const p95 = lags[Math.floor(0.95 * lags.length)] ?? Infinity;
    // the first third warms up; of the rest the later half against the earlier
    const after = held.slice(Math.floor(held.length / 3));
    const mean = (v: number[]) => v.reduce((s, n) => s + n, 0) / v.length;
    const half = Math.floor(after.length / 2);
    const grown = mean(after.slice(half)) / mean(after.slice(0, half));
    const fewest = Math.min(...got.map((g) => g.size));
    const sent = batches * BATCH;
    return [
      {
        name: 'load run: 20 samples a second, guarded, to 20 screens for 60 s',
        value: `lag p95 ${Math.round(p95)} ms from the reading; the screen with fewest has ${fewest} of ${sent} samples`,
        ratio: p95 / MOST_LAG_MS,
        must: 'lag p95 under 250 ms, no sample lost',
        holds: p95 < MOST_LAG_MS && fewest >= sent,
      },
      {
        name: 'memory of the server while it does',
        value: `${Math.round(mean(after.slice(half)) / 2 ** 20)} MiB, ${((grown - 1) * 100).toFixed(1)} % more than before`,
        ratio: grown / MOST_GROWN,
        must: 'flat: less than 10 % more in the last third than in the one before',
        holds: grown < MOST_GROWN,
      },
    ];
  });

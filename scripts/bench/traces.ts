import { chromium } from '@playwright/test';
import { signedIn, type Client } from '../../apps/server/src/testing/client.ts';
import { inDemoShop } from './shop.ts';
import type { Figure } from './figure.ts';

const SAMPLES = 500_000;
const BATCH = 4000;
const INSTRUMENTS = 10;
const READERS = 50;
const SECONDS = 12;

interface Sender {
  id: string;
  send: (batch: number, values: number[], startMs: number, stepS: number) => Promise<void>;
}

/** An instrument that sends one channel over its documented door. */
async function instrument(base: string, admin: Client, name: string): Promise<Sender> {
  const made = (await admin('POST', 'instruments', { name, kind: 'oven logger', mayWrite: ['oven'] })).body as {
    id: string;
    key: string;
  };
  return {
    id: made.id,
    send: async (batch, values, startMs, stepS) => {
      const answer = await fetch(`${base}/instruments/${made.id}/samples`, {
        method: 'POST',
        headers: { Authorization: `Bearer ${made.key}`, 'Content-Type': 'application/json' },
        body: JSON.stringify({
          stream: 'bench',
          batch,
          what: 'oven',
          channels: [{ name: 'part', unit: '°C', role: 'part' }],
          start: new Date(startMs).toISOString(),
          step: stepS,
          values: [values],
        }),
      });
      if (answer.status !== 202) throw new Error(await answer.text());
      await answer.arrayBuffer();
    },
  };
}

/** In the page: milliseconds from asking for the trace to the frame in which it is on the screen. */
const DRAWN = `new Promise((done) => {
  const look = () => {
    const asked = performance.getEntriesByType('resource').find((e) => /\\/api\\/traces\\//.test(e.name) && e.responseEnd > 0);
    if (!asked || !document.querySelector('main canvas, main svg path')) return requestAnimationFrame(look);
    requestAnimationFrame(() => done(performance.now() - asked.startTime));
  };
  look();
})`;

/** A trace of half a million samples, from the request to the drawing. */
export const benchTraces = (): Promise<Figure[]> =>
  inDemoShop(async ({ origin }) => {
    const base = `${origin}/api`;
    const logger = await instrument(base, await signedIn(base, 'liv'), 'Long logger');
    const start = Date.now() - SAMPLES * 100;
    for (let n = 0; n < SAMPLES / BATCH; n++) {
      const values = Array.from({ length: BATCH }, (_, i) => 100 + 40 * Math.sin((n * BATCH + i) / 9000) + (i % 7));
      await logger.send(n, values, start + n * BATCH * 100, 0.1);
    }
    const browser = await chromium.launch({
      executablePath: process.env['CHROMIUM'] ?? '/usr/bin/chromium',
      args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--disable-dev-shm-usage'],
    });
    try {
      const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
      await page.request.post(`${origin}/api/session`, { data: { signIn: 'ines', password: 'harbour-2026' } });
      const times: number[] = [];
      for (let run = 0; run < 6; run++) {
        await page.goto(`${origin}/stock`);
        await page.goto(`${origin}/instruments?of=${logger.id}`);
        times.push((await page.evaluate(DRAWN)) as number);
      }
      const ms = times.sort((a, b) => a - b)[Math.floor(times.length / 2)] ?? Infinity;
      return [
        {
          name: `trace of ${SAMPLES.toLocaleString('en')} samples`,
          value: `${ms.toFixed(0)} ms from the request to the drawing (median of ${times.length})`,
          ratio: ms / 300,
          must: 'within 300 ms',
          holds: ms <= 300,
        },
      ];
    } finally {
      await browser.close();
    }
  });

const p95 = (times: readonly number[]): number =>
  [...times].sort((a, b) => a - b)[Math.floor(times.length * 0.95)] ?? Infinity;

/** Ten instruments that send a batch of 200 samples a second each, while fifty people read: how much longer they wait. */
export const benchSamples = (): Promise<Figure[]> =>
  inDemoShop(async ({ origin }) => {
    const base = `${origin}/api`;
    const admin = await signedIn(base, 'liv');
    const people = await Promise.all(['ines', 'runa', 'odd', 'tomas', 'per'].map((name) => signedIn(base, name)));
    const jobs = ((await admin('GET', 'jobs')).body as { number: string }[]).map((j) => j.number);
    const reading = async (): Promise<number[]> => {
      const until = Date.now() + SECONDS * 1000;
      const times: number[] = [];
      await Promise.all(
        Array.from({ length: READERS }, async (_, i) => {
          const person = people[i % people.length] as Client;
          // each looks at something about once a second, not all at once
          await new Promise((r) => setTimeout(r, (1000 * i) / READERS));
          for (let n = 0; Date.now() < until; n++) {
            const begun = performance.now();
            const path = n % 2 === 0 ? 'jobs' : `jobs/${jobs[(i + n) % jobs.length]}`;
            const { status } = await person('GET', path);
            const took = performance.now() - begun;
            if (status !== 200) throw new Error(`${path}: ${status}`);
            times.push(took);
            await new Promise((r) => setTimeout(r, Math.max(0, 1000 - took)));
          }
        }),
      );
      return times;
    };
    await reading();
    const alone = p95(await reading());
    const senders = await Promise.all(
      Array.from({ length: INSTRUMENTS }, (_, i) => instrument(base, admin, `Logger ${i}`)),
    );
    let stop = false;
    let sent = 0;
    const sending = senders.map(async (s, k) => {
      const start = Date.now();
      for (let n = 0; !stop; n++) {
        const begun = Date.now();
        await s.send(
          n,
          Array.from({ length: 200 }, (_, i) => 100 + ((i + n + k) % 50)),
          start + n * 1000,
          0.005,
        );
        sent += 200;
        await new Promise((r) => setTimeout(r, Math.max(0, 1000 - (Date.now() - begun))));
      }
    });
    const begun = Date.now();
    const together = p95(await reading());
    stop = true;
    await Promise.all(sending);
    const rate = sent / ((Date.now() - begun) / 1000);
    return [
      {
        name: `${READERS} people reading while ${INSTRUMENTS} instruments send`,
        value: `reads' p95 ${alone.toFixed(1)} ms alone, ${together.toFixed(1)} ms with ${rate.toFixed(0)} samples a second stored`,
        ratio: together / alone,
        must: 'at most twice',
        holds: together <= 2 * alone && rate > 0.9 * INSTRUMENTS * 200,
      },
    ];
  });

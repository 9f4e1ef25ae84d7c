#!/usr/bin/env node
// npm run instruments -- oven --key ni_… [--server http://127.0.0.1:4310] [--clock 60] [--seed 7] [--backlog 90]
// Simulated instruments: they send through the documented door, as real ones would. Nothing here knows the server from inside.
import { parseArgs } from 'node:util';
import { follow } from './instruments/following.mjs';

const KINDS = ['oven'];
const BATCH_S = 5;
const { values: said, positionals } = parseArgs({
  allowPositionals: true,
  options: {
    server: { type: 'string', default: process.env.NORTHER_SERVER ?? 'http://127.0.0.1:4310' },
    key: { type: 'string', default: process.env.NORTHER_INSTRUMENT_KEY ?? '' },
    clock: { type: 'string', default: '1' },
    seed: { type: 'string', default: '7' },
    /** minutes of the run that lie behind already */
    backlog: { type: 'string', default: '0' },
  },
});
const stop = (sentence) => {
  process.stderr.write(`norther instruments: ${sentence}\n`);
  process.exit(1);
};
const kind = positionals[0];
if (!KINDS.includes(kind)) stop(`Name a simulated instrument: ${KINDS.join(', ')}.`);
const numberOf = (name, least) => {
  const value = Number(said[name]);
  if (!Number.isFinite(value) || value < least) stop(`--${name} must be a number from ${least}, not "${said[name]}".`);
  return value;
};
const clock = numberOf('clock', 0.1);
const seed = numberOf('seed', 0);
const backlogMin = numberOf('backlog', 0);
if (!said.key) stop('Name the key of the instrument: --key ni_… (an admin makes it on the Instruments page).');

const { endMin, ovenLogger } = await import(new URL('../packages/core/dist/index.js', import.meta.url).href);
const api = `${said.server.replace(/\/$/, '')}/api`;
const headers = { Authorization: `Bearer ${said.key}`, 'Content-Type': 'application/json' };
const wait = (ms) => new Promise((r) => setTimeout(r, ms));

// a killed start script takes its instruments with it
const parent = process.ppid;
if (process.env.NORTHER_STARTED === 'yes')
  setInterval(() => {
    if (process.ppid !== parent) process.exit(0);
  }, 500).unref();

/** Who this key is; asked until the server answers. */
async function whoAmI() {
  for (;;) {
    try {
      const answer = await fetch(`${api}/instruments/me`, { headers });
      if (answer.ok) return await answer.json();
      if (answer.status === 401) stop('The server does not know this key.');
    } catch {
      // not there yet
    }
    await wait(2000);
  }
}

/** Sends a batch until it is taken; the line may drop, a repeat is stored once. */
async function send(id, body) {
  for (;;) {
    try {
      const answer = await fetch(`${api}/instruments/${id}/samples`, {
        method: 'POST',
        headers,
        body: JSON.stringify(body),
      });
      if (answer.ok) return true;
      const problem = await answer.json().catch(() => ({}));
      if (answer.status < 500) {
        process.stderr.write(`norther instruments: ${problem.detail ?? answer.status}\n`);
        return answer.status !== 401 && answer.status !== 403;
      }
    } catch {
      // the server is away: what was read is kept and sent when it is back
    }
    await wait(2000);
  }
}

/** One oven load after another; told "next load" it ends this one and begins another. */
async function oven(me) {
  let asked = false;
  follow({
    api,
    headers,
    on: () => {
      asked = true;
      return { answer: 'done', said: 'this load has ended' };
    },
    // a logger moves nothing: without a line it logs on and sends later
    safe: () => undefined,
    ready: () => undefined,
  });
  for (let load = 0; ; load++) {
    const run = {
      parts: [
        { name: 'stator, coldest', massKg: 84 },
        { name: 'stator, smallest', massKg: 19 },
      ],
      ambientC: 22,
      rampKMin: 2.4,
      holdC: 148,
      holdMin: 330,
      seed: seed + load,
    };
    const behindMin = load === 0 ? backlogMin : 0;
    const begun = Date.now() - (behindMin * 60_000) / clock;
    const stream = `load ${new Date(begun).toISOString().slice(0, 16)}`;
    const read = ovenLogger(run, BATCH_S);
    const most = Math.ceil((endMin(run) * 60) / BATCH_S);
    let pending = [];
    let batch = 0;
    for (let i = 0; i <= most; i++) {
      const { s, values } = read.next().value;
      // the instrument's clock runs `clock` times as fast as ours, from the moment it began
      const due = begun + (s * 1000) / clock;
      pending.push({ s, values });
      const last = i === most || asked;
      const behind = due < Date.now();
      if (!last && (behind ? pending.length < 720 : (pending.length * BATCH_S) / clock < BATCH_S)) continue;
      if (!behind) await wait(due - Date.now());
      const first = pending[0].s;
      const taken = await send(me.id, {
        stream,
        batch: batch++,
        what: 'oven',
        channels: [
          { name: 'air', unit: '°C', role: 'oven air' },
          ...run.parts.map((p) => ({ name: p.name, unit: '°C', role: 'part' })),
        ],
        start: new Date(begun + (first * 1000) / clock).toISOString(),
        times: pending.map((p) => (p.s - first) / clock),
        values: [0, 1, 2].map((c) => pending.map((p) => p.values[c])),
        last,
      });
      if (!taken) return;
      pending = [];
      if (last) break;
    }
    if (!asked) await wait(60_000);
    asked = false;
  }
}

await oven(await whoAmI());

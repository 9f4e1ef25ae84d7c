import { follow } from './following.mjs';
import { samplesTo } from './door.mjs';
import { goOn } from './memory.mjs';

const BATCH_S = 5;
/** A logger that falls silent says nothing for so long, min of its own clock. */
const SILENT_MIN = 40;

const RUNS = {
  oven: {
    parts: [
      { name: 'probe 1', massKg: 84 },
      { name: 'probe 2', massKg: 33 },
    ],
    ambientC: 22,
    rampKMin: 2.4,
    holdC: 152,
    holdMin: 420,
  },
  burn: {
    parts: [
      { name: 'probe 1', massKg: 150 },
      { name: 'probe 2', massKg: 40 },
    ],
    ambientC: 22,
    rampKMin: 1.9,
    holdC: 356,
    holdMin: 400,
    coolsMin: 430,
  },
};

/**
 * One oven load after another; told "next load" it ends this one and begins another, told a fault it shows it. Its clock runs `clock`
 * times as fast as ours and stamps what it sends: an hour of the oven is an hour of the log.
 */
export async function oven({
  api,
  headers,
  me,
  program,
  clock,
  seed,
  behindMin,
  faults,
  memory,
  core: { endMin, ovenLogger },
}) {
  const kept = goOn(memory, endMin(RUNS[program]));
  let asked = false;
  let runMin = 0;
  let run;
  let silentTo = -Infinity;
  follow({
    api,
    headers,
    on: ({ command }) => {
      if (command === 'next load') asked = true;
      else if (command === 'falls silent') silentTo = runMin + SILENT_MIN;
      else run.faults.push({ what: command, fromMin: runMin });
      return {
        answer: 'done',
        said: command === 'next load' ? 'this load has ended' : `from minute ${Math.round(runMin)}`,
      };
    },
    // a logger moves nothing: without a line it logs on and sends later
    safe: () => undefined,
    ready: () => undefined,
  });
  for (let load = 0; ; load++) {
    run = { ...RUNS[program], seed: seed + load, faults: load === 0 ? [...faults] : [] };
    const { begun, behindMs, part, sentS } = kept.of(load, behindMin);
    const stream = `load ${new Date(begun).toISOString().slice(0, 16)}${part > 1 ? `, part ${part}` : ''}`;
    const read = ovenLogger(run, BATCH_S);
    const most = Math.ceil((endMin(run) * 60) / BATCH_S);
    let pending = [];
    let batch = 0;
    for (let i = 0; i <= most; i++) {
      const { s, values } = read.next().value;
      runMin = s / 60;
      // what lies behind is there at once; from then on the instrument's clock runs `clock` times as fast as ours
      const due = begun + behindMs + Math.max(0, s * 1000 - behindMs) / clock;
      if (runMin >= silentTo && s > sentS) pending.push({ s, values });
      const last = i === most || asked;
      const behind = due < Date.now();
      if (!last && (behind ? pending.length < 720 : (pending.length * BATCH_S) / clock < BATCH_S)) {
        if (!behind && runMin < silentTo) await samplesTo.wait(due - Date.now());
        continue;
      }
      if (!behind) await samplesTo.wait(due - Date.now());
      if (pending.length === 0) break;
      const first = pending[0].s;
      const taken = await samplesTo.send({ api, headers }, me.id, {
        stream,
        batch: batch++,
        what: 'oven',
        channels: [
          { name: 'air', unit: '°C', role: 'oven air' },
          ...run.parts.map((p) => ({ name: p.name, unit: '°C', role: 'part' })),
        ],
        start: new Date(begun + first * 1000).toISOString(),
        times: pending.map((p) => p.s - first),
        values: [0, ...run.parts.map((_, k) => k + 1)].map((c) => pending.map((p) => p.values[c])),
        last,
      });
      if (!taken) return;
      kept.keep({ begun, part, sentS: pending.at(-1).s });
      pending = [];
      if (last) break;
    }
    if (!asked) await samplesTo.wait(60_000);
    asked = false;
  }
}

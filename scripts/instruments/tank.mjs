import { follow } from './following.mjs';
import { goOn } from './memory.mjs';
import { samplesTo } from './door.mjs';

const BATCH_S = 10;
const SILENT_MIN = 10;

/** A vacuum-pressure plant that runs one cycle after another; told a fault it shows it, told "next load" it begins anew. */
export async function tank({
  api,
  headers,
  me,
  clock,
  seed,
  behindMin,
  memory,
  core: { PLANT_CHANNELS, PLANT_TIMES, vesselPlant },
}) {
  let asked = false;
  let runMin = 0;
  let silentTo = -Infinity;
  let run;
  follow({
    api,
    headers,
    on: ({ command }) => {
      if (command === 'next load') asked = true;
      else if (command === 'falls silent') silentTo = runMin + SILENT_MIN;
      else run.faults.push({ what: command, fromMin: runMin });
      return { answer: 'done', said: command === 'next load' ? 'begins anew' : `from minute ${Math.round(runMin)}` };
    },
    // a plant that hears nothing goes on by its own interlocks
    safe: () => undefined,
    ready: () => undefined,
  });
  const kept = goOn(memory, PLANT_TIMES.end);
  for (let cycle = 0; ; cycle++) {
    run = { seed: seed + cycle, partTopMm: 640, coverMm: 60, faults: [] };
    const { begun, behindMs, part, sentS } = kept.of(cycle, behindMin);
    const stream = `cycle ${new Date(begun).toISOString().slice(0, 16)}${part > 1 ? `, part ${part}` : ''}`;
    const read = vesselPlant(run, BATCH_S);
    const most = Math.ceil((PLANT_TIMES.end * 60) / BATCH_S);
    let pending = [];
    let batch = 0;
    for (let i = 0; i <= most; i++) {
      const { s, values } = read.next().value;
      runMin = s / 60;
      const due = begun + behindMs + Math.max(0, s * 1000 - behindMs) / clock;
      if (runMin >= silentTo && s > sentS) pending.push({ s, values });
      const last = i === most || asked;
      const behind = due < Date.now();
      if (!last && (behind ? pending.length < 360 : (pending.length * BATCH_S) / clock < BATCH_S)) {
        if (!behind && runMin < silentTo) await samplesTo.wait(due - Date.now());
        continue;
      }
      if (!behind) await samplesTo.wait(due - Date.now());
      if (pending.length === 0) break;
      const first = pending[0].s;
      const taken = await samplesTo.send({ api, headers }, me.id, {
        stream,
        batch: batch++,
        what: 'resin tank',
        channels: PLANT_CHANNELS.map((c) => ({ name: c.name, unit: c.unit || '0/1' })),
        start: new Date(begun + first * 1000).toISOString(),
        times: pending.map((p) => p.s - first),
        values: PLANT_CHANNELS.map((_, c) => pending.map((p) => p.values[c])),
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

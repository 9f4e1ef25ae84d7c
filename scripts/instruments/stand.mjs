import { follow } from './following.mjs';
import { samplesTo } from './door.mjs';

const EVERY_S = 0.5;
const SAMPLES = 12;
const BATCH = 4;

/**
 * A balancing stand with an invented rotor on it. Told "spin" it turns it with every mass that it was told of, sends the run as it reads
 * it, and stands still again; told a fault it shows it. It turns nothing by itself, and stops when nothing is heard.
 */
export async function stand({
  ended = new Promise(() => undefined),
  api,
  headers,
  me,
  clock,
  seed,
  core: { seeded, simulatedRun, vectorOf, STAND_CHANNELS },
}) {
  let fault;
  let runs = 0;
  let spinning = 0;
  const stop = () => {
    spinning += 1;
  };

  async function spin(order) {
    const mine = (spinning += 1);
    const random = seeded(seed + 7919 * (runs += 1) + (Date.now() % 100_000));
    const mean = simulatedRun(order, fault, random);
    const stream = `${order.job}, run ${new Date().toISOString()}`;
    const unit = order.separates ? 'g·mm' : 'mm/s';
    const channels = STAND_CHANNELS.map((name, i) => ({ name, unit: i === 4 ? 'r/min' : i % 2 === 0 ? unit : '°' }));
    const begun = Date.now();
    let pending = [];
    for (let i = 0, batch = 0; i < SAMPLES; i++) {
      await samplesTo.wait((EVERY_S * 1000) / clock);
      if (mine !== spinning) return;
      // single samples stray a little round what the run reads
      const at = [mean[0], mean[1]].map((z) => {
        if (!z) return [null, null];
        const v = vectorOf({ re: z.re * (1 + 0.006 * (random() - 0.5)), im: z.im * (1 + 0.006 * (random() - 0.5)) });
        return [v.size, v.angleDeg];
      });
      pending.push([...at.flat(), order.rpm * (1 + 0.002 * (random() - 0.5))]);
      const last = i === SAMPLES - 1;
      if (!last && pending.length < BATCH) continue;
      const first = i + 1 - pending.length;
      const taken = await samplesTo.send({ api, headers }, me.id, {
        stream,
        batch: batch++,
        what: 'balance',
        job: order.job,
        channels,
        start: new Date(begun + first * EVERY_S * 1000).toISOString(),
        step: EVERY_S,
        values: channels.map((_, c) => pending.map((p) => p[c])),
        last,
      });
      if (!taken) return;
      pending = [];
    }
  }

  const line = follow({
    api,
    headers,
    on: ({ command, detail }) => {
      if (command === 'stop') {
        stop();
        return { answer: 'done', said: 'stands still' };
      }
      if (command !== 'spin') {
        fault = command === 'sound again' ? undefined : command;
        return { answer: 'done', said: command };
      }
      if (!detail) return { answer: 'refused', said: 'no rotor was named' };
      void spin(detail);
      return { answer: 'done', said: `spins ${detail.job}` };
    },
    safe: stop,
    ready: () => undefined,
  });
  // it goes on until its program is ended
  await ended;
  stop();
  await line.close();
}

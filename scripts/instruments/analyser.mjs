import { follow } from './following.mjs';
import { samplesTo } from './door.mjs';

const BATCH = 4096;

/**
 * A winding analyser with an invented motor on it. Told "measure" it does that one test of the winding it was told of and sends its
 * streams; told a fault it shows it. It measures nothing by itself, and stops when nothing is heard.
 */
export async function analyser({
  ended = new Promise(() => undefined),
  api,
  headers,
  me,
  clock,
  seed,
  core: { analyserRun, seeded },
}) {
  let fault;
  let runs = 0;
  let measuring = 0;
  const stop = () => {
    measuring += 1;
  };

  async function measure(order) {
    const mine = (measuring += 1);
    const random = seeded(seed + 6007 * (runs += 1) + (Date.now() % 100_000));
    const run = `${order.job}, ${order.test} ${new Date().toISOString()}`;
    const start = new Date().toISOString();
    await samplesTo.wait(1500 / clock);
    for (const { name, what, channels, times, values } of analyserRun(order, fault, random)) {
      for (let first = 0, batch = 0; first < times.length; first += BATCH, batch++) {
        if (mine !== measuring) return;
        const to = Math.min(times.length, first + BATCH);
        const taken = await samplesTo.send({ api, headers }, me.id, {
          stream: `${run}, ${name}`,
          batch,
          what,
          job: order.job,
          channels,
          start,
          times: times.slice(first, to),
          values: values.map((v) => v.slice(first, to)),
          last: to === times.length,
        });
        if (!taken) return;
      }
    }
  }

  const line = follow({
    api,
    headers,
    on: ({ command, detail }) => {
      if (command === 'stop') {
        stop();
        return { answer: 'done', said: 'stopped' };
      }
      if (command === 'next test') return { answer: 'refused', said: 'a test is asked for at its motor' };
      if (command !== 'measure') {
        fault = command === 'sound again' ? undefined : command;
        return { answer: 'done', said: command };
      }
      if (!detail) return { answer: 'refused', said: 'no motor was named' };
      void measure(detail);
      return { answer: 'done', said: `measures ${detail.job}` };
    },
    safe: stop,
    ready: () => undefined,
  });
  // it goes on until its program is ended
  await ended;
  stop();
  await line.close();
}

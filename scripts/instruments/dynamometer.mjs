import { follow } from './following.mjs';
import { samplesTo } from './door.mjs';

/** Seconds from sample to sample, and samples a batch: twenty a second, ten batches. */
const STEP_S = 0.05;
const BATCH = 2;
/** Once the motor stands its resistance is read: the first after so long, then one a second in batches, for so long; s. */
const STANDS_S = 6;
const OHM_STEP_S = 1;
const OHM_BATCH = 5;
const COOLS_S = 180;

/**
 * A dynamometer with its power meter and an invented motor on it. Told "load" it starts the motor it was told of and sends what it reads,
 * twenty samples a second, until it is told to stop; told a load it puts it on. When nothing is heard for two seconds the load comes off
 * by itself. Warming goes `clock` times as fast; samples are always of the clock on the wall.
 */
export async function dynamometer({
  ended = new Promise(() => undefined),
  api,
  headers,
  me,
  clock,
  seed,
  core: { LoadStand, LOAD_CHANNELS, COOLING_CHANNELS },
  standsS = STANDS_S,
  coolsS = COOLS_S,
}) {
  let fault;
  let on;
  let runs = 0;
  let over = false;

  async function run(order) {
    const stand = new LoadStand(order, seed + 5003 * (runs += 1));
    const mine = (on = { stand, job: order.job });
    stand.show(fault);
    const begun = Date.now();
    let pending = [];
    let batch = 0;
    let sample = 0;
    const flush = async (last) => {
      const first = sample - pending.length;
      const values = LOAD_CHANNELS.map((_, c) => pending.map((p) => p[c]));
      pending = [];
      return samplesTo.send({ api, headers }, me.id, {
        stream: order.stream,
        batch: batch++,
        what: 'load',
        job: order.job,
        channels: LOAD_CHANNELS,
        start: new Date(begun + first * STEP_S * 1000).toISOString(),
        step: STEP_S,
        values,
        last,
      });
    };
    while (mine === on) {
      // what was missed while the line was away is read all the same, as a data logger would
      const due = Math.floor((Date.now() - begun) / 1000 / STEP_S);
      while (sample < due && pending.length < 400) {
        stand.advance(STEP_S, clock);
        pending.push(stand.read());
        sample += 1;
      }
      const still = stand.runs;
      if (fault === 'falls silent') {
        sample = due;
        pending = [];
      } else if (pending.length >= BATCH || (!still && pending.length > 0)) {
        if (!(await flush(!still))) break;
      }
      if (!still) break;
      await samplesTo.wait(Math.max(5, begun + (sample + BATCH) * STEP_S * 1000 - Date.now()));
    }
    if (mine === on) on = undefined;
    if (!stand.runs && me.mayWrite?.includes('cooling')) await cool(order, stand);
  }

  /** The motor stands: what its winding has as resistance while it cools, until another is run. */
  async function cool(order, stand) {
    await samplesTo.wait(standsS * 1000);
    stand.advance(standsS, clock);
    const begun = Date.now();
    for (let batch = 0; batch * OHM_BATCH * OHM_STEP_S < coolsS && !on && !over; batch++) {
      const ohms = [];
      for (let i = 0; i < OHM_BATCH; i++) {
        ohms.push(stand.readOhm());
        stand.advance(OHM_STEP_S, clock);
      }
      const sent = await samplesTo.send({ api, headers }, me.id, {
        stream: `${order.stream}, cooling`,
        batch,
        what: 'cooling',
        job: order.job,
        channels: COOLING_CHANNELS,
        start: new Date(begun + batch * OHM_BATCH * OHM_STEP_S * 1000).toISOString(),
        step: OHM_STEP_S,
        values: [ohms],
        last: (batch + 1) * OHM_BATCH * OHM_STEP_S >= coolsS,
      });
      if (!sent) break;
      await samplesTo.wait(begun + (batch + 1) * OHM_BATCH * OHM_STEP_S * 1000 - Date.now());
    }
  }

  const line = follow({
    api,
    headers,
    on: ({ command, value, detail }) => {
      switch (command) {
        case 'load':
          if (!detail) return { answer: 'refused', said: 'no motor was named' };
          void run(detail);
          return { answer: 'done', said: `runs ${detail.job}` };
        case 'set load':
        case 'hold':
        case 'unload':
        case 'stop':
          if (!on) return { answer: command === 'stop' ? 'done' : 'refused', said: 'no motor is running' };
          if (command === 'set load') on.stand.set(value);
          else on.stand[command]();
          return { answer: 'done', said: command === 'set load' ? `load ${value} N·m` : command };
        default:
          fault = command === 'sound again' ? undefined : command;
          on?.stand.show(command);
          return { answer: 'done', said: command };
      }
    },
    safe: () => on?.stand.unload(),
    ready: () => undefined,
  });
  // it goes on until its program is ended
  await ended;
  over = true;
  on?.stand.stop();
  on = undefined;
  await line.close();
}

#!/usr/bin/env node
// npm run instruments -- oven burn tank stand analyser dynamometer [--key oven=ni_…] [--server http://127.0.0.1:4310] [--clock 60] [--seed 7]
//   [--behind | --backlog 90] [--fault "probe sticks@120"]
// Simulated instruments: they send through the documented door, as real ones would. Nothing here knows the server from inside.
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { BEHIND_MIN, DEMO_PROGRAMS, demoKeyFile } from './instruments/demoPrograms.mjs';
import { samplesTo } from './instruments/door.mjs';
import { analyser } from './instruments/analyser.mjs';
import { dynamometer } from './instruments/dynamometer.mjs';
import { oven } from './instruments/oven.mjs';
import { stand } from './instruments/stand.mjs';
import { tank } from './instruments/tank.mjs';
import { dataFolder } from './setup/paths.mjs';

const PROGRAMS = { oven, burn: oven, tank, stand, analyser, dynamometer };
const { values: said, positionals } = parseArgs({
  allowPositionals: true,
  options: {
    server: { type: 'string', default: process.env.NORTHER_SERVER ?? 'http://127.0.0.1:4310' },
    /** of one program ni_…, of several program=ni_…; those of the demo shop are found by themselves */
    key: { type: 'string', multiple: true, default: [] },
    clock: { type: 'string', default: '1' },
    seed: { type: 'string', default: '7' },
    /** minutes of the run that lie behind already; --behind: as the demo shop has them */
    backlog: { type: 'string', default: '0' },
    behind: { type: 'boolean', default: false },
    /** what goes wrong, and from which minute of the first run on */
    fault: { type: 'string', multiple: true, default: [] },
  },
});
const stop = (sentence) => {
  process.stderr.write(`norther instruments: ${sentence}\n`);
  process.exit(1);
};
if (positionals.length === 0 || positionals.some((p) => !Object.hasOwn(PROGRAMS, p)))
  stop(`Name simulated instruments: ${Object.keys(PROGRAMS).join(', ')}.`);
const numberOf = (name, least) => {
  const value = Number(said[name]);
  if (!Number.isFinite(value) || value < least) stop(`--${name} must be a number from ${least}, not "${said[name]}".`);
  return value;
};
const clock = numberOf('clock', 0.1);
const seed = numberOf('seed', 0);
const backlogMin = numberOf('backlog', 0);

const core = await import(new URL('../packages/core/dist/index.js', import.meta.url).href);
const faults = said.fault.map((text) => {
  const [, what, from] = /^(.+)@(\d+(?:\.\d+)?)$/.exec(text) ?? [];
  if (!core.OVEN_FAULTS.includes(what))
    stop(`--fault is one of ${core.OVEN_FAULTS.join(', ')} and a minute, as "probe sticks@120"; not "${text}".`);
  return { what, fromMin: Number(from) };
});

/** The key of a program: as it is said, as the environment has it, or as the demo shop keeps it. */
function keyOf(program) {
  for (const key of said.key) {
    if (key.startsWith(`${program}=`)) return key.slice(program.length + 1);
    if (!key.includes('=') && positionals.length === 1) return key;
  }
  const known = JSON.parse(process.env.NORTHER_INSTRUMENT_KEYS ?? '{}')[program];
  if (known) return known;
  const file = join(dataFolder, demoKeyFile(program));
  return DEMO_PROGRAMS.includes(program) && existsSync(file) ? readFileSync(file, 'utf8').trim() : undefined;
}

// a killed start script takes its instruments with it
const parent = process.ppid;
if (process.env.NORTHER_STARTED === 'yes')
  setInterval(() => {
    if (process.ppid !== parent) process.exit(0);
  }, 500).unref();

await Promise.all(
  positionals.map(async (program) => {
    const key = keyOf(program);
    if (!key) stop(`Name the key of ${program}: --key ${program}=ni_… (an admin makes it on the Instruments page).`);
    const door = {
      api: `${said.server.replace(/\/$/, '')}/api`,
      headers: { Authorization: `Bearer ${key}`, 'Content-Type': 'application/json' },
    };
    const me = await samplesTo.whoAmI(door);
    if (!me) return process.stderr.write(`norther instruments: the server does not know the key of ${program}.\n`);
    await PROGRAMS[program]({
      ...door,
      me,
      program,
      clock,
      seed,
      behindMin: said.behind ? (BEHIND_MIN[program] ?? 0) : backlogMin,
      faults,
      memory: said.behind ? join(dataFolder, `demo-${program}.run.json`) : undefined,
      core,
    });
  }),
);

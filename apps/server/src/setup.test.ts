import { windingFileJsonSchema } from '@norther/core';
import { spawnSync } from 'node:child_process';
import { chmodSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { createServer, type Server } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { startKit } from './testing/startKit.ts';

const root = fileURLToPath(new URL('../../..', import.meta.url));
const { folder, start, left, freePort, answers, silent, ended } = startKit('norther-setup-');

describe('npm start', () => {
  let port = 0;
  beforeAll(async () => {
    port = await freePort();
  });
  afterAll(async () => {
    for (const line of left()) process.kill(Number(line.trim().split(' ')[0]), 'SIGKILL');
    await new Promise((r) => setTimeout(r, 300));
    rmSync(folder, { recursive: true, force: true });
  });

  it('starts empty for the first visitor, and SIGTERM leaves no process behind', async () => {
    const { child, said } = start(port, ['--empty']);
    await answers(port);
    const setup = (await (await fetch(`http://127.0.0.1:${port}/api/setup`)).json()) as {
      needsFirstAdmin: boolean;
      demo: unknown[];
    };
    expect(setup).toMatchObject({ needsFirstAdmin: true, demo: [] });
    expect(left().length).toBeGreaterThan(0);
    child.kill('SIGTERM');
    await ended(child);
    expect(left()).toEqual([]);
    expect(said()).toContain('No people yet');
  }, 200_000);

  it('answers a second start within 15 s, and takes over the cluster of a killed run', async () => {
    const first = start(port, ['--empty']);
    expect(await answers(port)).toBeLessThan(15_000);
    first.child.kill('SIGKILL');
    await ended(first.child);
    // its server notices and goes; the database stays for the next start
    await silent(port);
    expect(left().some((l) => l.includes('postgres'))).toBe(true);
    const again = start(port, ['--empty']);
    await answers(port);
    expect(again.said()).toContain('taking over the database left running');
    again.child.kill('SIGINT');
    await ended(again.child);
    expect(left()).toEqual([]);
  }, 120_000);

  it.each([
    ['a port in use', async () => ({}), /Port \d+ on 127\.0\.0\.1 is in use\. Choose another: PORT=/],
    ['a port that is none', async () => ({ PORT: 'ninety' }), /PORT must be a number from 1 to 65535/],
  ])(
    '%s is said in one sentence',
    async (_, env, sentence) => {
      const busy: Server = createServer();
      await new Promise<void>((r) => busy.listen(port, '127.0.0.1', () => r()));
      const { child, said } = start(port, [], await env());
      expect(await ended(child)).toBe(1);
      expect(said()).toMatch(sentence);
      expect(said()).not.toMatch(/at .*\.mjs:/);
      await new Promise((r) => busy.close(r));
    },
    60_000,
  );

  it.runIf(process.getuid?.() === 0)(
    'a folder that the database user cannot enter is said with what to do',
    async () => {
      const shut = mkdtempSync(join(tmpdir(), 'norther-shut-'));
      chmodSync(shut, 0o700);
      const { child, said } = start(await freePort(), [], { NORTHER_DATA: join(shut, 'data') });
      expect(await ended(child)).toBe(1);
      expect(said()).toMatch(/The database user "postgres" cannot enter .*Choose another data folder: NORTHER_DATA=/);
      rmSync(shut, { recursive: true, force: true });
    },
    60_000,
  );
});

describe('npm run calc', () => {
  const calc = (args: string[], input = '') =>
    spawnSync(process.execPath, [join(root, 'scripts/calc.mjs'), ...args], { encoding: 'utf8', input, cwd: root });
  it('lists, shows schema and example, computes', () => {
    expect(calc(['--list']).stdout).toMatch(/^winding\.layout\tLayout of a winding/m);
    expect(JSON.parse(calc(['winding.layout', '--schema']).stdout)).toMatchObject({
      id: 'winding.layout',
      input: { type: 'object' },
    });
    const example = calc(['balance.onePlane', '--example']).stdout;
    const result = JSON.parse(calc(['balance.onePlane'], example).stdout) as {
      values: { correction: { unbalanceGMm: number } };
      working: unknown[];
    };
    expect(result.values.correction.unbalanceGMm).toBeCloseTo(253.513, 2);
    expect(result.working.length).toBeGreaterThan(2);
  }, 60_000);
  it.each([
    ['input that is not JSON', ['machine.poles'], 'poles please', /not JSON/],
    ['a missing field', ['machine.poles'], '{"speedRpm": 1455}', /frequencyHz: This is missing; a number is needed\./],
    ['an unknown calculation', ['machine.magic'], '{}', /There is no calculation "machine\.magic"/],
    ['nothing at all', [], '', /Name a calculation/],
  ])(
    '%s exits 2 with a sentence',
    (_, args, input, sentence) => {
      const r = calc(args, input);
      expect(r.status).toBe(2);
      expect(r.stderr).toMatch(sentence);
    },
    60_000,
  );
});

describe('open formats', () => {
  it('the published schema in docs is the one the program keeps', () => {
    const published = JSON.parse(
      readFileSync(new URL('../../../docs/winding-record.schema.json', import.meta.url), 'utf8'),
    ) as unknown;
    expect(published).toEqual(JSON.parse(JSON.stringify(windingFileJsonSchema())));
  });
});

import { partOf } from '../testing/partOf.ts';
import { describe, expect, it } from 'vitest';
import { demo } from '../testing/demoNumber.ts';
import { idle, type Client } from '../testing/server.ts';
import { demoShop } from '../testing/shopPeople.ts';

const { server, winder, tester, foreman, admin, viewer, take } = demoShop('norther_order');

describe('the rules of order', () => {
  const finish = (who: Client, number: string, code: string, typed: object) =>
    who('POST', `jobs/${number}/steps/${code}/finish`, { typed });
  const start = (who: Client, number: string, code: string, body: object = {}) =>
    who('POST', `jobs/${number}/steps/${code}/start`, body);
  const ir = {
    testV: '500',
    r1min: '8.5',
    windingC: '22',
    measured: 'whole winding',
    kind: 'random-wound',
    system: 'thermosetting',
    instrument: 'tester',
  };

  it('holds are refused with the reason; a foreman passes one with a reason that stays', async () => {
    const number = await take();
    const held = await start(winder, number, 'PRE');
    expect(held.status).toBe(409);
    expect(held.body.detail).toMatch(/held: after Tests before resin/);
    expect((await start(foreman, number, 'PRE')).status).toBe(409);
    expect((await start(foreman, number, 'PRE', { override: { reason: '' } })).status).toBe(422);
    expect((await start(foreman, number, 'PRE', { override: { reason: 'trial of the rule' } })).status).toBe(200);
    const { body: job } = await viewer('GET', `jobs/${number}`);
    const step = job.detailSteps.find((s: { code: string }) => s.code === 'PRE');
    expect(step.attempts[0]).toMatchObject({ override: 'trial of the rule', startedBy: 'Odd Marstein' });
    expect(job.steps.find((s: { code: string }) => s.code === 'PRE').overridden).toBe(true);
  });
  it('a step is finished with its readings; what misses is named; a fail blocks what follows', async () => {
    const number = await take();
    expect((await finish(winder, number, 'INT', {})).status).toBe(409);
    await start(winder, number, 'INT');
    const missing = await finish(winder, number, 'INT', {});
    expect(missing.status).toBe(422);
    expect(missing.body.problems.map((p: { field: string }) => p.field)).toContain('partsTagged');
    const failed = await finish(winder, number, 'INT', { partsTagged: 'no', nameplate: 'legible' });
    expect(failed.body).toMatchObject({ verdict: 'fail' });
    expect((await start(tester, number, 'TAF')).status).toBe(409);
    expect((await foreman('POST', `jobs/${number}/steps/INT/reopen`, { reason: 'tag the parts' })).status).toBe(200);
    await start(winder, number, 'INT');
    expect((await finish(winder, number, 'INT', { partsTagged: 'yes', nameplate: 'legible' })).body.verdict).toBe(
      'pass',
    );
    const { body: job } = await viewer('GET', `jobs/${number}`);
    expect(job.detailSteps[0].attempts).toHaveLength(2);
  });
  it('no impregnation before passed pre-varnish tests: attention opens it only with a named sign-off', async () => {
    const number = demo(4);
    expect((await start(winder, number, 'PRE')).body.detail).toMatch(/needs a sign-off/);
    expect((await winder('POST', `jobs/${number}/steps/PVT/sign`, { reason: 'looks good' })).status).toBe(403);
    expect(
      (await tester('POST', `jobs/${number}/steps/PVT/sign`, { reason: 'Dried and measured again, rising.' })).status,
    ).toBe(200);
    expect((await start(winder, number, 'PRE')).status).toBe(200);
  });
  it('cannot judge is never signed away', async () => {
    const number = await take({ intake: { came: 'stator only' }, route: 'overhaul' });
    await start(winder, number, 'INT');
    await finish(winder, number, 'INT', { partsTagged: 'yes', nameplate: 'legible' });
    await start(tester, number, 'TAF');
    const undone = await finish(tester, number, 'TAF', { turnsByHand: 'no rotor', tester: 'bridge' });
    expect(undone.body.verdict).toBe('cannot judge');
    expect(undone.body.reason).toMatch(/Surge comparison .* is not done/);
    expect((await tester('POST', `jobs/${number}/steps/TAF/sign`, { reason: 'please' })).body.detail).toMatch(
      /cannot be judged yet/,
    );
  });
  it('a failed PVT: the foreman reopens what mends it, what followed is looked at again, attempts stay', async () => {
    const number = demo(3);
    expect((await foreman('POST', `jobs/${number}/steps/CON/reopen`, { reason: 'joint of U4 open' })).status).toBe(200);
    const { body: job } = await viewer('GET', `jobs/${number}`);
    const state = (code: string) => job.steps.find((s: { code: string }) => s.code === code).state as string;
    expect([state('CON'), state('LAC'), state('PVT')]).toEqual(['open', 'recheck', 'open']);
    expect(job.detailSteps.find((s: { code: string }) => s.code === 'PVT').attempts).toHaveLength(1);
  });
  it('a reading is corrected by a new one with a reason; the old stays', async () => {
    const number = await take();
    const first = await tester('POST', `jobs/${number}/tests`, {
      stage: 'IN',
      kind: 'insulationResistance',
      typed: ir,
    });
    expect(first.body.verdict).toBe('attention');
    const correction = {
      stage: 'IN',
      kind: 'insulationResistance',
      typed: { ...ir, r1min: '85' },
      supersedes: first.body.id,
    };
    expect((await tester('POST', `jobs/${number}/tests`, correction)).status).toBe(422);
    expect(
      (await tester('POST', `jobs/${number}/tests`, { ...correction, reason: 'decimal point' })).body.verdict,
    ).toBe('pass');
    expect((await tester('POST', `jobs/${number}/tests`, { ...correction, reason: 'again' })).status).toBe(409);
    const { body: job } = await viewer('GET', `jobs/${number}`);
    expect(job.tests).toHaveLength(2);
    expect(job.tests[0].supersededBy).toBe(job.tests[1].id);
  });
  it('the data are agreed only when complete and possible, the plan is released by a foreman', async () => {
    const { body: sound } = await viewer('GET', `jobs/${demo(11)}`);
    const number = await take();
    await winder('PUT', `jobs/${number}/winding`, { revision: 0, typed: { ...partOf(sound).found.typed, boreM: '' } });
    const refused = await foreman('POST', `jobs/${number}/winding/release`, { revision: 1 });
    expect(refused.status).toBe(422);
    expect(refused.body.detail).toMatch(/still misses: Bore/);
  });
  it('a rotor and a second winding have records of their own; an impossible one keeps the data from being agreed', async () => {
    const { body: sound } = await viewer('GET', `jobs/${demo(19)}`);
    expect(sound.parts.map((p: { kind: string }) => p.kind)).toEqual(['stator', 'wound-rotor']);
    const number = await take();
    const save = (part: string, typed: object, revision = 0) =>
      winder('PUT', `jobs/${number}/winding`, { part, revision, typed });
    expect((await save('stator', partOf(sound).found.typed)).body).toMatchObject({ part: 'stator', revision: 1 });
    expect((await save('rotor', partOf(sound, 'wound-rotor').found.typed)).body).toMatchObject({
      part: 'wound-rotor',
      revision: 1,
    });
    expect((await save('rotor', partOf(sound, 'wound-rotor').found.typed)).status).toBe(409);
    expect((await save('wheel', {})).status).toBe(422);
    const wrong = { ...partOf(sound, 'wound-rotor').found.typed, farPitchSlots: '20' };
    expect((await save('rotor', wrong, 1)).status).toBe(200);
    const refused = await foreman('POST', `jobs/${number}/winding/release`, { part: 'wound-rotor', revision: 2 });
    expect(refused.body.detail).toMatch(
      /Wound rotor: the winding record cannot be right: The far-end pitch is 8 to 12 slots/,
    );
    expect((await save('second', { poles: '4', spansSlots: '1-9', turns: '8' })).status).toBe(200);
    const { body: job } = await viewer('GET', `jobs/${number}`);
    expect(partOf(job).found.revision).toBe(1);
    expect(job.parts.map((p: { kind: string }) => p.kind)).toEqual(['stator', 'second', 'wound-rotor']);
  });
  it('joints are ticked by name, looked at by another, and kept as they really are', async () => {
    const at = `jobs/${demo(6)}/joints/stator`;
    expect((await viewer('GET', at)).body).toEqual({
      part: 'stator',
      version: 0,
      order: 'jumpers first',
      ticks: {},
      asMade: '',
    });
    expect((await viewer('POST', `${at}/ticks`, { joint: '1F-4F', what: 'made' })).status).toBe(403);
    const made = await winder('POST', `${at}/ticks`, { joint: '1F-4F', kind: 'crimp', what: 'made' });
    expect(made.body.ticks['1F-4F']).toMatchObject({ kind: 'crimp', by: 'Ines Halvard', checkedBy: null });
    expect((await winder('POST', `${at}/ticks`, { joint: '1F-4F', what: 'checked' })).body.detail).toMatch(
      /second person/,
    );
    expect(
      (await foreman('POST', `${at}/ticks`, { joint: '1F-4F', what: 'checked' })).body.ticks['1F-4F'].checkedBy,
    ).toBe('Odd Marstein');
    expect((await winder('POST', `${at}/ticks`, { joint: '1F-99S', what: 'made' })).body.detail).toMatch(
      /no joint of this connection/,
    );
    expect((await winder('POST', `${at}/ticks`, { joint: '7F-10F', what: 'checked' })).body.detail).toMatch(
      /not been made/,
    );
    const { body: sheet } = await winder('GET', at);
    const save = (version: number, asMade: string) => winder('PUT', at, { version, order: 'leads first', asMade });
    expect((await save(sheet.version, '1F-4Q')).body.detail).toMatch(/"4Q" in "1F-4Q" is no end/);
    expect((await save(sheet.version, '1F-4F')).body).toMatchObject({ order: 'leads first', asMade: '1F-4F' });
    expect((await save(sheet.version, '1F-4S')).status).toBe(409);
    const back = await winder('POST', `${at}/ticks`, { joint: '1F-4F', what: 'not made' });
    expect(back.body.ticks).toEqual({});
    expect((await viewer('GET', `jobs/${demo(6)}/joints/wheel`)).status).toBe(404);
    expect((await winder('POST', `jobs/${demo(8)}/joints/stator/ticks`, { joint: '1F-4F', what: 'made' })).status).toBe(
      422,
    );
    expect((await winder('POST', `jobs/${demo(1)}/joints/stator/ticks`, { joint: '1F-4F', what: 'made' })).status).toBe(
      409,
    );
  });
  it('a winding is taken away as JSON, CSV, SVG and PDF; what is not there is said', async () => {
    const at = `jobs/${demo(17)}/winding/stator`;
    expect((await viewer('GET', `${at}/record.json`)).body).toMatchObject({
      format: 'norther-winding',
      record: { slots: 72, poles: 6, leads: '12' },
    });
    expect(String((await viewer('GET', `${at}/coils.csv`)).body).split('\r\n')).toHaveLength(74);
    expect(String((await viewer('GET', `${at}/groups.csv`)).body)).toMatch(/^group,phase,polarity/);
    for (const name of ['slot-ring', 'developed', 'connection', 'phasor-star', 'harmonics', 'slot-section'])
      expect(String((await viewer('GET', `${at}/drawings/${name}.svg`)).body), name).toMatch(/^<svg /);
    expect(String((await viewer('GET', `${at}/drawings.pdf`)).body).startsWith('%PDF-')).toBe(true);
    expect((await viewer('GET', `jobs/${demo(19)}/winding/rotor/coils.csv`)).status).toBe(200);
    expect((await viewer('GET', `${at}/drawings/tree.svg`)).status).toBe(404);
    expect((await viewer('GET', `jobs/${demo(17)}/winding/rotor/record.json`)).status).toBe(404);
    expect((await viewer('GET', `jobs/${demo(17)}/winding/wheel/record.json`)).status).toBe(404);
    expect((await viewer('GET', `jobs/${demo(17)}/card.pdf?part=wheel`)).status).toBe(422);
  });
  it('the archive finds by any word, ranks by likeness and takes old records only when they can be right', async () => {
    const keys = async (q: string) =>
      ((await viewer('GET', `archive?q=${encodeURIComponent(q)}`)).body as { key: string }[]).map((e) => e.key);
    expect(await keys('slip-ring')).toEqual(
      expect.arrayContaining([`job/${demo(19)}/stator`, `job/${demo(19)}/wound-rotor`]),
    );
    expect(await keys('quarry crusher')).toEqual([`job/${demo(4)}/stator`]);
    expect(await keys('%')).toEqual([]);
    expect((await viewer('GET', `archive?q=${'x'.repeat(200)}`)).status).toBe(422);
    const like = (await viewer('POST', 'archive/similar', { key: `job/${demo(4)}/stator` })).body.entries as {
      key: string;
      score: number;
      differs: string[];
    }[];
    expect(like.some((e) => e.key === `job/${demo(4)}/stator`)).toBe(false);
    expect(like.map((e) => e.score)).toEqual([...like.map((e) => e.score)].sort((a, b) => b - a));
    // the other 72-slot 6-pole motor of the house comes first
    expect(like[0]?.key).toBe(`job/${demo(17)}/stator`);
    expect(like[0]?.differs.join(' ')).toMatch(/output 37 kW against 75 kW/);
    expect((await viewer('POST', 'archive/similar', { key: 'old/none' })).status).toBe(404);
    const number = await take();
    const typed = (await viewer('POST', 'archive/similar', { number, typed: { slots: '54', poles: '10' } })).body
      .entries;
    expect(typed[0].key).toBe(`job/${demo(13)}/stator`);
    const row = (line: number, more: object = {}) => ({
      line,
      title: `Old pump ${line}`,
      plateTyped: { outputW: '11', voltagesV: '400', frequencyHz: '50', speedRpm: '1455' },
      typed: { slots: '36', poles: '4', layers: 'double', form: 'lap', spansSlots: '1-9', turns: '34', ...more },
    });
    const body = (rows: object[]) => ({ fileName: 'old.csv', rows });
    expect((await foreman('POST', 'archive', body([row(2)]))).status).toBe(403);
    const refused = await admin('POST', 'archive', body([row(2), row(3, { poles: '2' })]));
    expect(refused.status).toBe(422);
    expect(JSON.stringify(refused.body)).toMatch(/Line 3: 2 poles at 50 Hz/);
    expect(await keys('Old pump')).toEqual([]);
    expect((await admin('POST', 'archive', body([row(2), row(3)]))).body).toEqual({ kept: 2 });
    expect((await keys('Old pump')).every((k) => k.startsWith('old/'))).toBe(true);
  });
  it('a job that left the house takes nothing new, by whatever door', async () => {
    const number = demo(1);
    const { body: job } = await viewer('GET', `jobs/${number}`);
    const doors: [Client, string, string, object][] = [
      [
        winder,
        'PUT',
        'winding',
        { revision: partOf(job).found.revision, typed: partOf(job).found.typed, reason: 'late idea' },
      ],
      [foreman, 'POST', 'winding/release', { revision: partOf(job).found.revision }],
      [
        tester,
        'POST',
        'tests',
        { stage: 'FI', kind: 'surge', typed: { testV: '1800', outcome: 'pass', instrument: 'x' } },
      ],
      [winder, 'POST', 'balances', { typed: job.balances[0].typed }],
      [
        winder,
        'POST',
        'cures',
        { csv: '0;20\n60;135\n', roles: ['part'], resin: 'Polyester dip resin', reason: 'late log' },
      ],
      [foreman, 'POST', 'steps/INT/reopen', { reason: 'late idea' }],
    ];
    for (const [who, method, path, body] of doors) {
      const answer = await who(method, `jobs/${number}/${path}`, body);
      expect(answer.status, path).toBe(409);
      expect(answer.body.detail, path).toMatch(/left the house/);
    }
  });
  it('a cure is judged from the part channel against the resin of the shop', async () => {
    const number = await take();
    const csv = 'min;air;part\n0;24;24\n60;150;130\n120;150;148\n480;150;149\n540;60;80\n';
    const base = { csv, resin: 'Polyester dip resin', maxGapMin: 400, fileName: 'log.csv' };
    expect((await winder('POST', `jobs/${number}/cures`, { ...base, roles: ['oven air', 'part'] })).body.verdict).toBe(
      'pass',
    );
    const again = await winder('POST', `jobs/${number}/cures`, { ...base, roles: ['part', 'oven air'] });
    expect(again.body.problems[0].field).toBe('reason');
    expect(
      (
        await winder('POST', `jobs/${number}/cures`, {
          ...base,
          roles: ['oven air', 'oven air'],
          reason: 'wrong column',
        })
      ).body.verdict,
    ).toBe('cannot judge');
    expect((await winder('POST', `jobs/${number}/cures`, { ...base, roles: ['part'], reason: 'x y z' })).status).toBe(
      422,
    );
    expect(
      (await winder('POST', `jobs/${number}/cures`, { ...base, resin: 'glue', roles: ['oven air', 'part'] })).status,
    ).toBe(422);
  });
  // in the long run as many rows and channels as there may be
  const [ROWS, CHANNELS] = process.env['NORTHER_LONG'] === 'yes' ? [1_000_000, 8] : [150_000, 2];
  it(`an oven log of ${ROWS} rows and ${CHANNELS} channels is read and judged, the server answering meanwhile`, async () => {
    const number = await take();
    const parts = Array.from({ length: CHANNELS - 1 }, (_, i) => i);
    const rows = Array.from({ length: ROWS }, (_, i) => {
      const minutes = (i * 600) / ROWS;
      const part = Math.min(148, 24 + 2 * minutes);
      return [
        minutes.toFixed(4),
        Math.min(150, part + 6).toFixed(1),
        ...parts.map((p) => (part + p / 10).toFixed(1)),
      ].join(';');
    });
    const csv = `min;air;${parts.map((p) => `part ${p}`).join(';')}\n${rows.join('\n')}\n`;
    let judged = false;
    const begun = Date.now();
    const answer = await winder('POST', `jobs/${number}/cures`, {
      csv,
      resin: 'Polyester dip resin',
      fileName: 'long.csv',
      roles: ['oven air', ...parts.map(() => 'part')],
    });
    expect(answer.body).toEqual({ work: expect.any(String) });
    const judging = idle(server().app, 500).finally(() => (judged = true));
    let asked = 0;
    while (!judged) {
      expect((await winder('GET', `jobs/${number}`)).status).toBe(200);
      asked += 1;
      await new Promise((r) => setTimeout(r, 100));
    }
    await judging;
    if (process.env['NORTHER_TELL'])
      process.stderr.write(
        `log of ${ROWS} x ${CHANNELS}: ${Date.now() - begun} ms, ${asked} other answers meanwhile\n`,
      );
    const work = (await winder('GET', `work/${answer.body.work}`)).body;
    expect([work.state, work.result?.verdict]).toEqual(['done', 'pass']);
  }, 600_000);
});

import { describe, expect, it } from 'vitest';
import type { Client } from '../testing/server.ts';
import { demoShop } from '../testing/shopPeople.ts';
import { doneAt, waitedS } from './doneAt.ts';

const { winder, tester, foreman, viewer, take } = demoShop('norther_spells');
const PNG = new Uint8Array(
  Buffer.from(
    'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNkYPhfDwAChwGA60e6kgAAAABJRU5ErkJggg==',
    'base64',
  ),
);

interface Spell {
  person: string;
  from: string;
  to: string | null;
  ended: string | null;
  handedTo: string | null;
}
const INTAKE = { typed: { partsTagged: 'yes', nameplate: 'legible' } };
const step = (who: Client, number: string, what: string, body: object = {}, headers: Record<string, string> = {}) =>
  who('POST', `jobs/${number}/steps/INT/${what}`, body, headers);
const intake = async (number: string) => {
  const { body } = await viewer('GET', `jobs/${number}`);
  return body.detailSteps.find((s: { code: string }) => s.code === 'INT');
};
const spells = async (number: string): Promise<Spell[]> => (await intake(number)).attempts.at(-1).spells;
const idOf = async (name: string): Promise<string> =>
  (await viewer('GET', 'people')).body.find((p: { name: string }) => p.name === name).id;

describe('who works at a step', () => {
  it('start, join, pause, go on, finish: each stretch with its person and how it ended', async () => {
    const number = await take();
    expect((await step(winder, number, 'work', { what: 'join' })).status).toBe(409);
    await step(winder, number, 'start');
    expect((await step(tester, number, 'work', { what: 'join' })).status).toBe(200);
    // a press too many does no harm
    expect((await step(tester, number, 'work', { what: 'join' })).status).toBe(200);
    expect((await spells(number)).map((s) => [s.person, s.to])).toEqual([
      ['Ines Halvard', null],
      [(await spells(number))[1]?.person, null],
    ]);
    await step(winder, number, 'work', { what: 'pause' });
    const refused = await step(winder, number, 'work', { what: 'pause' });
    expect(refused).toMatchObject({ status: 409 });
    expect(refused.body.detail).toBe('Ines Halvard is not at Intake just now.');
    await step(winder, number, 'work', { what: 'join' });
    expect((await step(winder, number, 'finish', INTAKE)).body.verdict).toBe('pass');
    expect((await spells(number)).map((s) => s.ended)).toEqual(['pause', 'finish', 'finish']);
    expect((await spells(number)).every((s) => s.to !== null)).toBe(true);
    expect((await step(winder, number, 'work', { what: 'join' })).status).toBe(409);
  });
  it('handing over ends one stretch and begins the other’s; only to somebody who may, and not to oneself', async () => {
    const number = await take();
    await step(winder, number, 'start');
    const to = async (name: string) => step(winder, number, 'work', { what: 'hand over', to: await idOf(name) });
    expect((await to('Ines Halvard')).body).toMatchObject({
      field: 'to',
      detail: 'It cannot be handed over to oneself.',
    });
    const unknown = await step(winder, number, 'work', {
      what: 'hand over',
      to: '00000000-0000-4000-8000-000000000000',
    });
    expect(unknown.body).toMatchObject({ status: 422, field: 'to' });
    expect((await step(winder, number, 'work', { what: 'hand over', to: 'Tomas' })).status).toBe(422);
    expect((await to('Tomas Brekke')).status).toBe(200);
    expect((await spells(number)).map((s) => [s.person, s.ended, s.handedTo])).toEqual([
      ['Ines Halvard', 'hand over', 'Tomas Brekke'],
      ['Tomas Brekke', null, null],
    ]);
    expect((await to('Tomas Brekke')).status).toBe(409);
  });
  it.each(['XYZ', '__proto__', 'constructor'])('an operation %s is none of the route', async (code) => {
    const number = await take();
    expect((await winder('POST', `jobs/${number}/steps/${code}/work`, { what: 'join' })).status).toBe(404);
  });
  it('a reader may not', async () => {
    const number = await take();
    await step(winder, number, 'start');
    expect((await step(viewer, number, 'work', { what: 'join' })).status).toBe(403);
  });
  it('two that join at once stand there once each', async () => {
    const number = await take();
    await step(winder, number, 'start');
    const all = await Promise.all(Array.from({ length: 8 }, () => step(foreman, number, 'work', { what: 'join' })));
    expect(all.every((a) => a.status === 200)).toBe(true);
    expect(await spells(number)).toHaveLength(2);
  });
});

describe('what waited for the network', () => {
  it('counts from when it was done, never before what it follows; a repeated one counts once', async () => {
    const number = await take();
    const before = Date.now();
    await step(winder, number, 'start', {}, { 'X-Waited-S': '1800', 'Idempotency-Key': 'waited-start' });
    await step(winder, number, 'start', {}, { 'X-Waited-S': '1860', 'Idempotency-Key': 'waited-start' });
    await step(winder, number, 'finish', INTAKE, { 'X-Waited-S': '7200' });
    const { attempts } = await intake(number);
    expect(attempts).toHaveLength(1);
    expect(Math.abs(Date.parse(attempts[0].startedAt) - (before - 1_800_000))).toBeLessThan(30_000);
    expect(attempts[0].finishedAt).toBe(attempts[0].startedAt);
    expect(attempts[0].spells[0]).toMatchObject({ from: attempts[0].startedAt, to: attempts[0].finishedAt });
  });
  it.each([
    ['1800', 1800],
    ['0', 0],
    ['-5', 0],
    ['soon', 0],
    ['', 0],
    [undefined, 0],
    [['1', '2'], 0],
    ['43200', 43_200],
    ['43201', 43_200],
    ['Infinity', 0],
  ])('a header of %j is %d s', (header, wanted) => expect(waitedS(header)).toBe(wanted));
  it.each([
    [0, undefined, 100],
    [10, undefined, 90],
    [10, 95, 95],
    [10, 80, 90],
  ])('%d s before now, after %s', (waited, after, wanted) =>
    expect(
      doneAt(
        { at: new Date(100_000), waitedS: waited },
        after === undefined ? undefined : new Date(after * 1000),
      ).getTime(),
    ).toBe(wanted * 1000),
  );
});

describe('a photograph of a step', () => {
  it('stands with its step; a step that the route has not is refused', async () => {
    const number = await take();
    const send = (headers: Record<string, string>) =>
      winder('POST', `jobs/${number}/attachments`, PNG, {
        'Content-Type': 'image/png',
        'X-File-Name': 'a.png',
        ...headers,
      });
    expect((await send({ 'X-Step': 'INT' })).status).toBe(201);
    expect((await send({})).status).toBe(201);
    const refused = await send({ 'X-Step': 'XYZ' });
    expect(refused.body).toMatchObject({ status: 422, field: 'step' });
    const { body } = await viewer('GET', `jobs/${number}`);
    expect(body.attachments.map((a: { step: string | null }) => a.step)).toEqual(['INT', null]);
  });
});

describe('the job file', () => {
  it('carries who worked and what was photographed where', async () => {
    const number = await take();
    await step(winder, number, 'start');
    await step(winder, number, 'work', { what: 'pause' });
    await winder('POST', `jobs/${number}/attachments`, PNG, {
      'Content-Type': 'image/png',
      'X-File-Name': 'a.png',
      'X-Step': 'INT',
    });
    const { body: file } = await foreman('GET', `jobs/${number}/export.json`);
    const own = file.steps.find((s: { code: string }) => s.code === 'INT');
    expect(own.attempts[0].spells).toMatchObject([{ person: 'Ines Halvard', ended: 'pause' }]);
    expect(file.attachments[0].step).toBe('INT');
  });
});

import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { demo } from '../testing/demoNumber.ts';
import { startServer, type Client, type TestServer } from '../testing/server.ts';

let server: TestServer;
let foreman: Client;
let winder: Client;
beforeAll(async () => {
  server = await startServer('norther_rewire', 'demo');
  [foreman, winder] = await Promise.all([server.as('odd'), server.as('ines')]);
}, 120_000);
afterAll(() => server.stop());

const partOf = async (number: string) => {
  const { body } = await foreman('GET', `jobs/${number}`);
  return body.parts.find((p: { kind: string }) => p.kind === 'stator');
};
const release = async (number: string, more: object, who = foreman) => {
  const { found, plan } = await partOf(number);
  return who('POST', `jobs/${number}/winding/release`, {
    part: 'stator',
    revision: found.revision,
    planRevision: plan?.revision ?? 0,
    reason: 'This size is not to be had.',
    ...more,
  });
};
const wires = (...list: [number, number][]) =>
  list.map(([count, mm]) => ({ count, bareM: mm / 1000, label: String(mm) }));

describe('the same winding with other wire, released', () => {
  it('a crossed winding gets other wires in hand; everything else stays, the change is said', async () => {
    const number = demo(20);
    const { found } = await partOf(number);
    const area = found.record.strands.reduce(
      (n: number, s: { count: number; bareM: number }) => n + s.count * s.bareM ** 2,
      0,
    );
    const two = Math.sqrt(area / 2) * 1000;
    const { status, body } = await release(number, { rewire: { strands: wires([2, Number(two.toFixed(3))]) } });
    expect(status, JSON.stringify(body)).toBe(201);
    const { plan } = await partOf(number);
    expect(plan.record.strands).toEqual([
      { count: 2, bareM: expect.closeTo(two / 1000, 6), label: expect.any(String) },
    ]);
    expect(plan.record.coilList).toEqual(found.record.coilList);
    expect(plan.record.turns).toEqual(found.record.turns);
    expect(plan.redesign.changes.map((c: { field: string }) => c.field)).toEqual(['strands']);
    expect(plan.redesign.nameplate).toMatchObject({ outputW: 1600 });
    expect((await foreman('GET', `jobs/${number}/card.pdf`)).status).toBe(200);
  });
  it('a limit that is broken, nothing changed, no reason and a winder are refused in words', async () => {
    const number = demo(20);
    const said = async (more: object, who = foreman) => {
      const { status, body } = await release(number, more, who);
      return `${status} ${body.detail ?? ''}`;
    };
    expect(await said({ rewire: { strands: wires([6, 1.5]) } })).toMatch(/^422 .*refused: (the wire|slot fill)/);
    expect(await said({ rewire: {} })).toMatch(/^422 .*Nothing differs/);
    expect(await said({ rewire: { strands: wires([1, 0.9]) }, reason: 'no' })).toMatch(/^422 .*written reason/);
    expect(await said({ rewire: { strands: [] } })).toMatch(/^4\d\d/);
    expect(await said({ rewire: { strands: wires([1, 0.9]) } }, winder)).toMatch(/^403/);
  });
  it('aluminium and turns too: what is kept is what was judged', async () => {
    const number = demo(17);
    const { found } = await partOf(number);
    const turns = found.record.turns[0] as number;
    const { status, body } = await release(number, { rewire: { turns: [turns + 1] } });
    expect(status, JSON.stringify(body)).toBe(201);
    const { plan } = await partOf(number);
    expect(plan.record.turns).toEqual([turns + 1]);
    expect(plan.redesign.changes).toEqual([
      { field: 'turns', label: 'Turns per coil', was: String(turns), is: String(turns + 1) },
    ]);
    expect(plan.record.copperKg).toBeUndefined();
  });
});

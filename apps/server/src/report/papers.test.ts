import { demo } from '../testing/demoNumber.ts';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Nameplate } from '@norther/core';
import {
  windingOfPart,
  shopSettingsSchema,
  type JobDetail,
  type MaterialLists,
  type ShopSettings,
} from '@norther/contracts';
import { Database } from '../database/database.ts';
import { Shop } from '../shop/shop.ts';
import { startServer, type Client, type TestServer } from '../testing/server.ts';
import { billTable, cuttingList, pickingList } from './materialLists.ts';
import type { PaperOptions } from './paper.ts';
import { customerReport, dataSheet, label } from './papers.ts';
import { testSheet } from './testSheet.ts';
import { windingCard } from './windingCard.ts';

let server: TestServer;
let viewer: Client;
let settings: ShopSettings;
const jobs = new Map<string, JobDetail>();

beforeAll(async () => {
  server = await startServer('norther_papers', 'demo');
  viewer = await server.as('per');
  settings = (await server.app.get(Shop).view(server.app.get(Database).tables)).settings;
  for (const list of ['jobs', 'jobs?closed=yes'])
    for (const { number } of (await viewer('GET', list)).body as { number: string }[])
      jobs.set(number, (await viewer('GET', `jobs/${number}`)).body as JobDetail);
}, 120_000);
afterAll(() => server.stop());

/** All words of a paper, drawings included. */
function words(paper: PaperOptions): string {
  const out: string[] = [];
  const walk = (x: unknown): void => {
    if (typeof x === 'string') out.push(x);
    else if (Array.isArray(x)) x.forEach(walk);
    else if (x && typeof x === 'object')
      for (const [key, value] of Object.entries(x))
        if (!['color', 'alignment', 'layout', 'widths'].includes(key)) walk(value);
  };
  walk(paper.content);
  return out.join(' | ');
}
const withWinding = () => [...jobs.values()].filter((j) => windingOfPart(j, 'stator').shown !== null);
const inInches = () => ({
  ...settings,
  units: { ...settings.units, lengthUnit: 'in' as const, massUnit: 'lb' as const, wireSystem: 'awg' as const },
});

describe('the winding card', () => {
  it('holds what the bench needs, for every motor of the demo shop with a winding', () => {
    expect(withWinding().length).toBeGreaterThan(5);
    for (const job of withWinding()) {
      const text = words(windingCard(job, settings));
      for (const part of [
        job.number,
        `norther:job:${job.number}`,
        job.what,
        'Slots / poles',
        'Turns per coil',
        job.number === demo(22) ? '1 × 2 of 1.6 mm × 6.3 mm' : 'Wires in hand',
        'Groups, jumpers and leads',
        'Wire from stock',
        job.number === demo(14) ? 'Main, 20 °C' : 'Lead to lead, 20 °C',
        'Turns, second count',
        'Checked by',
        'Caution:',
        'Local codes and licensed practice decide',
      ])
        expect(text, `${job.number}: ${part}`).toContain(part);
      expect(text).not.toMatch(/NaN|undefined|\[object/);
    }
  });
  it('says whether the plan is released and by whom', () => {
    const released = withWinding().find((j) => windingOfPart(j, 'stator').plan);
    const not = withWinding().find((j) => !windingOfPart(j, 'stator').plan);
    expect(words(windingCard(released as JobDetail, settings))).toMatch(/Plan \d+, released by .+ on \d{4}-/);
    expect(words(windingCard(not as JobDetail, settings))).toContain('not released for winding');
  });
  it('follows the units of the reader', () => {
    const job = withWinding().find((j) => windingOfPart(j, 'stator').found?.record.coreLengthM) as JobDetail;
    expect(words(windingCard(job, settings))).toMatch(/\d mm, from/);
    const imperial = words(windingCard(job, inInches()));
    expect(imperial).toMatch(/\d in, from/);
    expect(imperial).toMatch(/\d lb \(bare/);
    expect(imperial).not.toMatch(/\d kg \(bare/);
  });
  it('of a job without a winding says so', () => {
    const job = [...jobs.values()].find((j) => windingOfPart(j, 'stator').shown === null);
    if (job) expect(words(windingCard(job, settings))).toContain('No winding record yet.');
  });
});

describe('the report', () => {
  const issuer = { name: 'Odd Marstein', role: 'foreman', at: '2026-11-23T10:00:00Z' };
  it('states rating, winding, tests with verdict and person, cure, balance, work and issuer', () => {
    const text = [...jobs.values()].map((j) => words(customerReport(j, settings, 3, issuer)));
    for (const one of text) {
      expect(one).toContain('/ 3');
      expect(one).toContain('Issued by Odd Marstein (foreman)');
      expect(one).not.toMatch(/NaN|undefined|\[object/);
    }
    const all = text.join(' ');
    for (const part of ['Winding as released', 'Tests', 'Cure', 'Balance', 'Work done', 'pass', 'attention', 'fail'])
      expect(all.includes(part), part).toBe(true);
    expect(all).toMatch(/\d T \/ [\d.]+ T \/ [\d.]+ T/);
  });
  it('every standing test is on it, and no superseded one', () => {
    for (const job of jobs.values()) {
      const text = words(customerReport(job, settings, 1, issuer));
      for (const t of job.tests) if (t.supersededBy === null) expect(text).toContain(t.reason.trim());
    }
  });
  it('gives densities in kilolines to a reader who works in inches', () => {
    const job = withWinding().find((j) => windingOfPart(j, 'stator').found?.record.coreLengthM) as JobDetail;
    expect(words(customerReport(job, inInches(), 1, issuer))).toMatch(/\d kl\/in²/);
  });
});

describe('label and sheet', () => {
  it('the label carries number, code, customer and urgency at its own size', () => {
    const job = [...jobs.values()].find((j) => j.priority === 'urgent') as JobDetail;
    const paper = label(job, settings);
    expect(words(paper)).toContain(`norther:job:${job.number}`);
    expect(words(paper)).toContain('URGENT');
    expect(paper.pageSize).toEqual({
      width: (settings.label.widthMm * 72) / 25.4,
      height: (settings.label.heightMm * 72) / 25.4,
    });
  });
  it('the blank sheet asks for every field of the record', () => {
    const text = words(dataSheet(shopSettingsSchema.parse({ name: 'Any shop' })));
    for (const part of ['Slots', 'Span', 'Turns, second count', 'Lead end is at', 'Caution:'])
      expect(text).toContain(part);
  });
});

describe('the test sheet', () => {
  it('names every test of the stage with what it is to be done with, and a line for each field', () => {
    const job = jobs.get(demo(7)) as JobDetail;
    const text = words(testSheet(job, settings, 'VC'));
    for (const title of ['Winding resistance', 'Insulation resistance', 'Surge comparison', 'High potential'])
      expect(text).toContain(title);
    expect(text).toMatch(/after cure/);
    expect(text).toMatch(/V AC rms/);
    // in the marks of the shop, six leads phase by phase
    expect(text).toContain('U1–V1');
    expect(text).not.toMatch(/T1–T2/);
    expect(text).toContain('Phase U alone, 1 min');
    expect(text).toMatch(/Caution: High voltage/);
    expect(text).toContain(job.number);
    expect(words(testSheet(job, { ...settings, leadMarks: 'T' }, 'VC'))).toContain('T1–T2');
  });
  it('of every motor and stage it can be laid out; what does not belong to a stage is left out', () => {
    for (const job of jobs.values())
      for (const stage of ['IN', 'AC', 'VC', 'AA', 'FI'] as const) {
        const text = words(testSheet(job, settings, stage));
        expect(text, `${job.number} ${stage}`).not.toMatch(/undefined|NaN/);
        if (stage === 'IN') expect(text).not.toContain('High potential |');
      }
    expect(words(testSheet(jobs.get(demo(12)) as JobDetail, settings, 'AC'))).toContain(
      'No test belongs to this stage',
    );
  });
  it('is served as PDF; another stage is refused in words', async () => {
    const { status, headers } = await viewer('GET', `jobs/${demo(7)}/test-sheet.pdf?stage=AC`);
    expect([status, headers.get('content-type')]).toEqual([200, 'application/pdf']);
    const wrong = await viewer('GET', `jobs/${demo(7)}/test-sheet.pdf?stage=XX`);
    expect([wrong.status, wrong.body.field]).toEqual([422, 'stage']);
  });
});

describe('the lists of material', () => {
  const listsOf = async (number: string) =>
    ((await viewer('GET', `jobs/${number}/material/stator`)).body as { lists: MaterialLists }).lists;
  it('cutting: pieces with their sizes, how they lie, room to tick and sign', async () => {
    const lists = await listsOf(demo(6));
    const job = jobs.get(demo(6)) as JobDetail;
    const text = words(cuttingList(job, 'stator', lists, settings));
    for (const part of [
      'Cutting list',
      job.number,
      'slot liner',
      'separator',
      'phase paper',
      'a sheet',
      'Fold lines',
      'Done by',
    ])
      expect(text, part).toContain(part);
    for (const l of lists.bill.lines.filter((x) => x.pieces > 0)) expect(text).toContain(String(l.pieces));
    expect(text).not.toMatch(/NaN|undefined|\[object/);
    expect(words(cuttingList(job, 'stator', lists, inInches()))).toMatch(/\d in × /);
  });
  it('picking: every lot with what to take, what is short in words, the class of the system', async () => {
    for (const number of [demo(2), demo(6)]) {
      const lists = await listsOf(number);
      const text = words(pickingList(jobs.get(number) as JobDetail, 'stator', lists, settings));
      for (const { picks } of lists.lines) for (const p of picks) expect(text).toContain(p.lot);
      expect(text.includes('not in stock')).toBe(lists.lines.some((l) => l.short > 1e-9));
      expect(text).toMatch(/Class of the system: 155 \(F\) °C, by its weakest member/);
    }
  });
  it('the bill as a table has a row a line, in the units its headings name', async () => {
    const { bill } = await listsOf(demo(6));
    const [head, ...rows] = billTable(bill);
    expect(rows).toHaveLength(bill.lines.length);
    const liner = rows.find((r) => r[0] === 'slot liner') as (string | number)[];
    const length = bill.lines.find((l) => l.use === 'slot liner')?.lengthM ?? 0;
    expect(liner[head?.indexOf('length_mm') ?? -1]).toBeCloseTo(length * 1000, 1);
  });
});

describe('a changed rewind on paper', () => {
  const changed = (): JobDetail => {
    const job = withWinding().find((j) => windingOfPart(j, 'stator').plan) as JobDetail;
    const redesign = {
      changes: [{ field: 'voltagesV', label: 'Voltage', was: '400 V', is: '440 V' }],
      fromRevision: 1,
      nameplate: { ...(job.nameplate as Nameplate), voltagesV: [440] },
      warnings: ['higher voltage: slot and lead insulation'],
    };
    return {
      ...job,
      parts: job.parts.map((p) => (p.plan ? { ...p, plan: { ...p.plan, reason: 'New quay.', redesign } } : p)),
    };
  };
  it('the card says so in a frame and gives the new rating', () => {
    const text = words(windingCard(changed(), settings));
    expect(text).toMatch(/CHANGED, NOT AS FOUND\.\s+\| Voltage 440 V \(was 400 V\)/);
    expect(text).toContain('Mind: higher voltage');
    expect(text).toContain('440 V');
    expect(
      words(windingCard(withWinding().find((j) => windingOfPart(j, 'stator').plan) as JobDetail, settings)),
    ).not.toContain('CHANGED');
  });
  it('the report says what, why, and that the motor needs a nameplate', () => {
    const text = words(
      customerReport(changed(), settings, 1, { name: 'O', role: 'foreman', at: '2026-11-23T10:00:00Z' }),
    );
    expect(text).toMatch(
      /Changed rewind\.\s+\| Voltage 440 V \(was 400 V\)\. Reason: New quay\. The motor needs a nameplate/,
    );
    expect(text).toContain('Nameplate as it came');
  });
});

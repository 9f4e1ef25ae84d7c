import { shopSettingsSchema, templateFor, type JobDetail, type ShopSettings } from '@norther/contracts';
import { beforeAll, describe, expect, it } from 'vitest';
import { demo } from '../testing/demoNumber.ts';
import { demoShop } from '../testing/shopPeople.ts';
import { firstSentence } from './certificatePage.ts';
import { chartSvg } from './paperChart.ts';
import { makePdf, type PaperOptions } from './paper.ts';
import { customerReport, plateOf } from './papers.ts';

const { foreman, viewer, tester, winder, take } = demoShop('norther_certificate');
const settings: ShopSettings = shopSettingsSchema.parse({
  name: 'Works',
  address: 'Quay 1',
  gauges: [{ name: 'four-wire bridge 2', calibratedUntil: '2030-01-31' }],
});
const issuer = { name: 'Odd', role: 'foreman', at: '2026-11-29T10:00:00Z' };
let loaded: JobDetail;
let hot: JobDetail;
beforeAll(async () => {
  loaded = (await viewer('GET', `jobs/${demo(1)}`)).body as JobDetail;
  hot = (await viewer('GET', `jobs/${demo(33)}`)).body as JobDetail;
});

function words(paper: PaperOptions, until?: string): string {
  const out: string[] = [];
  const walk = (x: unknown): boolean => {
    if (typeof x === 'string') out.push(x);
    else if (Array.isArray(x)) return x.every(walk);
    else if (x && typeof x === 'object') {
      if (until !== undefined && (x as { pageBreak?: string }).pageBreak === until) return false;
      return Object.entries(x).every(([key, v]) => ['color', 'layout', 'widths', 'alignment'].includes(key) || walk(v));
    }
    return true;
  };
  walk(paper.content);
  return out.join(' | ');
}
const report = (job: JobDetail, more: object = {}, s = settings, revision = 1) =>
  customerReport(job, s, revision, issuer, [], more);

describe('the first page', () => {
  it('answers who, which motor, verdict, why, what next, and names its signatures', () => {
    const text = words(report(hot, { witness: 'Ada Surveyor' }), 'before');
    for (const part of [
      hot.customer,
      hot.what,
      'no. CW-44',
      'Not in order',
      'Because: Temperature rise: 121 K',
      'Trips on hot days.',
      'What was done',
      'As it came',
      'It must not go into service',
      'Odd (foreman)',
      'Ada Surveyor',
      'norther:job:',
    ])
      expect(text, part).toContain(part);
    expect(text).not.toMatch(/NaN|undefined|\[object/);
  });
  it('one page, whatever a motor has been through', async () => {
    for (const job of [loaded, hot]) {
      const paper = report(job);
      const first = {
        ...paper,
        content: paper.content.slice(
          0,
          paper.content.findIndex((p) => (p as { pageBreak?: string }).pageBreak === 'before'),
        ),
      };
      const pdf = (await makePdf(first)).toString('latin1');
      expect(/\/Type \/Pages[\s\S]*?\/Count (\d+)/.exec(pdf)?.[1] ?? /\/Count (\d+)/.exec(pdf)?.[1]).toBe('1');
    }
  });
  it('before and after stand beside each other with their figures', () => {
    expect(words(report(loaded), 'before')).toMatch(
      /Insulation resistance \| [\d.]+ MΩ at 40 °C, (pass|attention) \| [\d.]+ MΩ at 40 °C, pass/,
    );
  });
  it('a later one says what it takes the place of, and why', () => {
    expect(words(report(hot, { reason: 'Rise measured again.' }, settings, 2))).toContain(
      'This takes the place of revision 1: Rise measured again.',
    );
  });
  it('nothing tested yet is said so; a sentence ends at its point, not within a figure', () => {
    expect(words(report({ ...hot, tests: [] }), 'before')).toContain('No final test yet');
    expect(firstSentence('1.5 K over 105.2 K. Then more.')).toBe('1.5 K over 105.2 K.');
    expect(firstSentence('no end')).toBe('no end');
  });
  it('what comes from a simulated instrument is marked', () => {
    const tests = loaded.tests.map((t) =>
      t.kind === 'loadTest' ? { ...t, traces: [{ id: 'x', what: 'load', channels: [], simulated: true }] } : t,
    );
    const text = words(report({ ...loaded, tests } as JobDetail));
    expect(text).toContain('(simulated)');
    expect(words(report(loaded))).not.toContain('(simulated)');
  });
});

describe('behind it', () => {
  it('lots, instruments with calibration, curves, the visit drawn', () => {
    const text = words(report(loaded, { lots: [{ what: 'Wire 1.0', lot: 'L-7', quantity: 12.5, unit: 'kg' }] }));
    for (const part of [
      'L-7',
      '12.5 kg',
      'four-wire bridge 2',
      '2030-01-31',
      'Efficiency over output',
      '<svg',
      'Work done',
    ])
      expect(text, part).toContain(part);
  });
  it('a customer’s template leaves out what they do not want, under their letterhead', () => {
    const own = shopSettingsSchema.parse({
      ...settings,
      papers: {
        letterhead: 'For all',
        leaveOut: ['work'],
        customers: [
          { customer: loaded.customer.toUpperCase(), letterhead: 'For them', leaveOut: ['timeline', 'instruments'] },
        ],
      },
    });
    expect(templateFor(own.papers, loaded.customer)).toEqual({
      letterhead: 'For them',
      leaveOut: ['timeline', 'instruments'],
    });
    const text = words(report(loaded, {}, own));
    expect(text).toContain('For them');
    expect(text).toContain('Work done');
    expect(text).not.toContain('2030-01-31');
    expect(text).not.toContain('day by day');
    expect(words(report(hot, {}, own))).not.toContain('Work done');
    // reports of before had no templates
    expect(templateFor(undefined, 'x')).toEqual({ letterhead: '', leaveOut: [] });
    expect(() =>
      shopSettingsSchema.parse({ ...settings, papers: { customers: [{ customer: 'A' }, { customer: 'a' }] } }),
    ).toThrow(/stands twice/);
  });
  it('a chart of one value is no number that is none', () => {
    const svg = chartSvg({ title: 'x', x: 's', y: 'K', lines: [{ name: 'l', points: [[1, 5]] }] });
    expect(svg).not.toMatch(/NaN|Infinity|undefined/);
  });
});

describe('issued', () => {
  it('the second wants a reason; each is kept as issued, as paper and as data', async () => {
    const number = await take();
    const issue = (body: object) => foreman('POST', `jobs/${number}/reports`, body);
    const one = await issue({ witness: 'Ada Surveyor' });
    expect(one.body.revision).toBe(1);
    expect((await issue({})).body).toMatchObject({ status: 422, field: 'reason' });
    const two = await issue({ reason: 'Serial number corrected.' });
    expect(two.body.revision).toBe(2);
    const data = await viewer('GET', `reports/${one.body.id}/data.json`);
    expect(data.body).toMatchObject({ revision: 1, witness: 'Ada Surveyor', job: { number }, lots: [] });
    expect((await viewer('GET', `reports/${two.body.id}/data.json`)).body.reason).toBe('Serial number corrected.');
    expect((await viewer('GET', 'reports/nonsense/data.json')).status).toBe(404);
    expect((await tester('POST', `jobs/${number}/reports`, {})).status).toBe(403);
  });
  it('the nameplate as text, data and label; a changed rewind has the new one', async () => {
    const number = await take();
    const plate = (await winder('GET', `jobs/${number}/nameplate`)).body;
    expect(plate).toMatchObject({ job: number, changed: false, nameplate: { outputW: 4000 } });
    expect(plate.text).toMatch(/Output: 4 kW\nVoltage: 400 V/);
    const pdf = await viewer('GET', `jobs/${number}/nameplate.pdf`);
    expect(pdf.headers.get('content-type')).toBe('application/pdf');
    const changed = structuredClone(loaded);
    const stator = changed.parts.find((p) => p.kind === 'stator');
    if (!stator?.plan) throw new Error('no plan');
    stator.plan.redesign = {
      changes: [],
      fromRevision: 1,
      warnings: [],
      nameplate: { ...changed.nameplate, voltagesV: [690] },
    };
    expect(plateOf(changed)).toMatchObject({ changed: true });
    expect(plateOf(changed).rows).toContainEqual(['Voltage', '690 V']);
  });
});

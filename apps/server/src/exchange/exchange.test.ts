import { describe, expect, it } from 'vitest';
import { demo } from '../testing/demoNumber.ts';
import { client, startServer } from '../testing/server.ts';
import { demoShop } from '../testing/shopPeople.ts';

const { winder, tester, foreman, admin, viewer, take } = demoShop('norther_exchange');

describe('papers and files', () => {
  it('prints card, label, sheet and report as PDF; an issued report is kept', async () => {
    for (const path of [
      `jobs/${demo(1)}/card.pdf`,
      `jobs/${demo(2)}/card.pdf`,
      `jobs/${demo(10)}/card.pdf`,
      `jobs/${demo(1)}/label.pdf`,
      'papers/data-sheet.pdf',
    ]) {
      const pdf = await viewer('GET', path);
      expect(pdf.status, path).toBe(200);
      expect(String(pdf.body).startsWith('%PDF-')).toBe(true);
    }
    const first = (await viewer('GET', `jobs/${demo(1)}`)).body.reports[0];
    expect(first.revision).toBe(1);
    expect((await foreman('POST', `jobs/${demo(1)}/reports`, { reason: 'after the move' })).body.revision).toBe(2);
    expect(
      (await viewer('GET', `jobs/${demo(1)}`)).body.reports.find((r: { revision: number }) => r.revision === 1).sha256,
    ).toBe(first.sha256);
  });
  it('a job goes out as JSON and comes into an empty Norther the same', async () => {
    // a photograph and a corrected reading travel too
    const png = Buffer.from(
      'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
      'base64',
    );
    await winder('POST', `jobs/${demo(1)}/attachments`, new Uint8Array(png), {
      'Content-Type': 'image/png',
      'X-File-Name': 'lead%20box.png',
    });
    const { body: before } = await viewer('GET', `jobs/${demo(1)}`);
    const reading = before.tests.find(
      (t: { kind: string; stage: string }) => t.kind === 'insulationResistance' && t.stage === 'IN',
    );
    await tester('POST', `jobs/${demo(1)}/tests`, {
      stage: 'IN',
      kind: 'insulationResistance',
      typed: { ...reading.typed, r1min: '39' },
      supersedes: reading.id,
      reason: 'read again from the photograph',
    });
    const file = (await viewer('GET', `jobs/${demo(1)}/export.json`)).body;
    expect(Buffer.from(file.attachments[0].base64, 'base64').equals(png)).toBe(true);
    expect(file.tests.filter((t: { supersedes: string | null }) => t.supersedes === reading.id)).toHaveLength(1);
    expect((await admin('POST', 'import', file)).status).toBe(409);
    // load runs: one that no test is made of, one that a test is
    const { body: loadedJob } = await viewer('GET', `jobs/${demo(33)}`);
    const line = (nm: number, t: number) => `${t};400;${5 + nm / 6};${170 * nm};${nm};${1495 - nm}`;
    const csv = [36, 27, 18].flatMap((nm, k) => Array.from({ length: 20 }, (_, i) => line(nm, 20 * k + i)));
    for (const fileName of ['broken off.csv', 'whole.csv'])
      expect(
        (
          await tester('POST', `jobs/${demo(33)}/load-runs/file`, {
            stage: 'FI',
            fileName,
            csv: ['time [s];U12 [V];I1 [A];P [W];T [N m];n [r/min]', ...csv].join('\n'),
          })
        ).body,
      ).toMatchObject({ id: expect.any(String) });
    const [whole] = (await viewer('GET', `jobs/${demo(33)}/load-runs`)).body;
    const load = loadedJob.tests.find((t: { kind: string }) => t.kind === 'loadTest');
    const made = await tester('POST', `jobs/${demo(33)}/tests`, {
      stage: 'FI',
      kind: 'loadTest',
      typed: load.typed,
      traces: [whole.trace],
    });
    expect(made.status).toBe(201);
    const loadedFile = (await viewer('GET', `jobs/${demo(33)}/export.json`)).body;
    const runs = loadedFile.loadRuns.filter((r: { sourceName: string }) => r.sourceName.endsWith('.csv'));
    expect(runs).toMatchObject([
      { sourceName: 'broken off.csv', test: null, trace: { x: expect.arrayContaining([59]) } },
      { sourceName: 'whole.csv', trace: null, test: { trace: 0 } },
    ]);
    const empty = await startServer('norther_empty');
    try {
      const open = client(empty.base);
      expect((await open('GET', 'setup')).body).toMatchObject({ needsFirstAdmin: true, demo: [] });
      const set = await open('POST', 'setup', {
        name: 'First',
        signIn: 'first',
        password: 'a-long-password',
        shopName: 'Other Works',
      });
      expect(set.status).toBe(201);
      expect(
        (await open('POST', 'setup', { name: 'Second', signIn: 'second', password: 'a-long-password', shopName: 'X' }))
          .status,
      ).toBe(409);
      const first = client(
        empty.base,
        set.headers
          .getSetCookie()
          .map((c) => c.split(';')[0])
          .join('; '),
      );
      expect((await first('POST', 'import', file)).body).toEqual({ number: demo(1) });
      const strip = (x: { exportedAt: string; shop: string }) => ({ ...x, exportedAt: '', shop: '' });
      expect(strip((await first('GET', `jobs/${demo(1)}/export.json`)).body)).toEqual(strip(file));
      expect((await first('POST', 'import', loadedFile)).body).toEqual({ number: demo(33) });
      expect((await first('GET', `jobs/${demo(33)}/export.json`)).body.loadRuns).toEqual(loadedFile.loadRuns);
      const { body: brought } = await first('GET', `jobs/${demo(33)}/load-runs`);
      expect(brought).toMatchObject([
        { source: 'whole.csv', taken: true, points: [{ torqueNm: 36 }, { torqueNm: 27 }, { torqueNm: 18 }] },
        { source: 'broken off.csv', taken: false, points: [{ torqueNm: 36 }, { torqueNm: 27 }, { torqueNm: 18 }] },
      ]);
      expect((await first('POST', 'import', { ...file, format: 'other' })).status).toBe(422);
    } finally {
      await empty.stop();
    }
  }, 60_000);
  it('a job goes out as CSV with formulas defused', async () => {
    const number = await take({ what: '=1+1' });
    const { body } = await viewer('GET', `jobs/${number}/export.csv`);
    expect(String(body)).toContain("'=1+1");
  });
  it('search finds by number, scanned code, customer and serial', async () => {
    for (const q of [demo(1), `norther:job:${demo(1)}`, 'Mooring', 'Sound Ferries', 'MW-2207']) {
      expect(
        (await viewer('GET', `search?q=${encodeURIComponent(q)}`)).body.map((h: { number: string }) => h.number),
        q,
      ).toContain(demo(1));
    }
    expect((await viewer('GET', 'search?q=%25')).body).toEqual([]);
  });
});

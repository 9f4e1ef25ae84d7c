import type { JobDetail } from '@norther/contracts';
import { shopSettingsSchema } from '@norther/contracts';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { demoShop } from '../testing/shopPeople.ts';
import { makePdf, paperContext } from './paper.ts';
import { customerReport } from './papers.ts';
import { chosenPhotographs, photographsInReport, smallForPaper } from './photographs.ts';

const { server, foreman, winder, viewer, take } = demoShop('norther_photographs');
const picture = (width: number, height: number) =>
  sharp({ create: { width, height, channels: 3, background: '#806040' } })
    .jpeg()
    .toBuffer();
const settings = shopSettingsSchema.parse({ name: 'Works' });
const attached = (n: number) =>
  Array.from({ length: n }, (_, i) => ({
    id: `p${i}`,
    name: `picture ${i}`,
    mediaType: 'image/jpeg',
    bytes: 1,
    step: null,
    person: 'Ines',
    at: '2026-11-29T10:00:00Z',
  }));

describe('photographs in a report', () => {
  it('at most twelve are chosen, spread over the visit, the first and the last among them; papers are none', () => {
    expect(chosenPhotographs(attached(12))).toHaveLength(12);
    const of40 = chosenPhotographs(attached(40));
    expect(of40).toHaveLength(12);
    expect([of40[0]?.id, of40.at(-1)?.id]).toEqual(['p0', 'p39']);
    expect(new Set(of40.map((p) => p.id)).size).toBe(12);
    expect(chosenPhotographs([{ mediaType: 'application/pdf' }])).toEqual([]);
  });
  it('are made small, turned as they were taken; what is no picture inside is left out', async () => {
    const lying = await sharp(await picture(2000, 1000))
      .withMetadata({ orientation: 6 })
      .jpeg()
      .toBuffer();
    const found = await smallForPaper([
      { id: 'a', content: await picture(3000, 1500) },
      { id: 'b', content: Buffer.from('no picture') },
      { id: 'c', content: lying },
      { id: 'd', content: await picture(90, 60) },
    ]);
    expect(found.map((f) => f.id)).toEqual(['a', 'c', 'd']);
    const sizes = await Promise.all(
      found.map(async (f) => {
        const { width, height } = await sharp(Buffer.from(f.dataUri.split(',')[1] ?? '', 'base64')).metadata();
        return [width, height];
      }),
    );
    expect(sizes).toEqual([
      [700, 350],
      [350, 700],
      [90, 60],
    ]);
  });
  it('stand three in a row with who took them and when; how many more there are is said', async () => {
    const [small] = await smallForPaper([{ id: 'p0', content: await picture(90, 60) }]);
    const shown = attached(4).map((a) => ({ id: a.id, dataUri: small?.dataUri ?? '' }));
    const pieces = photographsInReport(attached(6), shown, paperContext(settings));
    const text = JSON.stringify(pieces);
    expect(text).toContain('picture 0, Ines,');
    expect(text).toContain('2 more are kept with the record.');
    expect(pieces).toHaveLength(3);
    expect(photographsInReport(attached(2), [], paperContext(settings))).toEqual([]);
  });
  it('one that was sent to a motor is in its issued report; a template may leave them out', async () => {
    const number = await take({});
    const sent = await winder('POST', `jobs/${number}/attachments`, new Uint8Array(await picture(1600, 1200)), {
      'Content-Type': 'image/jpeg',
      'X-File-Name': 'burnt.jpg',
    });
    expect(sent.status).toBe(201);
    const { body } = await foreman('POST', `jobs/${number}/reports`, {});
    expect((await viewer('GET', `reports/${body.id}`)).status).toBe(200);
    const { rows } = await server().pool.query('select content from report where id = $1', [body.id]);
    expect((rows[0].content as Buffer).toString('latin1')).toContain('/Subtype /Image');
    const job = (await viewer('GET', `jobs/${number}`)).body as JobDetail;
    const issuer = { name: 'Odd', role: 'foreman', at: '2026-11-29T10:00:00Z' };
    const photographs = await smallForPaper([{ id: job.attachments[0]?.id ?? '', content: await picture(90, 60) }]);
    const pdf = async (papers?: object) =>
      (
        await makePdf(
          customerReport(
            job,
            shopSettingsSchema.parse({ name: 'Works', ...(papers ? { papers } : {}) }),
            1,
            issuer,
            [],
            {
              photographs,
            },
          ),
        )
      ).toString('latin1');
    expect(await pdf()).toContain('/Subtype /Image');
    expect(await pdf({ leaveOut: ['photographs'] })).not.toContain('/Subtype /Image');
  });
});

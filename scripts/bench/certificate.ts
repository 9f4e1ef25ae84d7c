import type { JobDetail } from '@norther/contracts';
import { shopSettingsSchema } from '@norther/contracts';
import sharp from 'sharp';
import { makePdf } from '../../apps/server/src/report/paper.ts';
import { customerReport } from '../../apps/server/src/report/papers.ts';
import { MOST_SHOWN, smallForPaper } from '../../apps/server/src/report/photographs.ts';
import { signedIn } from '../../apps/server/src/testing/client.ts';
import type { Figure } from './figure.ts';
import { inDemoShop } from './shop.ts';

const MOST_MS = { whole: 3000, first: 1000 } as const;
const RUNS = 3;
/** As a telephone takes them, with some grain so that they do not pack to nothing. */
const photograph = () =>
  sharp({
    create: {
      width: 2000,
      height: 1500,
      channels: 3,
      background: '#776655',
      noise: { type: 'gaussian', mean: 120, sigma: 25 },
    },
  })
    .jpeg({ quality: 85 })
    .toBuffer();

/** The shortest of some runs, ms. */
async function shortest(work: () => Promise<unknown>): Promise<number> {
  const times: number[] = [];
  for (let i = 0; i < RUNS; i++) {
    const from = performance.now();
    await work();
    times.push(performance.now() - from);
  }
  return Math.min(...times);
}

/** The certificate of the demo's motor with most tests, with twelve photographs; its first page alone. */
export const benchCertificate = (): Promise<Figure[]> =>
  inDemoShop(async ({ origin }) => {
    const per = await signedIn(`${origin}/api`, 'per');
    const jobs = (await per('GET', 'jobs')).body as { number: string }[];
    const details: JobDetail[] = [];
    for (const { number } of jobs) details.push((await per('GET', `jobs/${number}`)).body as JobDetail);
    const [richest] = details.sort(
      (a, b) => b.tests.length + b.detailSteps.length - a.tests.length - a.detailSteps.length,
    );
    if (!richest) throw new Error('The demo shop has no motor.');
    const content = await photograph();
    const attachments = Array.from({ length: MOST_SHOWN }, (_, i) => ({
      id: `p${i}`,
      name: `photograph ${i + 1}`,
      mediaType: 'image/jpeg',
      bytes: content.length,
      step: null,
      person: 'Ines',
      at: richest.takenInAt,
    }));
    const job = { ...richest, attachments };
    const settings = shopSettingsSchema.parse({ name: 'Works' });
    const issuer = { name: 'Odd', role: 'foreman', at: richest.takenInAt };
    let bytes = 0;
    const whole = await shortest(async () => {
      const photographs = await smallForPaper(attachments.map(({ id }) => ({ id, content })));
      bytes = (await makePdf(customerReport(job, settings, 1, issuer, [], { photographs }))).length;
    });
    const first = await shortest(() => {
      const paper = customerReport(job, settings, 1, issuer);
      const end = paper.content.findIndex((p) => (p as { pageBreak?: string }).pageBreak === 'before');
      return makePdf({ ...paper, content: paper.content.slice(0, end) });
    });
    const figure = (name: string, ms: number, most: number, says: string): Figure => ({
      name,
      value: `${Math.round(ms)} ms${says}`,
      ratio: ms / most,
      must: `under ${most / 1000} s`,
      holds: ms < most,
    });
    return [
      figure(
        `certificate of ${job.number}: ${job.tests.length} tests, ${MOST_SHOWN} photographs`,
        whole,
        MOST_MS.whole,
        `, ${Math.round(bytes / 1024)} KiB`,
      ),
      figure('its first page alone', first, MOST_MS.first, ''),
    ];
  });

import { chromium } from '@playwright/test';
import pg from 'pg';
import { inDemoShop } from './shop.ts';
import type { Figure } from './figure.ts';

const MOTORS = 500;

/** Fills the house with motors that stand where the demo's stand. */
async function fill(url: string): Promise<void> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    await client.query(
      `with demo as (select j.*, row_number() over (order by number) as n, count(*) over () as all_of from job j where closed_at is null),
        more as (select d.*, g from generate_series(1, $1::int - (select count(*)::int from demo)) g join demo d on d.n = 1 + g % d.all_of),
        made as (insert into job (number, motor_id, customer_id, nameplate_typed, nameplate, read_with, what, came, intake, route, impregnation, priority, promised, taken_in_at)
          select number || '-' || g, motor_id, customer_id, nameplate_typed, nameplate, read_with, what || ' ' || g, came, intake, route, impregnation, priority, promised, taken_in_at from more
          returning id, number)
        insert into route_step (job_id, code, state, changed_at)
          select m.id, s.code, s.state, s.changed_at - random() * interval '20 days' from made m
          join job j on m.number like j.number || '-%' join route_step s on s.job_id = j.id`,
      [MOTORS],
    );
    await client.query('vacuum analyze');
  } finally {
    await client.end();
  }
}

/** In the page: bytes of the answer, and milliseconds from its last byte to the frame in which its rows are on the screen. */
const WAIT = `new Promise((done) => {
  const look = () => {
    const asked = performance.getEntriesByType('resource').find((e) => /\\/api\\/jobs(\\?|$)/.test(e.name));
    const rows = document.querySelectorAll('main ol li').length;
    if (!asked?.responseEnd || rows < 10) return requestAnimationFrame(look);
    requestAnimationFrame(() => done([asked.encodedBodySize, performance.now() - asked.responseEnd]));
  };
  look();
})`;

/** The floor of 500 open motors: bytes on the wire, and how long after the last of them its rows are painted. */
export const benchFloor = (): Promise<Figure[]> =>
  inDemoShop(async ({ origin, ownerUrl }) => {
    await fill(ownerUrl);
    const browser = await chromium.launch({
      executablePath: process.env['CHROMIUM'] ?? '/usr/bin/chromium',
      args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--disable-dev-shm-usage'],
    });
    try {
      const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
      await page.request.post(`${origin}/api/session`, { data: { signIn: 'ines', password: 'harbour-2026' } });
      const painted: number[] = [];
      let bytes = 0;
      for (let run = 0; run < 6; run++) {
        await page.goto(`${origin}/stock`);
        await page.goto(`${origin}/`);
        const [size, ms] = (await page.evaluate(WAIT)) as [number, number];
        bytes = size;
        painted.push(ms);
      }
      const best = [...painted].sort((a, b) => a - b)[Math.floor(painted.length / 2)] ?? Infinity;
      return [
        {
          name: `floor of ${MOTORS} open motors`,
          value: `${bytes} bytes on the wire, rows painted ${best.toFixed(0)} ms after the last of them (median of ${painted.length})`,
          ratio: best / 300,
          must: 'under 200 kB, painted within 300 ms',
          holds: bytes > 0 && bytes < 200_000 && best < 300,
        },
      ];
    } finally {
      await browser.close();
    }
  });

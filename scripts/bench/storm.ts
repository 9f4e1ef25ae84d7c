import { p99, stormOn } from '../../apps/server/src/testing/storm.ts';
import { inDemoShop } from './shop.ts';
import type { Figure } from './figure.ts';

/** 30 people finish steps, 15 make lists and 15 issue a report at once, against the same sixty one after another. */
export const benchStorm = (): Promise<Figure[]> =>
  inDemoShop(async ({ origin }) => {
    const storm = await stormOn(`${origin}/api`);
    await storm();
    const { serial, finishing, lists, reports, readable } = await storm();
    const all = [...finishing, ...lists, ...reports, ...readable];
    const refused = all.filter((x) => x.status >= 300).length;
    const slowest = p99([...finishing, ...lists, ...reports]);
    return [
      {
        name: 'storm: 30 finish steps, 15 make lists, 15 issue reports at once',
        value: `p99 finish ${p99(finishing)} ms, lists ${p99(lists)} ms, report accepted ${p99(reports)} ms and read ${p99(readable)} ms later; refused ${refused}; one after another ${serial} ms`,
        ratio: slowest / serial,
        must: 'slowest at most twice the sixty one after another, a report readable within 30 s, nobody refused',
        holds: slowest <= 2 * serial && refused === 0 && p99(readable) < 30_000,
      },
    ];
  });

import { bakeOf, type JobDetail } from '@norther/contracts';
import { baseOf, coatsLived, formatNumber, limit } from '@norther/core';
import { useSettings } from '../../app/shop.ts';

/** Two coats or more: what each lived through, its own bake and the later ones. */
export function Coats({ job }: { job: JobDetail }) {
  const settings = useSettings();
  const coats = job.detailSteps.filter((s) => baseOf(s.code) === 'CUR').length;
  if (coats < 2 || !settings) return null;
  const lived = coatsLived(
    job.cures
      .filter((c, i) => job.cures.findIndex((d) => d.code === c.code) === i)
      .map((c) => bakeOf({ ...c, resin: c.rated })),
    {
      overBakeDegree: limit('cure.overBakeDegree', settings.limits),
      aboveRatedK: limit('cure.aboveRatedK', settings.limits),
    },
  );
  const times = (d: number | undefined) => (d === undefined ? '' : `${formatNumber(d, 3)} times`);
  return (
    <section aria-label="Coats of resin">
      <h2 className="font-semibold mb-1">{coats} coats of resin</h2>
      <table className="text-left">
        <thead>
          <tr className="text-small text-soft">
            {['Coat', 'Its own bake', 'With the later bakes', 'Hottest of all', ''].map((h) => (
              <th key={h} className="pr-6 font-normal">
                {h}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {Array.from({ length: coats }, (_, i) => i + 1).map((coat) => {
            const own = lived.find((c) => c.coat === coat);
            return (
              <tr key={coat} className="border-t border-line">
                <td className="pr-6">{coat}</td>
                <td className="pr-6">{own ? times(own.ownDegree) : 'not baked yet'}</td>
                <td className="pr-6">
                  {times(own?.livedDegree)}
                  {own?.otherResin ? ', a bake of another resin not counted' : ''}
                </td>
                <td className="pr-6">{own?.hottestC === undefined ? '' : `${formatNumber(own.hottestC, 4)} °C`}</td>
                <td>{own && own.judged.verdict !== 'pass' ? own.judged.reason : ''}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <p className="text-small text-soft">
        A coat is cured by its own bake alone; how hot it came and how long it was baked count over all of them.
      </p>
    </section>
  );
}

import type { ChamberView, LoadView } from '@norther/contracts';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { useOvensQuery } from '../../app/api/oven.ts';
import { useMay, useSettings, useTime } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';
import { ProblemNote, Quiet } from '../../ui/Problem.tsx';
import { Segmented } from '../../ui/Segmented.tsx';
import { VerdictMark } from '../../ui/Verdict.tsx';
import { VesselsView } from '../vessel/VesselsView.tsx';
import { TanksView } from '../tank/TanksView.tsx';
import { BeginLoad } from './BeginLoad.tsx';
import { ChamberBox, commonScale } from './ChamberBox.tsx';
import { ChamberForm } from './ChamberForm.tsx';
import { LoadPanel } from './LoadPanel.tsx';
import { Walls } from './Walls.tsx';

/** Asked again so often while something bakes; a change by others comes at once. */
const LOOK_MS = 5000;

const LOOKS = [
  ['ovens', 'Ovens'],
  ['tanks', 'Resin tanks'],
  ['vessels', 'Vacuum and pressure'],
] as const;

/** Ovens and resin tanks. */
export function OvensPage() {
  const [params, setParams] = useSearchParams();
  const look = LOOKS.find(([l]) => l === params.get('look'))?.[0] ?? 'ovens';
  return (
    <div className="space-y-4">
      <div className="flex flex-wrap items-center gap-4">
        <h1 className="text-title font-semibold">Ovens and tanks</h1>
        <Segmented
          label="What to look at"
          options={LOOKS}
          value={look}
          onChange={(l) => setParams(l === 'ovens' ? {} : { look: l })}
        />
      </div>
      {look === 'tanks' ? <TanksView /> : look === 'vessels' ? <VesselsView /> : <Ovens />}
    </div>
  );
}

/** Chambers drawn with what stands in them, live, and the load that is looked at. */
function Ovens() {
  const [params, setParams] = useSearchParams();
  const { data, error, isLoading } = useOvensQuery(undefined, { pollingInterval: LOOK_MS });
  const unit = useSettings()?.units.temperatureUnit ?? '°C';
  const mayKeep = useMay('foreman');
  const mayWall = useMay('admin');
  const [form, setForm] = useState<ChamberView | 'new'>();
  const open = (c: ChamberView) => data?.loads.find((l) => l.chamber.id === c.id && l.state !== 'done');
  const chambers = data?.chambers.filter((c) => c.active) ?? [];
  const asked = data?.loads.find((l) => l.id === params.get('load'));
  const chosen =
    chambers.find((c) => c.id === (params.get('of') ?? asked?.chamber.id)) ??
    chambers.find((c) => open(c)) ??
    chambers[0];
  const load = asked && asked.chamber.id === chosen?.id ? asked : chosen && open(chosen);
  const gone = data?.loads.filter((l) => l.state === 'done' && l.parts.some((p) => p.out?.says)) ?? [];
  return (
    <div className="space-y-4">
      <div className="flex flex-wrap items-center gap-3">
        {mayKeep ? <Button onClick={() => setForm('new')}>Add a chamber</Button> : null}
        {mayKeep && chosen ? <Button onClick={() => setForm(chosen)}>Change {chosen.name}</Button> : null}
      </div>
      <ProblemNote error={error} />
      {isLoading ? <Quiet>Asking for the ovens …</Quiet> : null}
      {data && chambers.length === 0 ? (
        <Quiet>
          No chamber is kept yet. A foreman adds each oven once: its door, what it takes, what it is for, the logger
          that reads it.
        </Quiet>
      ) : null}
      <div className="grid grid-cols-1 lg:grid-cols-[minmax(260px,1fr)_minmax(0,2.6fr)] gap-x-8 gap-y-4">
        <ul className="grid grid-cols-1 sm:grid-cols-2 lg:grid-cols-1 gap-1 content-start">
          {chambers.map((c) => (
            <li key={c.id}>
              <ChamberBox
                chamber={c}
                load={open(c)}
                chosen={c.id === chosen?.id}
                unit={unit}
                scale={commonScale(chambers)}
                onChoose={() => setParams({ of: c.id }, { replace: true })}
              />
            </li>
          ))}
        </ul>
        {chosen && data ? (
          load ? (
            <LoadPanel key={load.id} load={load} chamber={chosen} />
          ) : (
            <BeginLoad key={chosen.id} chamber={chosen} />
          )
        ) : null}
      </div>
      {gone.length > 0 ? <Gone loads={gone} /> : null}
      {mayWall ? <Walls /> : null}
      {form !== undefined ? (
        <ChamberForm chamber={form === 'new' ? undefined : form} onClose={() => setForm(undefined)} />
      ) : null}
    </div>
  );
}

/** Loads that ended, the newest first: what each part's own temperature said. */
function Gone({ loads }: { loads: readonly LoadView[] }) {
  const time = useTime();
  const [, setParams] = useSearchParams();
  return (
    <section aria-label="Loads that ended">
      <h2 className="font-semibold border-b border-line">Loads that ended</h2>
      <ul>
        {loads.map((l) => (
          <li key={l.id} className="grid grid-cols-1 md:grid-cols-[13rem_1fr] gap-x-4 border-b border-line py-1">
            <button
              type="button"
              className="text-left text-accent underline self-start min-h-6"
              onClick={() => setParams({ load: l.id }, { replace: true })}
            >
              Load {l.number}, {l.chamber.name}
              <span className="block text-small text-soft">{l.endedAt ? time(l.endedAt) : ''}</span>
            </button>
            <ul>
              {l.parts.map((p) =>
                p.out?.says ? (
                  <li key={p.id}>
                    <VerdictMark verdict={p.out.verdict} /> <span className="font-semibold">{p.job}</span> {p.what}:{' '}
                    {p.out.says}
                    {p.out.reason ? (
                      <span className="text-soft">
                        {' '}
                        “{p.out.reason}” {p.out.by}
                      </span>
                    ) : null}
                  </li>
                ) : null,
              )}
            </ul>
          </li>
        ))}
      </ul>
    </section>
  );
}

import { formatNumber } from '@norther/core';
import type { TankView } from '@norther/contracts';
import { useMemo, useState } from 'react';
import { useTanksQuery } from '../../app/api/tank.ts';
import { useMay, useTime } from '../../app/shop.ts';
import { Chart } from '../../chart/Chart.tsx';
import { Button } from '../../ui/Button.tsx';
import { ProblemNote, Quiet } from '../../ui/Problem.tsx';
import { VerdictMark } from '../../ui/Verdict.tsx';
import { FillTank } from './FillTank.tsx';
import { TankForm } from './TankForm.tsx';
import { TestTank } from './TestTank.tsx';

/** Resin tanks: what each holds, whether it may be used today, its tests and their trend. */
export function TanksView() {
  const { data, error, isLoading } = useTanksQuery();
  const mayKeep = useMay('foreman');
  const [form, setForm] = useState<TankView | 'new'>();
  return (
    <div className="space-y-6">
      <ProblemNote error={error} />
      {isLoading ? <Quiet>Asking for the tanks …</Quiet> : null}
      {data?.length === 0 ? (
        <Quiet>No tank is kept yet. A foreman adds each once, from the data sheet of its resin.</Quiet>
      ) : null}
      {(data ?? []).map((t) => (
        <Tank key={t.id} tank={t} onChange={mayKeep ? () => setForm(t) : undefined} />
      ))}
      {mayKeep ? <Button onClick={() => setForm('new')}>Add a tank</Button> : null}
      {form !== undefined ? (
        <TankForm tank={form === 'new' ? undefined : form} onClose={() => setForm(undefined)} />
      ) : null}
    </div>
  );
}

function Tank({ tank, onChange }: { tank: TankView; onChange: (() => void) | undefined }) {
  const time = useTime();
  const mayWork = useMay('winder');
  const [doing, setDoing] = useState<'test' | 'fill'>();
  const { setUp } = tank;
  const day = (d: string) => time(`${d}T12:00:00Z`, 'day');
  return (
    <section aria-label={tank.name} className="border-t-2 border-edge pt-2">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h2 className="font-semibold">{tank.name}</h2>
        <p className="text-soft">
          {tank.resin}; {setUp.least === undefined ? 'at most' : `${formatNumber(setUp.least)} to`}{' '}
          {formatNumber(setUp.most)} {setUp.unit} at {formatNumber(setUp.reference)} °C; tested every {setUp.everyDays}{' '}
          days
        </p>
        {onChange ? (
          <Button look="quiet" className="ml-auto" onClick={onChange}>
            Change
          </Button>
        ) : null}
      </div>
      <div className="grid grid-cols-1 lg:grid-cols-[minmax(280px,1fr)_minmax(0,1.8fr)] gap-x-8 gap-y-3 mt-1">
        <div className="space-y-2">
          {tank.blocked.length > 0 ? (
            <div role="alert" className="border-l-4 border-fail bg-fail-tint pl-2 py-1">
              <p className="font-semibold">Nothing is impregnated from it now.</p>
              {tank.blocked.map((b) => (
                <p key={b}>{b}</p>
              ))}
            </div>
          ) : (
            <p className="border-l-4 border-pass pl-2 font-semibold">It may be used today.</p>
          )}
          <dl className="grid grid-cols-[8rem_1fr] gap-x-3">
            <dt className="text-soft">Holds lot</dt>
            <dd>
              {tank.lot ? (
                <>
                  <span className="font-semibold">{tank.lot.lot}</span>, {formatNumber(tank.lot.leftKg, 4)} kg by the
                  books
                  {tank.lot.expires ? `, to ${day(tank.lot.expires)}` : ''}
                </>
              ) : (
                'nothing'
              )}
            </dd>
            {tank.within.length > 0 ? (
              <>
                <dt className="text-soft">In it are</dt>
                <dd>{tank.within.join(', ')}</dd>
              </>
            ) : null}
            <dt className="text-soft">Next test</dt>
            <dd>{tank.nextTest ? `by ${day(tank.nextTest)}` : 'now'}</dd>
            <dt className="text-soft">Too thick</dt>
            <dd>{tank.limitDay ? `by its trend on ${day(tank.limitDay)}` : 'no trend towards it'}</dd>
          </dl>
          {mayWork && tank.active ? (
            <div className="flex gap-2">
              <Button bench look="main" onClick={() => setDoing(doing === 'test' ? undefined : 'test')}>
                Test it
              </Button>
              <Button bench onClick={() => setDoing(doing === 'fill' ? undefined : 'fill')}>
                Top it up
              </Button>
            </div>
          ) : null}
          {doing === 'test' ? <TestTank tank={tank} onDone={() => setDoing(undefined)} /> : null}
          {doing === 'fill' ? <FillTank tank={tank} onDone={() => setDoing(undefined)} /> : null}
        </div>
        <Trend tank={tank} />
      </div>
    </section>
  );
}

function Trend({ tank }: { tank: TankView }) {
  const time = useTime();
  const { setUp, tests } = tank;
  const points = useMemo(() => [...tests].reverse().map((t) => ({ x: Date.parse(t.at), y: t.atReference })), [tests]);
  if (tests.length === 0) return <Quiet>No test is recorded yet.</Quiet>;
  return (
    <div className="min-w-0">
      {points.length > 1 ? (
        <div className="bg-sheet border border-line p-2">
          <Chart
            title={`Viscosity of ${tank.name}`}
            series={[
              { key: 'v', label: `at ${setUp.reference} °C, ${setUp.unit}`, shape: 'line', look: 'main', points },
            ]}
            xKind="time"
            height={180}
            limits={[{ label: 'at most', value: setUp.most, role: 'bad' }]}
            sayX={(x) => time(new Date(x).toISOString(), 'day')}
            sayY={(y, digits = 4) => `${formatNumber(y, digits)} ${setUp.unit}`}
            xLabel="Day"
            yLabel="Viscosity"
            span={undefined}
          />
        </div>
      ) : null}
      <ul className="text-small mt-1 max-h-44 overflow-auto">
        {tests.map((t) => (
          <li key={t.id} className="border-b border-line py-1">
            <VerdictMark verdict={t.verdict} /> {t.reason}{' '}
            <span className="text-soft">
              {time(t.at)}, {t.by}
              {t.lot ? `, lot ${t.lot}` : ''}
              {t.typed['level'] ? `, level ${t.typed['level']}` : ''}
              {t.typed['gel'] ? `, gel ${t.typed['gel']}` : ''}
            </span>
          </li>
        ))}
      </ul>
    </div>
  );
}

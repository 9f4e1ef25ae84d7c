import { formatNumber, formatQuantity, ROUTES, type Nameplate, type RouteId } from '@norther/core';
import type { JobDetail } from '@norther/contracts';
import { lazy, Suspense } from 'react';
import { Link, NavLink, useParams } from 'react-router';
import { jobApi, useJobQuery } from '../../app/api/job.ts';
import { shopApi } from '../../app/api/shop.ts';
import { stockApi } from '../../app/api/stock.ts';
import { useMay, useSettings, useTime } from '../../app/shop.ts';
import { store } from '../../app/store.ts';
import { preloadable } from '../../ui/preloadable.tsx';
import { ProblemNote, Quiet } from '../../ui/Problem.tsx';

const Overview = lazy(() => import('./Overview.tsx').then((m) => ({ default: m.Overview })));
const DataBench = lazy(() => import('../winding/DataBench.tsx').then((m) => ({ default: m.DataBench })));
const PlanView = preloadable(() => import('../winding/PlanView.tsx').then((m) => m.PlanView));
const JointsView = lazy(() => import('../joints/JointsView.tsx').then((m) => ({ default: m.JointsView })));
const MaterialView = lazy(() => import('../insulation/MaterialView.tsx').then((m) => ({ default: m.MaterialView })));
const RouteView = lazy(() => import('../process/RouteView.tsx').then((m) => ({ default: m.RouteView })));
const OvenView = lazy(() => import('../process/OvenView.tsx').then((m) => ({ default: m.OvenView })));
const BalanceView = lazy(() => import('../balance/BalancePage.tsx').then((m) => ({ default: m.BalancePage })));
const TestsView = lazy(() => import('../evaluate/TestsView.tsx').then((m) => ({ default: m.TestsView })));
const FailureView = lazy(() => import('../failure/FailureView.tsx').then((m) => ({ default: m.FailureView })));
const PapersView = lazy(() => import('../report/PapersView.tsx').then((m) => ({ default: m.PapersView })));

// the address names the motor: it is asked for while the session still is
const [, asked] = /^\/jobs\/([^/]+)/.exec(window.location.pathname) ?? [];
if (asked !== undefined) {
  void store.dispatch(jobApi.endpoints.job.initiate(decodeURIComponent(asked)));
  void store.dispatch(shopApi.endpoints.shop.initiate());
}
// a search is asked for by the address: its screen and its worker come while the motor does
if (/[?&]do=change\b/.test(window.location.search)) {
  void import('../../worker/door.ts').then((m) => m.warmCore());
  void store.dispatch(stockApi.endpoints.stock.initiate());
  PlanView.preload();
  void import('../winding/PlanView.tsx').then((m) => m.preloadChange());
}

type View = {
  path: string;
  text: string;
  show: (job: JobDetail) => boolean;
  render: (job: JobDetail) => React.ReactNode;
};
const hasStator = (job: JobDetail) => job.came !== 'rotor only';
const rewinds = (job: JobDetail) => hasStator(job) && ROUTES[job.route as RouteId].rewinds.length > 0;
const bakes = (job: JobDetail) => hasStator(job) && job.detailSteps.some((s) => s.code === 'CUR' || s.code === 'ODR');

/** The views of a motor by the work they are for; a motor has only those it has a use for. */
const GROUPS: readonly { work: string; views: readonly View[] }[] = [
  {
    work: 'Job',
    views: [
      { path: '', text: 'Motor', show: () => true, render: (job) => <Overview job={job} /> },
      { path: 'route', text: 'Route', show: () => true, render: (job) => <RouteView job={job} /> },
      { path: 'papers', text: 'Papers and history', show: () => true, render: (job) => <PapersView job={job} /> },
    ],
  },
  {
    work: 'Winding',
    views: [
      { path: 'data', text: 'Data as found', show: hasStator, render: (job) => <DataBench job={job} /> },
      { path: 'failure', text: 'Why it failed', show: hasStator, render: (job) => <FailureView job={job} /> },
      { path: 'plan', text: 'Plan and card', show: hasStator, render: (job) => <PlanView job={job} /> },
      { path: 'material', text: 'Material', show: rewinds, render: (job) => <MaterialView job={job} /> },
      { path: 'joints', text: 'Joints', show: rewinds, render: (job) => <JointsView job={job} /> },
    ],
  },
  {
    work: 'Bench',
    views: [
      { path: 'oven', text: 'Oven', show: bakes, render: (job) => <OvenView job={job} /> },
      {
        path: 'balance',
        text: 'Balance',
        show: (job) => job.came !== 'stator only',
        render: (job) => <BalanceView job={job} />,
      },
      { path: 'tests', text: 'Tests', show: hasStator, render: (job) => <TestsView job={job} /> },
    ],
  },
];
const VIEWS = GROUPS.flatMap((g) => g.views);

/** One visit of a motor: everything about it is a press away. */
export function MotorPage() {
  const { number = '', view = '' } = useParams();
  const { data: job, error } = useJobQuery(number);
  const time = useTime();
  const mayChange = useMay('winder');
  const settings = useSettings();
  if (error && !job) return <ProblemNote error={error} />;
  if (!job) return <Quiet>Asking for {number} …</Quiet>;
  const plate = job.nameplate as Nameplate;
  const rating = [
    plate.outputW === undefined ? '' : formatQuantity(plate.outputW, 'power', settings?.units.powerUnit ?? 'kW', 3),
    plate.voltagesV ? `${plate.voltagesV.map((v) => formatNumber(v)).join('/')} V` : '',
    plate.frequencyHz ? `${formatNumber(plate.frequencyHz)} Hz` : '',
    plate.speedRpm ? `${formatNumber(plate.speedRpm)} r/min` : '',
    plate.poles ? `${plate.poles} poles` : '',
  ].filter(Boolean);
  const shown = VIEWS.find((v) => v.path === view && v.show(job)) ?? (VIEWS[0] as View);
  return (
    <article>
      <header className="flex flex-wrap items-baseline gap-x-4">
        <h1 className="text-title font-bold max-w-full truncate" title={job.what}>
          {job.what}
        </h1>
        <p className="text-soft min-w-0 truncate">
          {job.number} · {job.customer}
          {rating.length > 0 ? ` · ${rating.join(' · ')}` : ''}
        </p>
        <p className="ml-auto text-small whitespace-nowrap">
          {job.closedAt
            ? `left the house ${time(job.closedAt, 'day')}`
            : job.promised
              ? `promised ${time(`${job.promised}T12:00:00Z`, 'day')}`
              : ''}
          {job.late ? <strong className="text-fail ml-2">late</strong> : null}
          {job.priority === 'urgent' ? <strong className="ml-2">urgent</strong> : null}
          {mayChange && !job.closedAt ? (
            <Link to={`/jobs/${job.number}/edit`} className="ml-3 text-accent underline">
              correct intake
            </Link>
          ) : null}
        </p>
      </header>
      <nav aria-label="Views of this motor" className="flex flex-wrap gap-x-5 border-b-2 border-edge mb-3">
        {GROUPS.map((g) => ({ ...g, views: g.views.filter((v) => v.show(job)) }))
          .filter((g) => g.views.length > 0)
          .map((g) => (
            <div key={g.work} role="group" aria-label={g.work} className="flex flex-wrap items-baseline">
              <span aria-hidden="true" className="text-small text-soft pr-1">
                {g.work}
              </span>
              {g.views.map((v) => (
                <NavLink
                  key={v.path}
                  to={`/jobs/${job.number}${v.path ? `/${v.path}` : ''}`}
                  end
                  className={({ isActive }) =>
                    `px-2 py-2 font-semibold whitespace-nowrap border-b-3 -mb-0.5 ${isActive ? 'border-accent text-ink' : 'border-transparent text-soft hover:text-ink'}`
                  }
                >
                  {v.text}
                </NavLink>
              ))}
            </div>
          ))}
      </nav>
      <Suspense fallback={<Quiet>Opening …</Quiet>}>{shown.render(job)}</Suspense>
    </article>
  );
}

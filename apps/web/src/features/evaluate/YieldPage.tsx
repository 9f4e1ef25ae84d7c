import { YIELD_BY, YIELD_TITLES, type YieldBy, type YieldGroup } from '@norther/contracts';
import { formatNumber, stageTitle, testKind, type TestStage } from '@norther/core';
import { Link, useSearchParams } from 'react-router';
import { useFirstPassQuery } from '../../app/api/evaluate.ts';
import { DateField } from '../../ui/DateField.tsx';
import { PlainSelect } from '../../ui/Field.tsx';
import { ProblemNote, Quiet } from '../../ui/Problem.tsx';

const nameOf = (g: YieldGroup): string =>
  g.kind && g.stage
    ? `${testKind(g.kind)?.title ?? g.kind}, ${stageTitle(g.stage as TestStage, 'ac_random_rewind')}`
    : g.name;

/** How often the first reading passed, by what one asks; each bar opens the motors of those that did not. */
export function YieldPage() {
  const [params, setParams] = useSearchParams();
  const by = YIELD_BY.find((b) => b === params.get('by')) ?? 'test';
  const [from, to] = [params.get('from') ?? '', params.get('to') ?? ''];
  const { data, error, isFetching } = useFirstPassQuery({ by, ...(from ? { from } : {}), ...(to ? { to } : {}) });
  const put = (name: string, value: string) => {
    const next = new URLSearchParams(params);
    if (value === '') next.delete(name);
    else next.set(name, value);
    setParams(next, { replace: true });
  };
  const [tested, passed] = [data ?? [], data ?? []].map((g, i) =>
    g.reduce((n, x) => n + (i === 0 ? x.tested : x.passed), 0),
  ) as [number, number];
  return (
    <div className="space-y-4">
      <h1 className="text-title font-semibold">Passed at the first reading</h1>
      <div className="flex flex-wrap gap-3 items-end">
        <PlainSelect
          label="Counted by"
          value={by}
          onChange={(e) => put('by', e.target.value as YieldBy)}
          options={YIELD_BY.map((b) => ({ value: b, label: YIELD_TITLES[b] }))}
        />
        <DateField label="From" value={from} onChange={(day) => put('from', day)} />
        <DateField label="To" value={to} onChange={(day) => put('to', day)} />
        {data && tested > 0 ? (
          <p className="pb-2">
            {passed} of {tested} first readings, <strong>{formatNumber((100 * passed) / tested, 3)} %</strong>
          </p>
        ) : null}
      </div>
      <ProblemNote error={error} />
      {data?.length === 0 && !isFetching ? <Quiet>Nothing was tested in these days.</Quiet> : null}
      <ul aria-label="First readings" className="m-0 p-0 list-none">
        {(data ?? []).map((g) => (
          <li key={g.name} className="border-b border-line">
            <details>
              <summary className="cursor-pointer py-2 grid grid-cols-[minmax(0,1fr)_auto] md:grid-cols-[minmax(0,22rem)_minmax(0,1fr)_9rem] gap-x-4 items-center">
                <span className="truncate">{nameOf(g)}</span>
                <span
                  className="hidden md:block h-4 bg-sunk border border-edge"
                  role="img"
                  aria-label={`${g.passed} of ${g.tested} passed`}
                >
                  <span className="block h-full bg-accent" style={{ width: `${(100 * g.passed) / g.tested}%` }} />
                </span>
                <span className="tabular-nums text-right">
                  {g.passed} of {g.tested}, {formatNumber((100 * g.passed) / g.tested, 3)} %
                </span>
              </summary>
              <p className="pb-2 flex flex-wrap gap-x-3">
                {g.others.length === 0
                  ? 'All passed at once.'
                  : g.others.map((number) => (
                      <Link
                        key={number}
                        className="text-accent underline min-h-9 inline-flex items-center"
                        to={`/jobs/${number}/tests${g.kind && g.stage ? `?stage=${g.stage}&test=${g.kind}` : ''}`}
                      >
                        {number}
                      </Link>
                    ))}
              </p>
            </details>
          </li>
        ))}
      </ul>
    </div>
  );
}

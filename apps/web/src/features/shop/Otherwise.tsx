import { TEST_STAGE_TITLES } from '@norther/core';
import { Link } from 'react-router';
import { useLazyOtherwiseQuery } from '../../app/api/evaluate.ts';
import { useMay } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';
import { ProblemNote } from '../../ui/Problem.tsx';
import { Table } from '../../ui/Table.tsx';
import { VerdictMark } from '../../ui/Verdict.tsx';

/** What the tests of motors in the house would say by the limits of today. Stored verdicts stay. */
export function Otherwise() {
  const [ask, { data, error, isFetching }] = useLazyOtherwiseQuery();
  const mayTest = useMay('tester');
  if (!mayTest) return null;
  return (
    <section aria-label="By the limits of today" className="mt-3">
      <div className="flex flex-wrap gap-3 items-center">
        <Button disabled={isFetching} onClick={() => void ask()}>
          Which tests would come out otherwise?
        </Button>
        <span className="text-small text-soft">
          A changed limit judges nothing again: what is recorded stays. This only tells.
        </span>
      </div>
      <ProblemNote error={error} />
      {data ? (
        <>
          <p className="my-2">
            {data.judged} tests of motors in the house judged by the recorded limits, {data.otherwise.length} would come
            out otherwise
            {data.leftOut > 0 ? `; ${data.leftOut} are judged from their samples or can no longer be judged` : ''}.
          </p>
          {data.otherwise.length > 0 ? (
            <Table
              label="Tests that would come out otherwise"
              height="max-h-80 border border-line"
              rows={data.otherwise}
              keyOf={(o) => o.id}
              columns={[
                {
                  id: 'job',
                  head: 'Motor',
                  names: true,
                  className: 'font-normal py-1',
                  cell: (o) => (
                    <Link
                      className="text-accent underline"
                      to={`/jobs/${o.number}/tests?stage=${o.stage}&test=${o.kind}`}
                    >
                      {o.number}, {o.what}
                    </Link>
                  ),
                },
                { id: 'test', head: 'Test', cell: (o) => `${o.title}, ${TEST_STAGE_TITLES[o.stage]}` },
                { id: 'was', head: 'Recorded', cell: (o) => <VerdictMark verdict={o.was} /> },
                { id: 'now', head: 'Today', cell: (o) => <VerdictMark verdict={o.now} /> },
                { id: 'why', head: 'Why', cell: (o) => o.nowReason },
              ]}
            />
          ) : null}
        </>
      ) : null}
    </section>
  );
}

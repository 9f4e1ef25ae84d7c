import type { JobDetail } from '@norther/contracts';
import { useState } from 'react';
import { useBalanceSessionsQuery } from '../../app/api/balance.ts';
import { useMay, useTime } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';
import { Quiet } from '../../ui/Problem.tsx';
import { Segmented } from '../../ui/Segmented.tsx';
import { Practice } from './Practice.tsx';
import { OnePlane } from './BalanceView.tsx';
import { SetUp } from './SetUp.tsx';
import { Stand } from './Stand.tsx';

const LOOKS = [
  ['steps', 'Step by step, one plane or two'],
  ['sheet', 'One plane, in one sheet'],
  ['practice', 'Practice'],
] as const;

/** The balancing bench: a session on the stand, or one plane in one sheet. */
export function BalancePage({ job }: { job: JobDetail }) {
  const { data } = useBalanceSessionsQuery(job.number);
  const [look, setLook] = useState<(typeof LOOKS)[number][0]>();
  const [anew, setAnew] = useState(false);
  const may = useMay('winder') && !job.closedAt;
  const time = useTime();
  if (!data) return <Quiet>Asking for the balances …</Quiet>;
  const open = data.find((s) => s.ended === null);
  const [last] = data;
  const shown = look ?? (last || job.balances.length === 0 ? 'steps' : 'sheet');
  return (
    <div className="space-y-4">
      <Segmented label="How it is balanced" options={LOOKS} value={shown} onChange={setLook} />
      {shown === 'practice' ? (
        <Practice />
      ) : shown === 'sheet' ? (
        <OnePlane job={job} />
      ) : open ? (
        <Stand key={open.id} job={job} session={open} />
      ) : (
        <>
          {last && !anew ? (
            <>
              <p>
                Ended by {last.ended?.by}, {time(last.ended?.at ?? last.at)}
                {last.ended?.reason ? `: ${last.ended.reason}` : ''}
              </p>
              <Stand key={last.id} job={job} session={last} />
              {may ? <Button onClick={() => setAnew(true)}>Balance it again</Button> : null}
            </>
          ) : may ? (
            <SetUp job={job} last={last} />
          ) : (
            <Quiet>It has not stood on the stand yet.</Quiet>
          )}
        </>
      )}
    </div>
  );
}

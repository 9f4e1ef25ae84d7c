import type { BalanceSessionView, JobDetail } from '@norther/contracts';
import { useState } from 'react';
import { useBalanceSessionsQuery } from '../../app/api/balance.ts';
import { useMay, useTime } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';
import { PlainSelect } from '../../ui/Field.tsx';
import { Quiet } from '../../ui/Problem.tsx';
import { Segmented } from '../../ui/Segmented.tsx';
import { Assembled } from './Assembled.tsx';
import { Practice } from './Practice.tsx';
import { OnePlane } from './BalanceView.tsx';
import { SetUp } from './SetUp.tsx';
import { Stand } from './Stand.tsx';

const LOOKS = [
  ['steps', 'Step by step, one plane or two'],
  ['sheet', 'One plane, in one sheet'],
  ['practice', 'Practice'],
] as const;

const sayPiece = (s: BalanceSessionView): string => (s.unit === null ? '' : `piece ${s.unit}, `);

/** The balancing bench: a session on the stand, or one plane in one sheet. */
export function BalancePage({ job }: { job: JobDetail }) {
  const { data } = useBalanceSessionsQuery(job.number);
  const [look, setLook] = useState<(typeof LOOKS)[number][0]>();
  const [anew, setAnew] = useState(false);
  const [which, setWhich] = useState<string>();
  const may = useMay('winder') && !job.closedAt;
  const time = useTime();
  if (!data) return <Quiet>Asking for the balances …</Quiet>;
  const [last] = data;
  const session = data.find((s) => s.id === which) ?? data.find((s) => s.ended === null) ?? last;
  const shown = look ?? (last || job.balances.length === 0 ? 'steps' : 'sheet');
  // one rotor stands on one stand; of a job of many each piece has its own
  const another = may && !anew && session && (session.ended !== null || job.quantity > 1);
  return (
    <div className="space-y-4">
      <div className="flex flex-wrap gap-4 items-end">
        <Segmented label="How it is balanced" options={LOOKS} value={shown} onChange={setLook} />
        {shown === 'steps' && data.length > 1 && session && !anew ? (
          <PlainSelect
            label="Balance"
            value={session.id}
            onChange={(e) => setWhich(e.target.value)}
            options={data.map((s) => ({
              value: s.id,
              label: `${sayPiece(s)}${time(s.at)}${s.ended ? `, ${s.ended.meaning}` : ', on the stand'}`,
            }))}
          />
        ) : null}
      </div>
      {shown === 'practice' ? (
        <Practice />
      ) : shown === 'sheet' ? (
        <OnePlane job={job} />
      ) : session && !anew ? (
        <>
          {session.unit === null ? null : <p className="font-semibold">Piece {session.unit}</p>}
          {session.ended ? (
            <p>
              Ended by {session.ended.by}, {time(session.ended.at)}
              {session.ended.reason ? `: ${session.ended.reason}` : ''}
            </p>
          ) : null}
          <Stand key={session.id} job={job} session={session} />
          {another ? (
            <Button onClick={() => setAnew(true)}>
              {job.quantity > 1 ? 'Balance another piece' : 'Balance it again'}
            </Button>
          ) : null}
        </>
      ) : may ? (
        <SetUp
          job={job}
          last={session}
          onBegun={(id) => {
            setAnew(false);
            setWhich(id);
          }}
        />
      ) : (
        <Quiet>It has not stood on the stand yet.</Quiet>
      )}
      {shown === 'practice' || anew ? null : <Assembled job={job} />}
    </div>
  );
}

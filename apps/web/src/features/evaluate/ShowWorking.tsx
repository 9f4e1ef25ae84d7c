import { useState } from 'react';
import { useWorkingQuery } from '../../app/api/evaluate.ts';
import { ProblemNote, Quiet } from '../../ui/Problem.tsx';
import { WorkingTable } from '../../ui/Working.tsx';

/** The working of a recorded verdict, asked for when somebody opens it. */
export function ShowWorking({ number, id, result }: { number: string; id: string; result: unknown }) {
  const [open, setOpen] = useState(false);
  if (((result ?? {}) as { workingSteps?: number }).workingSteps === undefined) return null;
  return (
    <details onToggle={(e) => setOpen(e.currentTarget.open)}>
      <summary className="text-small text-accent cursor-pointer py-1.5">Show the working</summary>
      {open ? <Asked number={number} id={id} /> : null}
    </details>
  );
}

function Asked({ number, id }: { number: string; id: string }) {
  const { data, error } = useWorkingQuery({ number, id });
  if (error) return <ProblemNote error={error} />;
  return data ? <WorkingTable steps={data} /> : <Quiet>Asking for the working …</Quiet>;
}

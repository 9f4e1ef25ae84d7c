import type { BalanceNow } from '@norther/core';
import type { BalanceSessionView, JobDetail } from '@norther/contracts';
import { useState } from 'react';
import { useEndBalanceMutation, useKeepFamilyMutation } from '../../app/api/balance.ts';
import { Button } from '../../ui/Button.tsx';
import { PlainField } from '../../ui/Field.tsx';
import { ProblemNote } from '../../ui/Problem.tsx';

export function End({ job, session, is }: { job: JobDetail; session: BalanceSessionView; is: BalanceNow }) {
  const [end, { error, isLoading }] = useEndBalanceMutation();
  const [why, setWhy] = useState('');
  const inside = is.verdict === 'pass';
  return (
    <section aria-label="End" className="flex flex-wrap gap-3 items-end">
      {inside ? null : (
        <div className="w-80">
          <PlainField label="Why it ends before it is inside" value={why} onChange={(e) => setWhy(e.target.value)} />
        </div>
      )}
      <Button
        bench
        look={inside ? 'main' : 'plain'}
        disabled={isLoading || (!inside && why.trim().length < 3)}
        onClick={() => void end({ number: job.number, id: session.id, reason: why.trim() })}
      >
        {inside ? 'Inside: record the balance' : 'End it as it stands'}
      </Button>
      <ProblemNote error={error} />
    </section>
  );
}

/** Keeps how this rotor was set up, and what its planes do, for the rotors to come. */
export function KeepFamily({ job, session, is }: { job: JobDetail; session: BalanceSessionView; is: BalanceNow }) {
  const [keep, { error, isLoading, isSuccess, originalArgs }] = useKeepFamilyMutation();
  const [name, setName] = useState('');
  if (isSuccess) return <p role="status">Kept as {originalArgs?.name}.</p>;
  return (
    <form
      aria-label="Keep as a rotor family"
      className="flex flex-wrap gap-3 items-end"
      onSubmit={(e) => {
        e.preventDefault();
        void keep({ name: name.trim(), job: job.number, session: session.id });
      }}
    >
      <div className="w-80">
        <PlainField
          label="Keep as rotor family"
          value={name}
          onChange={(e) => setName(e.target.value)}
          hint={is.influence ? 'set-up, places and influence set' : 'set-up and places'}
        />
      </div>
      <Button type="submit" disabled={isLoading || name.trim().length < 2}>
        Keep it
      </Button>
      <ProblemNote error={error} />
    </form>
  );
}

import { useState } from 'react';
import { useAddWallMutation, useRevokeWallMutation, useWallsQuery } from '../../app/api/oven.ts';
import { useTime } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';
import { PlainField } from '../../ui/Field.tsx';
import { ProblemNote } from '../../ui/Problem.tsx';

/** Secret addresses for a screen on the wall. */
export function Walls() {
  const { data } = useWallsQuery();
  const time = useTime();
  const [name, setName] = useState('');
  const [made, setMade] = useState('');
  const [add, added] = useAddWallMutation();
  const [revoke, revoked] = useRevokeWallMutation();
  return (
    <details>
      <summary className="font-semibold cursor-pointer py-1.5">A screen on the wall</summary>
      <p className="text-small text-soft max-w-2xl">
        Shows chambers, job numbers and titles, and the time left, without signing in: no customer, no person, nothing
        to press. Whoever has the address sees it, so revoke one that got about.
      </p>
      {made ? (
        <p className="border-l-4 border-accent bg-accent-tint px-3 py-2 my-2">
          The address is shown only now: <code className="break-all select-all">{made}</code>{' '}
          <Button onClick={() => setMade('')}>Close</Button>
        </p>
      ) : null}
      <ul>
        {(data ?? []).map((w) => (
          <li key={w.id} className="flex gap-3 items-center py-1">
            <span className={w.revoked ? 'text-soft line-through' : 'font-semibold'}>{w.name}</span>
            <span className="text-small text-soft">
              {w.by}, {time(w.at)}
            </span>
            {w.revoked ? (
              <span className="text-small text-soft">revoked</span>
            ) : (
              <Button look="danger" onClick={() => void revoke(w.id)}>
                Revoke
              </Button>
            )}
          </li>
        ))}
      </ul>
      <form
        className="flex gap-2 items-end mt-1"
        onSubmit={(e) => {
          e.preventDefault();
          void add({ name }).then((r) => {
            if (!r.data) return;
            setName('');
            setMade(`${location.origin}/wall/${r.data.secret}`);
          });
        }}
      >
        <PlainField label="Where it hangs" value={name} onChange={(e) => setName(e.target.value)} />
        <Button type="submit" disabled={name.trim() === '' || added.isLoading}>
          Make an address
        </Button>
      </form>
      <ProblemNote error={added.error ?? revoked.error} />
    </details>
  );
}

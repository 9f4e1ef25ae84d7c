import type { LoadView } from '@norther/contracts';
import { useState } from 'react';
import { useAddOvenEventMutation } from '../../app/api/oven.ts';
import { useTime } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';
import { ProblemNote } from '../../ui/Problem.tsx';

/** What happened at a load: the burner off, the door opened, a note. */
export function Happenings({ load, mayWork }: { load: LoadView; mayWork: boolean }) {
  const time = useTime();
  const [note, setNote] = useState('');
  const [add, { error, isLoading }] = useAddOvenEventMutation();
  const open = load.events.findLast((e) => e.kind === 'door opened' || e.kind === 'door shut')?.kind === 'door opened';
  const tell = (kind: 'burner off' | 'door opened' | 'door shut' | 'note') =>
    void add({ id: load.id, kind, note }).then((r) => (r.data ? setNote('') : undefined));
  if (load.events.length === 0 && !mayWork) return null;
  return (
    <section aria-label="What happened">
      {mayWork ? (
        <div className="flex flex-wrap gap-2 items-end">
          <label className="grow max-w-md">
            <span className="block text-small font-semibold">Note</span>
            <input
              value={note}
              onChange={(e) => setNote(e.target.value)}
              className="w-full rounded-sm border border-edge bg-sheet px-2 min-h-11"
            />
          </label>
          <Button bench disabled={isLoading || note.trim() === ''} onClick={() => tell('note')}>
            Note it
          </Button>
          <Button bench disabled={isLoading} onClick={() => tell('burner off')}>
            Burner off
          </Button>
          <Button bench disabled={isLoading} onClick={() => tell(open ? 'door shut' : 'door opened')}>
            {open ? 'Door shut' : 'Door opened'}
          </Button>
        </div>
      ) : null}
      <ProblemNote error={error} />
      <ul className="text-small text-soft mt-1">
        {load.events.map((e) => (
          <li key={e.at + e.kind + e.note}>
            {time(e.at)} {e.kind}
            {e.note ? `: ${e.note}` : ''}, {e.by}
          </li>
        ))}
      </ul>
    </section>
  );
}

import { Link } from 'react-router';
import { Button } from '../../ui/Button.tsx';
import { outbox, type Waiting } from './outbox.ts';

const WHAT: Readonly<Record<Waiting['what'], string>> = {
  start: 'a start',
  join: 'a joining',
  pause: 'a pause',
  'hand over': 'a handing over',
  finish: 'a record',
  photograph: 'a photograph',
};

/** What waits on this device to be sent, and what the server would not take. */
export function WaitingNote({ waiting }: { waiting: readonly Waiting[] }) {
  if (waiting.length === 0) return null;
  const refused = waiting.filter((w) => w.refused !== '');
  const quiet = waiting.length - refused.length;
  return (
    <div role="status" className="border-b border-line bg-attention-tint px-4 py-1.5 text-small space-y-1">
      {quiet > 0 ? (
        <p>
          {quiet === 1 ? 'One thing is' : `${quiet} things are`} kept on this device and sent when the server is there.
        </p>
      ) : null}
      {refused.map((w) => (
        <p key={w.id} className="flex flex-wrap items-center gap-2">
          <span>
            <Link className="underline font-semibold" to={`/jobs/${w.number}/step/${w.code}`}>
              {w.number}
            </Link>
            : {WHAT[w.what]} was not taken. {w.refused}
          </span>
          <Button onClick={() => void outbox.again(w)}>Send again</Button>
          <Button look="danger" onClick={() => void outbox.drop(w)}>
            Take it out
          </Button>
        </p>
      ))}
    </div>
  );
}

import type { SessionView } from '@norther/contracts';
import { useState } from 'react';
import { useSwitchPersonMutation } from '../../app/api/people.ts';
import { Button } from '../../ui/Button.tsx';
import { ProblemNote } from '../../ui/Problem.tsx';

/** Change person in two touches: the name, then the PIN (which enters itself at four digits where that fits). */
export function PinPad({
  known,
  onFull,
  onDone,
}: {
  known: SessionView['known'];
  onFull: () => void;
  onDone?: () => void;
}) {
  const [who, setWho] = useState<string>();
  const [pin, setPin] = useState('');
  const [change, { error, isLoading }] = useSwitchPersonMutation();
  const enter = (value: string): void => {
    if (!who) return;
    void change({ personId: who, pin: value }).then((r) => {
      setPin('');
      if ('data' in r) onDone?.();
    });
  };
  return (
    <div className="space-y-3">
      <h2 className="text-title font-semibold">Who is it?</h2>
      <div className="grid grid-cols-1 sm:grid-cols-2 gap-2">
        {known.map((p) => (
          <button
            key={p.id}
            type="button"
            aria-pressed={who === p.id}
            onClick={() => setWho(p.id)}
            className={`min-h-12 px-3 text-left border rounded-sm ${who === p.id ? 'border-accent border-2 bg-accent-tint' : 'border-edge hover:bg-sunk'}`}
          >
            <span className="font-semibold">{p.name}</span> <span className="text-small text-soft">{p.role}</span>
          </button>
        ))}
      </div>
      {who ? (
        <form
          className="flex gap-2 items-end"
          onSubmit={(e) => {
            e.preventDefault();
            enter(pin);
          }}
        >
          <label className="flex-1">
            <span className="block text-small font-semibold">PIN</span>
            <input
              autoFocus
              inputMode="numeric"
              type="password"
              autoComplete="off"
              value={pin}
              onChange={(e) => setPin(e.target.value)}
              className="w-full min-h-11 text-bench border border-edge rounded-sm px-3 bg-sheet"
            />
          </label>
          <Button look="main" bench type="submit" disabled={isLoading || pin.length < 4}>
            Go
          </Button>
        </form>
      ) : null}
      <ProblemNote error={error} />
      <Button look="quiet" onClick={onFull}>
        Someone else: name and password
      </Button>
    </div>
  );
}

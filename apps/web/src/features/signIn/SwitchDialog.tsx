import { useState } from 'react';
import { api, useSessionQuery, useSetPinMutation, useSignOutMutation } from '../../app/api.ts';
import { store } from '../../app/store.ts';
import { Button } from '../../ui/Button.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { PlainField } from '../../ui/Field.tsx';
import { ProblemNote } from '../../ui/Problem.tsx';
import { PinPad } from './PinPad.tsx';

export function SwitchDialog({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  const { data: session } = useSessionQuery();
  const [signOut] = useSignOutMutation();
  const [setOwn, { error, isSuccess }] = useSetPinMutation();
  const [pin, setPin] = useState('');
  return (
    <Dialog open={open} onOpenChange={onOpenChange} title="Change person">
      <PinPad
        known={session?.known ?? []}
        onDone={() => onOpenChange(false)}
        onFull={() =>
          void signOut().then(() => {
            store.dispatch(api.util.resetApiState());
          })
        }
      />
      <form
        className="mt-4 pt-3 border-t border-line flex gap-2 items-end"
        onSubmit={(e) => {
          e.preventDefault();
          void setOwn({ pin }).then(() => setPin(''));
        }}
      >
        <PlainField
          label={session?.person.hasPin ? 'New PIN for yourself' : 'Set a PIN for yourself'}
          inputMode="numeric"
          type="password"
          autoComplete="off"
          value={pin}
          onChange={(e) => setPin(e.target.value)}
        />
        <Button type="submit">Set</Button>
        {isSuccess ? <span className="text-small text-soft pb-2">set</span> : null}
      </form>
      <ProblemNote error={error} />
    </Dialog>
  );
}

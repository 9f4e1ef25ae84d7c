import { useState } from 'react';
import { api } from '../../app/api/base.ts';
import {
  useChangePasswordMutation,
  useSessionQuery,
  useSetPinMutation,
  useSignOutEverywhereMutation,
  useSignOutMutation,
} from '../../app/api/people.ts';
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
      <OwnPassword />
    </Dialog>
  );
}

/** One's own password, and the end of every other session of one's own. */
function OwnPassword() {
  const [change, changed] = useChangePasswordMutation();
  const [everywhere, ended] = useSignOutEverywhereMutation();
  const [v, setV] = useState({ current: '', password: '' });
  return (
    <form
      className="mt-3 pt-3 border-t border-line space-y-2"
      onSubmit={(e) => {
        e.preventDefault();
        void change(v).then((r) => ('data' in r || !('error' in r) ? setV({ current: '', password: '' }) : undefined));
      }}
    >
      <div className="flex flex-wrap gap-2 items-end">
        <PlainField
          label="Password now"
          type="password"
          autoComplete="current-password"
          value={v.current}
          onChange={(e) => setV({ ...v, current: e.target.value })}
        />
        <PlainField
          label="New password"
          type="password"
          autoComplete="new-password"
          hint="at least 8 characters; ends your sessions elsewhere"
          value={v.password}
          onChange={(e) => setV({ ...v, password: e.target.value })}
        />
        <Button type="submit" disabled={changed.isLoading || v.current === '' || v.password === ''}>
          Change
        </Button>
        {changed.isSuccess ? <span className="text-small text-soft pb-2">changed</span> : null}
      </div>
      <ProblemNote error={changed.error} />
      <Button look="quiet" onClick={() => void everywhere()}>
        {ended.isSuccess ? 'Signed out everywhere else' : 'Sign me out everywhere else'}
      </Button>
      <ProblemNote error={ended.error} />
    </form>
  );
}

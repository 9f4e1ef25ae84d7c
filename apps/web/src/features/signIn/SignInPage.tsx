import { type FormEvent, useState } from 'react';
import { problemOf } from '../../app/api/base.ts';
import { useFirstAdminMutation, useKnownQuery, useSetupQuery, useSignInMutation } from '../../app/api/people.ts';
import { Button } from '../../ui/Button.tsx';
import { PlainField } from '../../ui/Field.tsx';
import { ProblemNote } from '../../ui/Problem.tsx';
import { PinPad } from './PinPad.tsx';

export function SignInPage({ unreachable }: { unreachable: boolean }) {
  const { data: setup } = useSetupQuery();
  const { data: known } = useKnownQuery();
  const [full, setFull] = useState(false);
  return (
    <main className="min-h-screen grid place-items-center p-6">
      <div className="w-full max-w-3xl grid md:grid-cols-[1fr_1.1fr] border-2 border-edge bg-sheet">
        <div className="p-8 bg-accent text-on-accent flex flex-col justify-between gap-10">
          <div>
            <h1 className="text-[2.4rem] font-bold leading-none tracking-tight">Norther</h1>
            <p className="mt-2">{setup?.shopName ?? ''}</p>
          </div>
          <p className="text-small">
            Windings, resin, balance and tests of every motor in the house. Norther informs; local codes and licensed
            practice decide.
          </p>
        </div>
        <div className="p-8">
          {unreachable ? (
            <ProblemNote>The server cannot be reached. It may be starting; reload in a moment.</ProblemNote>
          ) : null}
          {setup?.needsFirstAdmin ? (
            <FirstAdmin />
          ) : known && known.length > 0 && !full ? (
            <PinPad known={known} onFull={() => setFull(true)} />
          ) : (
            <Password demo={setup?.demo ?? []} />
          )}
        </div>
      </div>
    </main>
  );
}

function Password({ demo }: { demo: readonly { signIn: string; password: string; name: string; role: string }[] }) {
  const [signIn, { isLoading, error }] = useSignInMutation();
  const [name, setName] = useState('');
  const [password, setPassword] = useState('');
  const submit = (e: FormEvent): void => {
    e.preventDefault();
    void signIn({ signIn: name, password });
  };
  return (
    <form onSubmit={submit} className="space-y-3">
      <h2 className="text-title font-semibold">Sign in</h2>
      <PlainField
        label="Sign-in name"
        autoComplete="username"
        autoFocus
        value={name}
        onChange={(e) => setName(e.target.value)}
      />
      <PlainField
        label="Password"
        type="password"
        autoComplete="current-password"
        value={password}
        onChange={(e) => setPassword(e.target.value)}
      />
      <ProblemNote error={error} />
      <Button look="main" bench type="submit" disabled={isLoading || name === '' || password === ''}>
        Sign in
      </Button>
      {demo.length > 0 ? (
        <div className="pt-3 border-t border-line">
          <p className="text-small text-soft mb-1">Demo shop, invented people. Press one to sign in:</p>
          <ul className="grid grid-cols-1 sm:grid-cols-2 gap-1">
            {demo.map((d) => (
              <li key={d.signIn}>
                <button
                  type="button"
                  className="text-left w-full px-2 py-1.5 hover:bg-sunk border border-line rounded-sm"
                  onClick={() => void signIn({ signIn: d.signIn, password: d.password })}
                >
                  <span className="font-semibold">{d.name}</span>
                  <span className="block text-small text-soft">
                    {d.role} · {d.signIn}
                  </span>
                </button>
              </li>
            ))}
          </ul>
          <p className="text-small text-soft mt-1">Password of all: {demo[0]?.password}</p>
        </div>
      ) : null}
    </form>
  );
}

function FirstAdmin() {
  const [create, { isLoading, error }] = useFirstAdminMutation();
  const [v, setV] = useState({ shopName: '', name: '', signIn: '', password: '' });
  const problems = error ? problemOf(error).problems : undefined;
  const of = (field: string) => problems?.find((p) => p.field === field)?.message;
  const set = (field: keyof typeof v) => (e: { target: { value: string } }) => setV({ ...v, [field]: e.target.value });
  return (
    <form
      className="space-y-3"
      onSubmit={(e) => {
        e.preventDefault();
        void create(v);
      }}
    >
      <h2 className="text-title font-semibold">Set up this Norther</h2>
      <p className="text-small text-soft">Nobody is here yet. You become its first admin.</p>
      <PlainField label="Name of the shop" value={v.shopName} onChange={set('shopName')} error={of('shopName')} />
      <PlainField label="Your name" value={v.name} onChange={set('name')} error={of('name')} />
      <PlainField
        label="Sign-in name"
        value={v.signIn}
        onChange={set('signIn')}
        error={of('signIn')}
        autoComplete="username"
      />
      <PlainField
        label="Password"
        type="password"
        value={v.password}
        onChange={set('password')}
        error={of('password')}
        hint="at least 8 characters"
        autoComplete="new-password"
      />
      {error && !problems ? <ProblemNote error={error} /> : null}
      <Button look="main" bench type="submit" disabled={isLoading}>
        Begin
      </Button>
    </form>
  );
}

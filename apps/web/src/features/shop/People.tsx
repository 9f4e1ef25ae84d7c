import { ROLES, type PersonView, type Role } from '@norther/contracts';
import { useState } from 'react';
import {
  useAddPersonMutation,
  useChangePersonMutation,
  usePeopleQuery,
  useSignOutPersonMutation,
} from '../../app/api/people.ts';
import { Button } from '../../ui/Button.tsx';
import { PlainField, PlainSelect } from '../../ui/Field.tsx';
import { ProblemNote } from '../../ui/Problem.tsx';

/** People, their roles and passwords. Nobody is deleted: records keep their names. */
export function People({ mayChange }: { mayChange: boolean }) {
  const { data } = usePeopleQuery();
  const [add, { error, isLoading }] = useAddPersonMutation();
  const [n, setN] = useState({ name: '', signIn: '', role: 'winder' as Role, password: '' });
  return (
    <section>
      <h2 className="font-semibold border-b border-line mb-2">People</h2>
      <ul>
        {(data ?? []).map((p) => (
          <PersonRow key={`${p.id}${p.version}`} person={p} mayChange={mayChange} />
        ))}
      </ul>
      {mayChange ? (
        <form
          className="grid grid-cols-1 lg:grid-cols-[1.2fr_1fr_1fr_1fr_auto] gap-2 items-end mt-3"
          onSubmit={(e) => {
            e.preventDefault();
            void add(n).then((r) =>
              'data' in r ? setN({ name: '', signIn: '', role: 'winder', password: '' }) : undefined,
            );
          }}
        >
          <PlainField label="New person" value={n.name} onChange={(e) => setN({ ...n, name: e.target.value })} />
          <PlainField
            label="Sign-in name"
            value={n.signIn}
            onChange={(e) => setN({ ...n, signIn: e.target.value })}
            autoComplete="off"
          />
          <PlainSelect
            label="Role"
            value={n.role}
            onChange={(e) => setN({ ...n, role: e.target.value as Role })}
            options={ROLES.map((r) => ({ value: r, label: r }))}
          />
          <PlainField
            label="First password"
            type="password"
            value={n.password}
            onChange={(e) => setN({ ...n, password: e.target.value })}
            autoComplete="new-password"
          />
          <Button type="submit" disabled={isLoading}>
            Add
          </Button>
        </form>
      ) : null}
      <ProblemNote error={error} />
    </section>
  );
}

function PersonRow({ person, mayChange }: { person: PersonView; mayChange: boolean }) {
  const [change, { error }] = useChangePersonMutation();
  const [signOut, signedOut] = useSignOutPersonMutation();
  const [password, setPassword] = useState<string>();
  const base = { id: person.id, version: person.version, name: person.name, role: person.role, active: person.active };
  return (
    <li className="border-b border-line py-1">
      <div className="flex gap-3 items-center">
        <span
          className={`flex-1 min-w-0 truncate ${person.active ? '' : 'text-soft line-through'}`}
          title={person.name}
        >
          <span className="font-semibold">{person.name}</span>{' '}
          <span className="text-small text-soft">{person.signIn}</span>
        </span>
        {mayChange ? (
          <>
            <select
              aria-label={`Role of ${person.name}`}
              value={person.role}
              onChange={(e) =>
                void change({
                  id: person.id,
                  version: person.version,
                  name: person.name,
                  role: e.target.value as Role,
                  active: person.active,
                })
              }
              className="border border-edge rounded-sm bg-sheet min-h-8"
            >
              {ROLES.map((r) => (
                <option key={r}>{r}</option>
              ))}
            </select>
            <Button look="quiet" onClick={() => setPassword(password === undefined ? '' : undefined)}>
              Password
            </Button>
            <Button look="quiet" onClick={() => void signOut(person.id)} title="Ends every session and PIN entry">
              {signedOut.isSuccess ? 'Signed out' : 'Sign out'}
            </Button>
            <Button
              look="quiet"
              onClick={() =>
                void change({
                  id: person.id,
                  version: person.version,
                  name: person.name,
                  role: person.role,
                  active: !person.active,
                })
              }
            >
              {person.active ? 'Let go' : 'Bring back'}
            </Button>
          </>
        ) : (
          <span className="text-small">{person.role}</span>
        )}
      </div>
      {password === undefined ? null : (
        <form
          className="flex gap-2 items-end mt-1"
          onSubmit={(e) => {
            e.preventDefault();
            void change({ ...base, password });
          }}
        >
          <PlainField
            label={`New password for ${person.name}`}
            type="password"
            autoComplete="new-password"
            hint="ends every session of this person"
            value={password}
            onChange={(e) => setPassword(e.target.value)}
          />
          <Button type="submit" disabled={password.length < 8}>
            Set
          </Button>
        </form>
      )}
      <ProblemNote error={error} />
    </li>
  );
}

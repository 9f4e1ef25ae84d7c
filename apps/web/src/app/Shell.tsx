import { Moon, Sun } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { useEffect, useRef, useState } from 'react';
import { NavLink, Outlet, useNavigate } from 'react-router';
import { SearchBox } from '../features/search/SearchBox.tsx';
import { SignInPage } from '../features/signIn/SignInPage.tsx';
import { SwitchDialog } from '../features/signIn/SwitchDialog.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { api } from './api/base.ts';
import { useSessionQuery, useSignOutMutation } from './api/people.ts';
import { goesTo } from './keyboard.ts';
import { useLive } from './live.ts';
import { useOutbox } from './outbox/outbox.ts';
import { WaitingNote } from './outbox/WaitingNote.tsx';
import { useMay, useSettings } from './shop.ts';
import { store } from './store.ts';
import { useTheme } from './theme.ts';

const SHORTCUTS: readonly [string, string][] = [
  ['/', 'search from anywhere; scan a label here'],
  ['Enter', 'to the next field; on a number: show the working'],
  ['Ctrl Enter', 'record what is typed'],
  ['Esc', 'out of the field, to the keys below'],
  ['g f', 'to the floor'],
  ['g t', 'take a motor in'],
  ['g o', 'the ovens'],
  ['g w', 'wire and stock'],
  ['g a', 'the archive'],
  ['g s', 'to the shop'],
  ['g m, r, d, p, j, e', 'of a motor: itself, route, data as found, plan, joints, tests'],
  ['p', 'change person'],
  ['d', 'light or dark'],
  ['?', 'this list'],
];

export function Shell() {
  const session = useSessionQuery();
  if (session.isLoading) return <p className="p-8 text-soft">Opening …</p>;
  if (!session.data)
    return (
      <SignInPage
        unreachable={
          session.error !== undefined && 'status' in session.error && typeof session.error.status !== 'number'
        }
      />
    );
  return <SignedIn key={session.data.person.id} />;
}

function SignedIn() {
  const { data: session } = useSessionQuery();
  const settings = useSettings();
  const live = useLive(session?.person.id ?? '');
  const waiting = useOutbox(session?.person.id ?? '');
  const [theme, turnTheme] = useTheme();
  const [help, setHelp] = useState(false);
  const [switching, setSwitching] = useState(false);
  const [signOut] = useSignOutMutation();
  const mayTake = useMay('winder');
  const navigate = useNavigate();

  const before = useRef('');

  useEffect(() => {
    const press = (event: KeyboardEvent): void => {
      const target = event.target as HTMLElement;
      // out of a field, so that the next key is a shortcut
      if (event.key === 'Escape' && target.closest('input, textarea, select') && !target.closest('[role=dialog]'))
        target.blur();
      if (event.ctrlKey || event.metaKey || event.altKey || target.closest('input, textarea, select, [role=dialog]'))
        return;
      const to = (path: string) => {
        event.preventDefault();
        void navigate(path);
      };
      const goal = goesTo(event.key, window.location.pathname);
      if (event.key === '/') {
        event.preventDefault();
        document.querySelector<HTMLInputElement>('#search')?.focus();
      } else if (event.key === '?') setHelp(true);
      else if (before.current === 'g' && goal !== undefined) to(goal);
      else if (event.key === 'p') setSwitching(true);
      else if (event.key === 'd') turnTheme();
      before.current = event.key === 'g' ? 'g' : '';
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, [turnTheme, navigate]);

  const link = ({ isActive }: { isActive: boolean }) =>
    `px-2 sm:px-3 py-2 font-semibold border-b-3 ${isActive ? 'border-accent text-ink' : 'border-transparent text-soft hover:text-ink'}`;
  return (
    <div className="min-h-screen flex flex-col">
      <a href="#content" className="sr-only focus:not-sr-only focus:absolute focus:z-50 bg-sheet p-2">
        To the content
      </a>
      <header className="flex flex-wrap lg:flex-nowrap items-center gap-x-2 px-4 border-b-2 border-edge bg-sheet print:hidden">
        <span className="font-bold tracking-tight text-title mr-3 whitespace-nowrap" aria-hidden="true">
          Norther
        </span>
        <nav aria-label="Main" className="flex flex-wrap">
          <NavLink to="/" end className={link}>
            Floor
          </NavLink>
          {mayTake ? (
            <NavLink to="/take-in" className={link}>
              Take in
            </NavLink>
          ) : null}
          <NavLink to="/ovens" className={link}>
            Ovens
          </NavLink>
          <NavLink to="/stock" className={link}>
            Wire
          </NavLink>
          <NavLink to="/archive" className={link}>
            Archive
          </NavLink>
          <NavLink to="/shop" className={link}>
            Shop
          </NavLink>
        </nav>
        <SearchBox />
        <span className="hidden lg:inline text-small text-soft truncate max-w-60" title={settings?.name}>
          {settings?.name}
        </span>
        <span
          role="status"
          className="ml-auto lg:ml-0 text-small text-soft flex items-center gap-1.5 whitespace-nowrap"
          title={live === 'live' ? 'Changes by others appear by themselves' : 'No line to the server; trying again'}
        >
          <span
            className={`inline-block size-2.5 rounded-full border-2 border-accent ${live === 'live' ? 'bg-accent' : ''}`}
          />
          {live === 'live' ? 'live' : 'no line'}
        </span>
        <button
          type="button"
          onClick={turnTheme}
          aria-label={theme === 'light' ? 'Dark' : 'Light'}
          className="p-2 hover:bg-sunk rounded-sm"
        >
          {theme === 'light' ? <Moon className="size-4" /> : <Sun className="size-4" />}
        </button>
        <DropdownMenu.Root>
          <DropdownMenu.Trigger className="px-3 py-1.5 border border-edge rounded-sm text-left leading-tight whitespace-nowrap hover:bg-sunk">
            <span className="font-semibold">{session?.person.name}</span>{' '}
            <span className="hidden sm:inline text-small text-soft">{session?.person.role}</span>
          </DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content align="end" sideOffset={4} className="z-50 bg-sheet border border-edge py-1 min-w-48">
              {(
                [
                  ['Change person', () => setSwitching(true)],
                  ['Keyboard', () => setHelp(true)],
                  [
                    'Sign out',
                    () =>
                      void signOut().then(() => {
                        store.dispatch(api.util.resetApiState());
                      }),
                  ],
                ] as const
              ).map(([text, act]) => (
                <DropdownMenu.Item
                  key={text}
                  onSelect={act}
                  className="px-3 py-2 cursor-pointer data-[highlighted]:bg-sunk outline-none"
                >
                  {text}
                </DropdownMenu.Item>
              ))}
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
      </header>
      <WaitingNote waiting={waiting} />
      <main id="content" className="flex-1 px-4 py-3">
        <Outlet />
      </main>
      <Dialog open={help} onOpenChange={setHelp} title="Keyboard">
        <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1">
          {SHORTCUTS.map(([key, what]) => (
            <div key={key} className="contents">
              <dt className="font-semibold">{key}</dt>
              <dd>{what}</dd>
            </div>
          ))}
        </dl>
      </Dialog>
      <SwitchDialog open={switching} onOpenChange={setSwitching} />
    </div>
  );
}

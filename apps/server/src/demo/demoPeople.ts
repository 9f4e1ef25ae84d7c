import type { Role } from '@norther/contracts';

/** Every demo sign-in has this password; it exists only in the demo shop and is shown on its sign-in page. */
export const DEMO_PASSWORD = 'harbour-2026';

export const DEMO_PEOPLE: readonly { key: string; name: string; signIn: string; role: Role; pin: string }[] = [
  { key: 'winder', name: 'Ines Halvard', signIn: 'ines', role: 'winder', pin: '1111' },
  { key: 'winder2', name: 'Tomas Brekke', signIn: 'tomas', role: 'winder', pin: '2222' },
  { key: 'tester', name: 'Runa Solvik', signIn: 'runa', role: 'tester', pin: '3333' },
  { key: 'foreman', name: 'Odd Marstein', signIn: 'odd', role: 'foreman', pin: '4444' },
  { key: 'admin', name: 'Liv Askeroy', signIn: 'liv', role: 'admin', pin: '5555' },
  { key: 'viewer', name: 'Per Nordal', signIn: 'per', role: 'viewer', pin: '6666' },
];

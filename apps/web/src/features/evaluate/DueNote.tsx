import type { Due } from '@norther/core';

/** As it is written. */
const plain = (text: string): string => text;

/** What a test is to be done with, said before it is done. */
export function DueNote({ due, say = plain }: { due: Due | undefined; say?: (text: string) => string }) {
  if (!due || due.says.length === 0) return null;
  return (
    <ul aria-label="Before the test" className="mb-2 border-l-4 border-line pl-3 text-small">
      {due.says.map((s) => (
        <li key={s}>{say(s)}</li>
      ))}
    </ul>
  );
}

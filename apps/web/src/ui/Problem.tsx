import type { ReactNode } from 'react';
import { problemOf } from '../app/api/base.ts';

/** A problem in a sentence, where it happened. */
export function ProblemNote({ error, children }: { error?: unknown; children?: ReactNode }) {
  if (!error && !children) return null;
  const problem = error ? problemOf(error) : undefined;
  return (
    <div role="alert" className="border-l-4 border-fail bg-fail-tint px-3 py-2 text-ink">
      {problem ? (
        problem.problems && problem.problems.length > 1 ? (
          <ul className="list-disc pl-4">
            {problem.problems.map((p) => (
              <li key={p.field + p.message}>{p.message}</li>
            ))}
          </ul>
        ) : (
          problem.detail
        )
      ) : null}
      {children}
    </div>
  );
}

export function Quiet({ children }: { children: ReactNode }) {
  return <p className="text-soft">{children}</p>;
}

import { lineOfLead } from '@norther/core';
import type { Typed } from '../../ui/useTypedForm.ts';

const LEADS = ['U', 'V', 'W'] as const;
const RUNS = [0, 1, 2] as const;

const isRead = (typed: Typed, run: number): boolean => LEADS.every((l) => (typed[`run${run + 1}${l}`] ?? '') !== '');

/** Three runs one after the other: how the leads lie now, what is done before the next. */
export function LeadsGuide({ typed, say }: { typed: Typed; say: (text: string) => string }) {
  const now = RUNS.find((run) => !isRead(typed, run));
  return (
    <ol aria-label="Three runs" className="grid grid-cols-1 sm:grid-cols-3 gap-3 list-none p-0 my-2">
      {RUNS.map((run) => {
        const is = now === run ? 'now' : isRead(typed, run) ? 'read' : 'then';
        return (
          <li
            key={run}
            aria-current={is === 'now' ? 'step' : undefined}
            className={`border-l-4 pl-3 ${is === 'now' ? 'border-accent' : 'border-line text-soft'}`}
          >
            <p className="font-semibold">
              Run {run + 1}
              {is === 'now' ? ': now' : is === 'read' ? ': read' : ''}
            </p>
            <p className="tabular-nums">
              {LEADS.map((l, t) => `${say(`lead ${l}`)} on ${lineOfLead(t, run)}`).join(', ')}
            </p>
            {is === 'now' ? (
              <p className="text-small">
                {run === 0
                  ? 'As it is connected. Note the three currents at one voltage.'
                  : 'Off, isolated, locked, proved dead. Each lead one line further, then run at the same voltage.'}
              </p>
            ) : null}
          </li>
        );
      })}
    </ol>
  );
}

import { operation, typedWithUnit } from '@norther/core';
import type { StepViewRow } from '@norther/contracts';
import { useReadingDefaults, useTime } from '../../app/shop.ts';
import { VerdictMark } from '../../ui/Verdict.tsx';
import { minutesByPerson } from './ahead.ts';
import { inWords } from './words.ts';

/** What was recorded at a step, attempt by attempt, with who said what of it. */
export function Attempts({ step }: { step: StepViewRow }) {
  const time = useTime();
  const defaults = useReadingDefaults();
  const op = operation(step.code);
  const done = step.attempts.filter((a) => a.finishedAt || a.override);
  if (done.length === 0 && step.notes.length === 0) return null;
  return (
    <ul className="mt-1 space-y-0.5 text-small">
      {done.map((a) => (
        <li key={a.id}>
          {step.attempts.length > 1 ? <span className="font-semibold">Attempt {a.number}: </span> : null}
          {a.verdict ? <VerdictMark verdict={a.verdict} /> : null}{' '}
          {a.override ? (
            <strong>
              started over a hold by {a.startedBy}: {a.override}.{' '}
            </strong>
          ) : null}
          {a.verdict && a.verdict !== 'pass' ? inWords(a.reason) : null}{' '}
          <span className="text-soft">
            {a.finishedBy ? `${a.finishedBy}, ${time(a.finishedAt ?? '')}` : ''}
            {timesOf(a)}
            {Object.keys(a.typed).length > 0
              ? ` · ${op.fields
                  .filter((f) => a.typed[f.name])
                  .map(
                    (f) =>
                      `${f.label.toLowerCase()} ${typedWithUnit(f, a.typed[f.name] ?? '', defaults, a.values[f.name])}`,
                  )
                  .join(' · ')}`
              : ''}
          </span>
        </li>
      ))}
      {step.notes.map((n) => (
        <li key={n.at + n.meaning} className="text-soft">
          {n.meaning} by {n.by} ({n.role}), {time(n.at)}: {n.reason}
        </li>
      ))}
    </ul>
  );
}

/** Who worked at it for how long; one who worked alone and finished it is named already. */
function timesOf(a: StepViewRow['attempts'][number]): string {
  if (!a.finishedAt || a.spells.length === 0) return '';
  const each = minutesByPerson(a.spells, Date.parse(a.finishedAt));
  const alone = each.length === 1 && each[0]?.person === a.finishedBy;
  return ` · ${each.map((w) => `${alone ? '' : `${w.person} `}${Math.round(w.minutes)} min`).join(', ')}`;
}

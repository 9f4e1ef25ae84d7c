import { formatNumber, parseNumber, PLANT_FIGURES, PLANT_FLAGS, SIGNAL_WORDS } from '@norther/core';
import type { CycleView } from '@norther/contracts';
import { useState } from 'react';
import { useTypeSignalsMutation } from '../../app/api/vessel.ts';
import { Button } from '../../ui/Button.tsx';
import { ProblemNote } from '../../ui/Problem.tsx';

/** What the plant says of itself; what it does not say is read by a person and counts for three minutes. */
export function Signals({ cycle, mayWork }: { cycle: CycleView; mayWork: boolean }) {
  const [typed, setTyped] = useState<Readonly<Record<string, string>>>({});
  const [tell, { error, isLoading }] = useTypeSignalsMutation();
  const said = Object.entries(typed).flatMap(([name, text]) => {
    const value = parseNumber(text);
    return value === undefined ? [] : [[name, value] as const];
  });
  const wrong = Object.values(typed).some((t) => t.trim() !== '' && parseNumber(t) === undefined);
  const shown = (name: string): string => {
    const v = cycle.signals[name];
    return v === null || v === undefined
      ? 'not read'
      : typeof v === 'boolean'
        ? v
          ? 'yes'
          : 'no'
        : formatNumber(v, 4);
  };
  const put = (name: string, value: string) => setTyped({ ...typed, [name]: value });
  return (
    <details>
      <summary className="cursor-pointer font-semibold py-1.5">Signals of the plant</summary>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          void tell({ id: cycle.id, values: Object.fromEntries(said) }).then((r) =>
            r.data ? setTyped({}) : undefined,
          );
        }}
      >
        <table className="w-full max-w-2xl">
          <thead>
            <tr className="text-left border-b border-edge">
              <th>Signal</th>
              <th>Now</th>
              {mayWork ? <th>Read by hand</th> : null}
            </tr>
          </thead>
          <tbody>
            {PLANT_FIGURES.map((name) => (
              <tr key={name} className="border-b border-line">
                <td>{SIGNAL_WORDS[name]}</td>
                <td className={`tabular-nums ${shown(name) === 'not read' ? 'text-attention' : ''}`}>
                  {name === 'capacitance_nF' ? '' : shown(name)}
                </td>
                {mayWork ? (
                  <td>
                    <input
                      aria-label={`${SIGNAL_WORDS[name]}, read by hand`}
                      inputMode="decimal"
                      value={typed[name] ?? ''}
                      onChange={(e) => put(name, e.target.value)}
                      className="w-28 min-h-9 rounded-sm border border-edge bg-sheet px-2"
                    />
                  </td>
                ) : null}
              </tr>
            ))}
            {PLANT_FLAGS.map((name) => (
              <tr key={name} className="border-b border-line">
                <td>{SIGNAL_WORDS[name]}</td>
                <td className={shown(name) === 'not read' ? 'text-attention' : ''}>{shown(name)}</td>
                {mayWork ? (
                  <td>
                    <select
                      aria-label={`${SIGNAL_WORDS[name]}, read by hand`}
                      value={typed[name] ?? ''}
                      onChange={(e) => put(name, e.target.value)}
                      className="w-28 min-h-9 rounded-sm border border-edge bg-sheet px-1"
                    >
                      <option value="" />
                      <option value="1">yes</option>
                      <option value="0">no</option>
                    </select>
                  </td>
                ) : null}
              </tr>
            ))}
          </tbody>
        </table>
        {mayWork ? (
          <Button type="submit" className="mt-2" disabled={isLoading || wrong || said.length === 0}>
            Record what was read
          </Button>
        ) : null}
        {wrong ? <ProblemNote>Figures are numbers, for example 4.5.</ProblemNote> : null}
        <ProblemNote error={error} />
      </form>
    </details>
  );
}

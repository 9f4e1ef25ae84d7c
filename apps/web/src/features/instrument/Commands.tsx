import { COMMANDS, takesOf, type CommandName, type InstrumentView } from '@norther/contracts';
import { useState } from 'react';
import { useGiveCommandMutation } from '../../app/api/instrument.ts';
import { useMay, useTime } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';
import { ProblemNote } from '../../ui/Problem.tsx';

const unitOf = (command: CommandName): string | undefined => {
  const facts: { unit?: string } = COMMANDS[command];
  return facts.unit;
};
const STATES = {
  ready: 'ready',
  'stopped here': 'stopped on the spot: it is let go on there',
  safe: 'in its safe state: it heard nothing',
} as const;

/** What an instrument can be told, and what became of the last it was told. */
export function Commands({ instrument: i }: { instrument: InstrumentView }) {
  const takes = takesOf(i);
  const may = useMay('tester');
  const time = useTime();
  const [give, { error, isLoading }] = useGiveCommandMutation();
  const [value, setValue] = useState('');
  if (takes.length === 0) return null;
  const wrong = value !== '' && !Number.isFinite(Number(value));
  return (
    <div className="space-y-2">
      <p className="text-small">
        {i.hears ? 'Hears commands' : 'Does not hear commands now; what is told is done only if it hears in time'}
        {i.state ? `; ${STATES[i.state]}` : ''}.
      </p>
      {may && i.active ? (
        <div className="flex flex-wrap gap-2 items-end">
          {takes.map((command) => {
            const unit = unitOf(command);
            return (
              <span key={command} className="flex gap-2 items-center">
                {unit ? (
                  <label className="flex items-center gap-1">
                    <input
                      aria-label={`Value for ${command}`}
                      inputMode="decimal"
                      value={value}
                      onChange={(e) => setValue(e.target.value.replace(',', '.'))}
                      className="w-24 min-h-11 border border-edge rounded-sm px-2 bg-sheet"
                    />
                    {unit}
                  </label>
                ) : null}
                <Button
                  look={command === 'stop' ? 'main' : 'plain'}
                  bench
                  disabled={isLoading || (unit !== undefined && (value === '' || wrong))}
                  onClick={() => void give({ id: i.id, command, ...(unit ? { value: Number(value) } : {}) })}
                >
                  {command}
                </Button>
              </span>
            );
          })}
        </div>
      ) : null}
      {wrong ? <ProblemNote>The value must be a number.</ProblemNote> : null}
      <ProblemNote error={error} />
      <ul className="text-small text-soft">
        {i.commands.map((c) => (
          <li key={c.id}>
            {c.command}
            {c.value === null ? '' : ` ${c.value} ${unitOf(c.command) ?? ''}`}: {c.answer}
            {c.said ? ` (${c.said})` : ''}, {c.person}, {time(c.at)}
          </li>
        ))}
      </ul>
    </div>
  );
}

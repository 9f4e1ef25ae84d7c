import type { LoadView } from '@norther/contracts';
import { useState } from 'react';
import { useAddOvenLogMutation } from '../../app/api/oven.ts';
import { Button } from '../../ui/Button.tsx';
import { PlainField, PlainSelect } from '../../ui/Field.tsx';
import { ProblemNote } from '../../ui/Problem.tsx';

/** A moment as this device's clock shows it, for a field of date and time. */
const here = (iso: string): string => {
  const t = new Date(iso);
  return new Date(t.getTime() - t.getTimezoneOffset() * 60_000).toISOString().slice(0, 16);
};

/** The log of a running load from a file: of a logger that does not send, or of the time in which it did not. */
export function LogFile({ load }: { load: LoadView }) {
  const [file, setFile] = useState<{ name: string; csv: string }>();
  const [unit, setUnit] = useState<'' | '°C' | '°F'>('');
  const [from, setFrom] = useState(load.startedAt ? here(load.startedAt) : '');
  const [add, { error, isLoading, data }] = useAddOvenLogMutation();
  return (
    <details>
      <summary className="cursor-pointer font-semibold py-1.5">Read in its log from a file</summary>
      <form
        className="flex flex-wrap gap-3 items-end"
        onSubmit={(e) => {
          e.preventDefault();
          if (!file) return;
          // typed to the minute: the very start keeps its seconds
          const firstAt =
            load.startedAt && from === here(load.startedAt)
              ? load.startedAt
              : from === ''
                ? undefined
                : new Date(from).toISOString();
          void add({
            id: load.id,
            fileName: file.name,
            csv: file.csv,
            ...(unit === '' ? {} : { unit }),
            ...(firstAt === undefined ? {} : { firstAt }),
          }).then((r) => (r.data ? setFile(undefined) : undefined));
        }}
      >
        <label>
          <span className="block text-small font-semibold">File of the load</span>
          <input
            type="file"
            accept=".csv,.txt,text/csv,text/plain"
            className="text-small min-h-9"
            onChange={(e) => {
              const f = e.target.files?.[0];
              if (f) void f.text().then((csv) => setFile({ name: f.name, csv }));
            }}
          />
        </label>
        <PlainField
          label="Its first row was read at"
          type="datetime-local"
          value={from}
          onChange={(e) => setFrom(e.target.value)}
        />
        <PlainSelect
          label="Temperatures are in"
          value={unit}
          onChange={(e) => setUnit(e.target.value as typeof unit)}
          options={[
            { value: '', label: 'as the file says' },
            { value: '°C', label: '°C' },
            { value: '°F', label: '°F' },
          ]}
        />
        <Button type="submit" look="main" disabled={isLoading || !file}>
          Read it in
        </Button>
      </form>
      <ProblemNote error={error} />
      {data && !error ? (
        <div role="status" className="mt-1">
          <p>
            {data.rows} rows read of {data.channels.join(', ')}.
          </p>
          {data.badRows.length > 0 ? (
            <ul className="text-small max-h-32 overflow-auto border-l-4 border-attention pl-2">
              {data.badRows.map((r) => (
                <li key={r.line}>
                  line {r.line}: {r.reason}
                </li>
              ))}
            </ul>
          ) : null}
        </div>
      ) : null}
    </details>
  );
}

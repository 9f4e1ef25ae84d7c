import type { testBody } from '@norther/contracts';
import { CalculationInputError, readSurgeCsv, type SurgeWaves } from '@norther/core';
import { useState } from 'react';
import type { z } from 'zod';
import { PlainSelect } from '../../ui/Field.tsx';
import { ProblemNote } from '../../ui/Problem.tsx';

export type WavesSaid = NonNullable<z.input<typeof testBody>['waves']>;
export interface GivenWaves {
  said: WavesSaid;
  waves: SurgeWaves[];
}

const UNITS = [
  { value: '', label: 'as headed, else V' },
  { value: 'V', label: 'V' },
  { value: 'kV', label: 'kV' },
];
const TIMES = [
  { value: '', label: 'as headed, else s' },
  { value: 's', label: 's' },
  { value: 'ms', label: 'ms' },
  { value: 'µs', label: 'µs' },
];

/** Waves from a file: what it says of itself, and what a person says where it does not. */
export function WavesFile({ onWaves }: { onWaves: (given: GivenWaves | undefined) => void }) {
  const [file, setFile] = useState<{ name: string; csv: string }>();
  const [unit, setUnit] = useState('');
  const [time, setTime] = useState('');
  const [error, setError] = useState('');
  const read = (next: { name: string; csv: string } | undefined, u: string, t: string) => {
    setError('');
    if (!next) return onWaves(undefined);
    const said: WavesSaid = {
      fileName: next.name,
      csv: next.csv,
      ...(u === '' ? {} : { unit: u as 'V' | 'kV' }),
      ...(t === '' ? {} : { time: t as 's' | 'ms' | 'µs' }),
    };
    try {
      onWaves({ said, waves: readSurgeCsv(next.csv, said) });
    } catch (e) {
      onWaves(undefined);
      setError(e instanceof CalculationInputError ? (e.problems[0]?.message ?? '') : 'This file cannot be read.');
    }
  };
  return (
    <div className="border-b border-line pb-2 mb-2">
      <div className="flex flex-wrap gap-3 items-end">
        <label className="block">
          <span className="block text-small text-soft">Waves from a file (CSV)</span>
          <input
            type="file"
            accept=".csv,.txt,text/csv,text/plain"
            className="min-h-9 text-small"
            onChange={(e) => {
              const chosen = e.target.files?.[0];
              if (!chosen) return;
              void chosen.text().then((csv) => {
                const next = { name: chosen.name, csv };
                setFile(next);
                read(next, unit, time);
              });
            }}
          />
        </label>
        <PlainSelect
          label="Voltages in"
          value={unit}
          options={UNITS}
          onChange={(e) => {
            setUnit(e.target.value);
            read(file, e.target.value, time);
          }}
        />
        <PlainSelect
          label="Times in"
          value={time}
          options={TIMES}
          onChange={(e) => {
            setTime(e.target.value);
            read(file, unit, e.target.value);
          }}
        />
      </div>
      <p className="text-small text-soft mt-1">
        A column of time, then one of volts for each wave (or two columns a wave), headed by the wave and its voltage:
        UV 1500 V.
      </p>
      {error ? <ProblemNote>{error}</ProblemNote> : null}
    </div>
  );
}

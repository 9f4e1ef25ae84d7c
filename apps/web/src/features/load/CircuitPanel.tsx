import { foundTests, type JobDetail } from '@norther/contracts';
import {
  CalculationInputError,
  circuitReadings,
  equivalentCircuit,
  ESTIMATE_ABOVE_SLIP,
  formatNumber,
  runCalculation,
  type MachineCircuit,
} from '@norther/core';
import { useMemo } from 'react';
import { LoadCharts } from '../evaluate/LoadCharts.tsx';
import { Quiet } from '../../ui/Problem.tsx';
import { Table, type Column } from '../../ui/Table.tsx';
import { circuitCharts } from './circuitCharts.ts';

const NAMES: readonly (readonly [keyof MachineCircuit, string, string])[] = [
  ['r1', 'Stator resistance R₁', 'Ω'],
  ['x1', 'Stator leakage X₁', 'Ω'],
  ['r2', 'Rotor resistance R₂', 'Ω'],
  ['x2', 'Rotor leakage X₂', 'Ω'],
  ['xm', 'Magnetizing X_m', 'Ω'],
  ['rfe', 'Core loss R_fe', 'Ω'],
  ['frictionW', 'Friction and windage', 'W'],
];
interface Row {
  name: string;
  unit: string;
  steps: number;
  exact: number | undefined;
}
const COLUMNS: Column<Row>[] = [
  { id: 'name', head: 'Of one phase as a star', names: true, cell: (r) => `${r.name}, ${r.unit}` },
  { id: 'steps', head: 'By the standard’s steps', align: 'right', cell: (r) => formatNumber(r.steps, 4) },
  {
    id: 'exact',
    head: 'Exact',
    align: 'right',
    cell: (r) => (r.exact === undefined ? 'did not settle' : formatNumber(r.exact, 4)),
  },
];

/** The equivalent circuit of a motor from its recorded tests, and what it tells over the speed, beside plate and measured points. */
export function CircuitPanel({ job }: { job: JobDetail }) {
  const found = useMemo(() => circuitOf(job), [job]);
  return (
    <details className="mt-4">
      <summary className="cursor-pointer font-semibold py-1.5">
        Equivalent circuit, torque and current over speed
      </summary>
      {typeof found === 'string' ? (
        <Quiet>{found}</Quiet>
      ) : (
        <div className="space-y-3">
          <p>{found.reason}</p>
          <Table
            label="Equivalent circuit"
            columns={COLUMNS}
            rows={NAMES.map(([key, name, unit]) => ({
              name,
              unit,
              steps: found.bySteps?.[key] ?? NaN,
              exact: found.exact?.[key],
            }))}
            keyOf={(r) => r.name}
          />
          <LoadCharts charts={circuitCharts(job, found)} />
          <p className="text-small text-soft">
            Above a slip of {ESTIMATE_ABOVE_SLIP} the drawn course is an estimate: deep bars pull more than constant
            figures tell.
          </p>
        </div>
      )}
    </details>
  );
}

function circuitOf(job: JobDetail) {
  const { tests, poles } = foundTests(job);
  const readings = circuitReadings(tests, job.nameplate, poles);
  if (typeof readings === 'string') return readings;
  try {
    return runCalculation(equivalentCircuit, readings).values;
  } catch (e) {
    return e instanceof CalculationInputError ? (e.problems[0]?.message ?? e.message) : 'This cannot be worked out.';
  }
}

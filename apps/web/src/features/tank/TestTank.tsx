import { judgeTankTest, TANK_TEST_FIELDS } from '@norther/core';
import type { TankView } from '@norther/contracts';
import { useTestTankMutation } from '../../app/api/tank.ts';
import { Button } from '../../ui/Button.tsx';
import { enterMovesOn, Field } from '../../ui/Field.tsx';
import { ProblemNote } from '../../ui/Problem.tsx';
import { useTypedForm } from '../../ui/useTypedForm.ts';
import { VerdictMark } from '../../ui/Verdict.tsx';

const NOTHING = {};

/** A shelf test, judged while it is typed by the same rule as on the server. */
export function TestTank({ tank, onDone }: { tank: TankView; onDone: () => void }) {
  const form = useTypedForm({ key: `tank:test:${tank.id}`, specs: TANK_TEST_FIELDS, start: NOTHING });
  const [test, { error, isLoading }] = useTestTankMutation();
  const v = form.reading.values;
  const judged =
    typeof v['viscosity'] === 'number' && typeof v['temperature'] === 'number' && typeof v['clean'] === 'boolean'
      ? judgeTankTest(tank.setUp, {
          viscosity: v['viscosity'],
          temperature: v['temperature'],
          clean: v['clean'],
          disc: v['disc'] as boolean | undefined,
        })
      : undefined;
  return (
    <form
      aria-label={`Test of ${tank.name}`}
      onKeyDown={enterMovesOn}
      onSubmit={(e) => {
        e.preventDefault();
        void test({ id: tank.id, typed: form.typed }).then((r) => {
          if (!r.data) return;
          form.recorded({});
          onDone();
        });
      }}
    >
      <p className="border-l-4 border-attention pl-2 text-small font-semibold">
        Caution: gloves and eye protection; styrene or amine vapour, ventilate. Local codes and licensed practice
        decide.
      </p>
      <div className="grid grid-cols-2 gap-x-3">
        {TANK_TEST_FIELDS.map((f) => (
          <Field
            key={f.name}
            form={form}
            spec={f}
            bench
            extra={f.name === 'viscosity' ? `in ${tank.setUp.unit}` : undefined}
          />
        ))}
      </div>
      {judged ? (
        <p role="status">
          <VerdictMark verdict={judged.verdict} /> {judged.reason}
        </p>
      ) : null}
      <Button look="main" bench type="submit" disabled={isLoading}>
        Record the test
      </Button>
      <ProblemNote error={error} />
    </form>
  );
}

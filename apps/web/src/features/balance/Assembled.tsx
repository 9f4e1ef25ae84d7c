import { assembledVibrationTest, BALANCE_LEFT, measurablesOf, TEST_STAGE_TITLES, type TestStage } from '@norther/core';
import type { JobDetail } from '@norther/contracts';
import { Link } from 'react-router';
import { useTime } from '../../app/shop.ts';
import { VerdictMark } from '../../ui/Verdict.tsx';
import { TrendView } from '../evaluate/TrendView.tsx';

const MEASURED = [
  BALANCE_LEFT,
  ...measurablesOf(assembledVibrationTest).filter((m) => /worst/.test(m.what)),
  { what: 'noLoadRun.vibration', title: 'Vibration of the no-load run, worst', unit: 'mm/s' },
];

/** What the motor does with this rotor in it, beside what the balance left, over this and earlier visits. */
export function Assembled({ job }: { job: JobDetail }) {
  const time = useTime();
  if (job.came !== 'whole motor') return null;
  const read = job.tests.filter((t) => t.kind === assembledVibrationTest.id && t.supersededBy === null);
  return (
    <section aria-label="In the assembled motor">
      <h2 className="font-semibold border-b border-line">In the assembled motor</h2>
      {read.length === 0 ? (
        <p className="text-soft">
          Its vibration at six positions has not been read yet: <Link to={`/jobs/${job.number}/tests`}>Tests</Link>,
          assembled. A trim there is a balance of its own, with the vibration that either bearing may show.
        </p>
      ) : (
        <ul>
          {read.map((t) => (
            <li key={t.id} className="border-b border-line py-1">
              <VerdictMark verdict={t.verdict} /> {TEST_STAGE_TITLES[t.stage as TestStage]}: {t.reason}{' '}
              <span className="text-small text-soft">
                {t.person}, {time(t.takenAt)}
              </span>
            </li>
          ))}
        </ul>
      )}
      <TrendView job={job} measurable={MEASURED} />
    </section>
  );
}

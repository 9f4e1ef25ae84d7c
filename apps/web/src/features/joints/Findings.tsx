import { formatNumber, leadMark, phaseWords, type NetworkCheck } from '@norther/core';
import { useMarks } from '../../app/shop.ts';

const WORDS = {
  'as drawn': 'As drawn.',
  'electrically the same': 'Not as drawn, but electrically the same.',
  'not finished': 'Not finished yet.',
  wrong: 'Wrong.',
} as const;
const say = (x: number) => (Number.isFinite(x) && x < 1e6 ? formatNumber(x, 3) : 'open');

/** What the network of the joints comes to: verdict, findings, and what a tester would see. */
export function Findings({ check }: { check: NetworkCheck }) {
  const { school } = useMarks();
  const bad = check.verdict === 'wrong';
  return (
    <section aria-label="What the joints make" aria-live="polite">
      <p className={`font-semibold ${bad ? 'text-fail' : ''}`}>{WORDS[check.verdict]}</p>
      {check.verdict === 'not finished' ? (
        <p className="text-small">
          Still to join:{' '}
          {phaseWords(
            check.findings
              .flatMap((f) => f.ends)
              .slice(0, 12)
              .join(', '),
            school,
          )}
          {check.findings.flatMap((f) => f.ends).length > 12 ? ' …' : ''}
        </p>
      ) : (
        <ul className="space-y-1">
          {check.findings.map((f) => (
            <li key={f.message} className="border-l-4 border-fail pl-2 text-small">
              {phaseWords(f.message, school)}
            </li>
          ))}
        </ul>
      )}
      {check.verdict === 'wrong' ? <Signatures check={check} /> : null}
    </section>
  );
}

/** What to expect at the leads, against the drawing. */
export function Signatures({ check }: { check: NetworkCheck }) {
  const { school } = useMarks();
  return (
    <>
      {check.signatures.slice(0, 2).map((s) => (
        <table key={s.use} className="text-small mt-2 w-full">
          <caption className="text-left text-soft">
            To expect at the leads, times what the drawing gives ({s.use}); without rotor cage, signs and order count
          </caption>
          <thead>
            <tr>
              <th scope="col" className="text-left">
                Pair
              </th>
              <th scope="col" className="text-right">
                resistance
              </th>
              <th scope="col" className="text-right">
                surge frequency
              </th>
              <th scope="col" className="text-right">
                induced voltage
              </th>
              <th scope="col" className="text-right">
                current, first lead
              </th>
            </tr>
          </thead>
          <tbody>
            {s.pairs.map(([a, b], i) => (
              <tr key={a + b} className="border-t border-line">
                <th scope="row" className="text-left font-normal">
                  {leadMark(a, school)}–{leadMark(b, school)}
                </th>
                <td className="text-right">{say(s.resistance[i] ?? NaN)}</td>
                <td className="text-right">{say(s.frequency[i] ?? NaN)}</td>
                <td className="text-right">{say(s.voltage[i] ?? NaN)}</td>
                <td className="text-right">{say(s.current[i] ?? NaN)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      ))}
    </>
  );
}

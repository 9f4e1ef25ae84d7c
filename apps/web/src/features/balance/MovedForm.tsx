import {
  formatNumber,
  parseNumber,
  residualByMoving,
  sayUnbalance,
  type BalanceNow,
  type BalanceSetUp,
} from '@norther/core';
import { useState } from 'react';
import { Button } from '../../ui/Button.tsx';
import { PlainField, PlainSelect } from '../../ui/Field.tsx';
import { ProblemNote } from '../../ui/Problem.tsx';
import { round, type Send } from './RunForm.tsx';

/** Residual by moving a test mass round one plane: amplitudes at equal steps, the fit drawn as they are typed. */
export function MovedForm({
  setUp,
  is,
  busy,
  onSend,
}: {
  setUp: BalanceSetUp;
  is: BalanceNow;
  busy: boolean;
  onSend: Send;
}) {
  const done = is.check?.planes.map((p) => p.plane) ?? [];
  const [plane, setPlane] = useState(done.includes(1) && setUp.planes.length === 2 ? 2 : 1);
  const [steps, setSteps] = useState(8);
  const p = setUp.planes[plane - 1];
  const radius = p?.radiusMm ?? 1;
  // five to ten times what is expected to be left: of the share of the bearing
  const guess = (7 * Math.max(...(is.bearings?.map((b) => b.gMm) ?? is.tolerance.sharesGMm), 1e-9)) / radius;
  const [mass, setMass] = useState(round(guess, 2));
  const [typed, setTyped] = useState<Record<number, string>>({});
  const [again, setAgain] = useState('');
  const [wrong, setWrong] = useState('');
  const angles = Array.from({ length: steps }, (_, i) => (360 * i) / steps);
  const read = angles.map((angleDeg, i) => ({ angleDeg, amplitude: parseNumber(typed[i] ?? '') }));
  const whole = read.every((r) => r.amplitude !== undefined && r.amplitude >= 0)
    ? (read as { angleDeg: number; amplitude: number }[])
    : undefined;
  const massG = parseNumber(mass);
  const fit = whole && massG !== undefined && massG > 0 ? residualByMoving(whole, massG * radius) : undefined;
  const send = async (): Promise<void> => {
    const back = again.trim() === '' ? undefined : parseNumber(again);
    if (!(massG !== undefined && massG > 0)) return setWrong('The test mass is grams above zero.');
    if (!whole) return setWrong('Every position wants its amplitude, a number from zero.');
    if (again.trim() !== '' && back === undefined) return setWrong('The first position again is a number.');
    setWrong('');
    const sent = await onSend({
      kind: 'moved',
      plane,
      testGMm: massG * radius,
      positions: whole,
      ...(back === undefined ? {} : { again: back }),
    });
    if (!sent) return;
    setTyped({});
    setAgain('');
    if (setUp.planes.length === 2) setPlane(3 - plane);
  };
  return (
    <form
      aria-label="Residual by a moved mass"
      className="border border-line bg-sheet p-3 space-y-2 max-w-3xl"
      onSubmit={(e) => {
        e.preventDefault();
        void send();
      }}
    >
      <p className="text-small text-soft">
        The test mass goes to each position of one plane, the other plane is left alone; read the amplitude at{' '}
        {setUp.readings === 'unbalance per plane' ? `plane ${plane}` : `bearing ${plane === 1 ? 'A' : 'B'}`}. It comes
        out afterwards.
      </p>
      <div className="grid grid-cols-2 md:grid-cols-4 gap-3">
        <PlainSelect
          label="Moved in"
          value={String(plane)}
          onChange={(e) => setPlane(Number(e.target.value))}
          options={setUp.planes.map((_, i) => ({
            value: String(i + 1),
            label: `plane ${i + 1}${done.includes(i + 1) ? ', done' : ''}`,
          }))}
        />
        <PlainField
          label="Test mass, g"
          inputMode="decimal"
          value={mass}
          onChange={(e) => setMass(e.target.value)}
          hint={`at radius ${round(radius, 1)} mm; 5 to 10 times what is left`}
        />
        <PlainSelect
          label="Positions"
          value={String(steps)}
          onChange={(e) => setSteps(Number(e.target.value))}
          options={[6, 8, 12].map((k) => ({ value: String(k), label: String(k) }))}
        />
        <PlainField
          label="First again"
          inputMode="decimal"
          value={again}
          onChange={(e) => setAgain(e.target.value)}
          hint="the first position at the end"
        />
      </div>
      <div className="grid grid-cols-4 md:grid-cols-8 gap-2">
        {angles.map((a, i) => (
          <PlainField
            key={a}
            label={`${round(a, 1)}°`}
            inputMode="decimal"
            value={typed[i] ?? ''}
            onChange={(e) => setTyped({ ...typed, [i]: e.target.value })}
          />
        ))}
      </div>
      {whole && fit && massG !== undefined ? (
        <>
          <FitPlot positions={whole} fit={fit} testGMm={massG * radius} />
          <p className="text-small">
            Fitted: {sayUnbalance(fit.gMm, setUp.unbalanceUnit)} at {formatNumber(fit.angleDeg, 4)}°, r²{' '}
            {formatNumber(fit.r2, 4)}; by the first harmonic alone {sayUnbalance(fit.simpleGMm, setUp.unbalanceUnit)}.
            What the other plane adds at this bearing is taken off once both were done.
          </p>
        </>
      ) : null}
      {wrong ? <ProblemNote>{wrong}</ProblemNote> : null}
      <Button look="main" bench type="submit" disabled={busy}>
        Enter this check
      </Button>
    </form>
  );
}

const WIDE = 560;
const HIGH = 150;
const EDGE = 26;

/** Amplitude over the position of the test mass, and the curve that fits. */
export function FitPlot({
  positions,
  fit,
  testGMm,
}: {
  positions: readonly { angleDeg: number; amplitude: number }[];
  fit: { gMm: number; angleDeg: number };
  testGMm: number;
}) {
  // one unit of amplitude per g·mm, by least squares of what was read over what the fit says
  const unit = (deg: number): number => {
    const c = Math.cos(((deg - fit.angleDeg) * Math.PI) / 180);
    return Math.sqrt(Math.max(0, testGMm ** 2 + fit.gMm ** 2 + 2 * testGMm * fit.gMm * c));
  };
  const down = positions.reduce((s, p) => s + unit(p.angleDeg) ** 2, 0);
  const k = down === 0 ? 0 : positions.reduce((s, p) => s + p.amplitude * unit(p.angleDeg), 0) / down;
  const curve = Array.from({ length: 73 }, (_, i) => ({ deg: 5 * i, a: k * unit(5 * i) }));
  const all = [...positions.map((p) => p.amplitude), ...curve.map((c) => c.a)];
  const [low, high] = [Math.min(...all), Math.max(...all)];
  const room = Math.max((high - low) * 0.15, high * 0.02, 1e-9);
  const x = (deg: number) => EDGE + ((WIDE - 2 * EDGE) * deg) / 360;
  const y = (a: number) => HIGH - EDGE - ((a - low + room) / (high - low + 2 * room)) * (HIGH - 1.4 * EDGE);
  return (
    <svg
      viewBox={`0 0 ${WIDE} ${HIGH}`}
      className="w-full h-auto block max-w-[640px]"
      role="img"
      aria-label={`Amplitudes from ${formatNumber(low, 3)} to ${formatNumber(high, 3)} over the position of the test mass, with the curve that fits`}
    >
      <path d={`M${EDGE} ${HIGH - EDGE}H${WIDE - EDGE}`} stroke="var(--line)" />
      {[0, 90, 180, 270, 360].map((deg) => (
        <text key={deg} x={x(deg)} y={HIGH - 8} textAnchor="middle" fontSize="12" fill="var(--soft)">
          {deg}°
        </text>
      ))}
      <path
        d={curve.map((c, i) => `${i === 0 ? 'M' : 'L'}${x(c.deg).toFixed(1)} ${y(c.a).toFixed(1)}`).join('')}
        fill="none"
        stroke="var(--accent)"
        strokeWidth="2"
      />
      {positions.map((p) => (
        <circle key={p.angleDeg} cx={x(p.angleDeg)} cy={y(p.amplitude)} r="4.5" fill="var(--ink)" />
      ))}
    </svg>
  );
}

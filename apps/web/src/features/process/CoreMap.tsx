import { FIRST_PART, hottestSpot, readSpots, saySpots, type HotSpot } from '@norther/core';
import { windingOfPart, type JobDetail, type StepViewRow } from '@norther/contracts';
import { useDraft } from '../../app/draft.ts';
import { Button } from '../../ui/Button.tsx';
import { PlainField } from '../../ui/Field.tsx';

const WIDE = 720;
const HIGH = 220;
const LEFT = 30;
const TOP = 16;
/** Where the winding's record does not say how many slots there are. */
const NO_SLOTS = 36;

/** The core unrolled: a touch marks a hot spot where it is, with how much hotter it is than the core round it. */
export function CoreMap({
  job,
  step,
  onFill,
}: {
  job: JobDetail;
  step: StepViewRow;
  onFill: ((typed: Readonly<Record<string, string>>) => void) | undefined;
}) {
  const { typed, set } = useDraft(`core-map:${job.number}:${step.code}:${step.attempts.length}`);
  const marked = typed['spots'] ?? '';
  const k = typed['k'] ?? '';
  const recorded = step.attempts.findLast((a) => a.finishedAt !== null)?.typed['spots'] ?? '';
  const spots = readSpots(onFill ? marked : recorded);
  const record = windingOfPart(job, FIRST_PART).found?.record as { slots?: number } | undefined;
  const slots = record?.slots ?? NO_SLOTS;
  const value = Number(k.replace(',', '.'));
  const ready = k.trim() !== '' && Number.isFinite(value) && value >= 0;
  const keep = (next: readonly HotSpot[]): void => set('spots', saySpots(next));
  const touch = (event: React.MouseEvent<SVGSVGElement>): void => {
    if (!onFill || !ready) return;
    const box = event.currentTarget.getBoundingClientRect();
    const x = ((event.clientX - box.left) / box.width) * (WIDE + 2 * LEFT) - LEFT;
    const y = ((event.clientY - box.top) / box.height) * (HIGH + 2 * TOP + 14) - TOP;
    if (x < 0 || x > WIDE || y < 0 || y > HIGH) return;
    keep([
      ...spots,
      {
        slot: Math.min(slots, 1 + Math.floor((x / WIDE) * slots)),
        along: Math.round((100 * y) / HIGH) / 100,
        k: value,
      },
    ]);
  };
  // the test before heat stands under the one after it, as rings
  const before =
    step.code === 'CT2'
      ? readSpots(
          job.detailSteps.find((s) => s.code === 'CT1')?.attempts.findLast((a) => a.finishedAt !== null)?.typed[
            'spots'
          ] ?? '',
        )
      : [];
  if (!onFill && spots.length === 0 && before.length === 0) return null;
  const every = slots > 48 ? 6 : slots > 24 ? 4 : 2;
  return (
    <section aria-label="Core map" className="mt-3 border border-line bg-sheet px-3 py-2 space-y-2">
      <h2 className="font-semibold">Hot spots on the core, unrolled</h2>
      {onFill ? (
        <div className="flex flex-wrap gap-3 items-end">
          <PlainField
            label="Hotter than the core round it, K"
            inputMode="decimal"
            value={k}
            onChange={(e) => set('k', e.target.value)}
          />
          <p className="text-small text-soft pb-2">
            Type how much, then touch the map where it is. Slots as counted from the marked one.
          </p>
        </div>
      ) : null}
      <svg
        viewBox={`${-LEFT} ${-TOP} ${WIDE + 2 * LEFT} ${HIGH + 2 * TOP + 14}`}
        className={`w-full h-auto block ${onFill && ready ? 'cursor-crosshair' : ''}`}
        role="img"
        aria-label={spots.length === 0 ? 'No hot spot is marked' : saySpots(spots)}
        onClick={touch}
      >
        <rect x={0} y={0} width={WIDE} height={HIGH} fill="var(--sunk)" stroke="var(--ink)" strokeWidth="2" />
        {Array.from({ length: slots }, (_, i) => (
          <rect
            key={i}
            x={((i + 0.28) / slots) * WIDE}
            y={0}
            width={(0.44 / slots) * WIDE}
            height={HIGH}
            fill="var(--sheet)"
            stroke="var(--line)"
          />
        ))}
        {Array.from({ length: slots }, (_, i) =>
          i % every === 0 ? (
            <text
              key={i}
              x={((i + 0.5) / slots) * WIDE}
              y={HIGH + 15}
              textAnchor="middle"
              fontSize="12"
              fill="var(--soft)"
            >
              {i + 1}
            </text>
          ) : null,
        )}
        <text x={0} y={-5} fontSize="12" fill="var(--soft)">
          connection end
        </text>
        <text x={WIDE} y={HIGH + 28} textAnchor="end" fontSize="12" fill="var(--soft)">
          opposite end
        </text>
        {before.map((s, i) => (
          <g key={`before ${s.slot} ${s.along} ${i}`}>
            <circle
              cx={((s.slot - 0.5) / slots) * WIDE}
              cy={s.along * HIGH}
              r={7 + Math.min(14, s.k / 2)}
              fill="none"
              stroke="var(--soft)"
              strokeWidth="2"
              strokeDasharray="4 3"
            />
            <text
              x={((s.slot - 0.5) / slots) * WIDE + 9 + Math.min(14, s.k / 2)}
              y={s.along * HIGH - 6}
              fontSize="12"
              fill="var(--soft)"
            >
              {s.k}
            </text>
          </g>
        ))}
        {spots.map((s, i) => (
          <g key={`${s.slot} ${s.along} ${i}`}>
            <circle
              cx={((s.slot - 0.5) / slots) * WIDE}
              cy={s.along * HIGH}
              r={7 + Math.min(14, s.k / 2)}
              fill="var(--fail)"
              fillOpacity="0.35"
              stroke="var(--fail)"
              strokeWidth="2"
            />
            <text
              x={((s.slot - 0.5) / slots) * WIDE}
              y={s.along * HIGH + 4}
              textAnchor="middle"
              fontSize="12"
              fontWeight="600"
              fill="var(--ink)"
            >
              {s.k}
            </text>
          </g>
        ))}
      </svg>
      {spots.length > 0 ? <p className="text-small">{saySpots(spots)}</p> : null}
      {before.length > 0 ? <p className="text-small text-soft">Before heat, dashed: {saySpots(before)}</p> : null}
      {onFill && spots.length > 0 ? (
        <div className="flex gap-2">
          <Button
            bench
            look="main"
            onClick={() => onFill({ spots: saySpots(spots), hotSpot: `${hottestSpot(spots) ?? ''} K` })}
          >
            Take them into the record
          </Button>
          <Button bench onClick={() => keep(spots.slice(0, -1))}>
            Take the coolest back
          </Button>
        </div>
      ) : null}
    </section>
  );
}

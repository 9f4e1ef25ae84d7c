import { visitDrawing, type JobDetail } from '@norther/contracts';
import { useMemo, useState } from 'react';
import { DrawingView } from '../../drawing/DrawingView.tsx';
import { useTime } from '../../app/shop.ts';

/** Operations, tests, photographs and papers of a visit along its days. */
export function VisitTimeline({ job }: { job: JobDetail }) {
  const time = useTime();
  // what is not ended reaches to when the page was opened
  const [now] = useState(() => Date.now());
  const drawing = useMemo(
    () => visitDrawing(job, now, (ms) => time(new Date(ms).toISOString(), 'day')),
    [job, now, time],
  );
  return (
    <div className="overflow-x-auto bg-sheet border border-line p-2">
      <DrawingView drawing={drawing} className="min-w-[640px]" />
      <p className="text-small text-soft">! with remarks · × failed · ? could not be judged · ◊ passed with a name</p>
    </div>
  );
}

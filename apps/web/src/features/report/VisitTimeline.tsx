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
  const pictures = job.attachments.filter((a) => a.mediaType.startsWith('image/'));
  return (
    <div className="overflow-x-auto bg-sheet border border-line p-2">
      <DrawingView drawing={drawing} className="min-w-[640px]" />
      {pictures.length > 0 ? (
        <ul className="flex gap-2 overflow-x-auto m-0 p-0 list-none" aria-label="Photographs along the visit">
          {pictures.map((a) => (
            <li key={a.id} className="shrink-0">
              <a href={`/api/attachments/${a.id}`} target="_blank" rel="noreferrer" className="block">
                <img src={`/api/attachments/${a.id}`} alt={a.name} className="h-20 border border-line" loading="lazy" />
                <span className="text-small text-soft">{time(a.at)}</span>
              </a>
            </li>
          ))}
        </ul>
      ) : null}
      <p className="text-small text-soft">! with remarks · × failed · ? could not be judged · ◊ passed with a name</p>
    </div>
  );
}

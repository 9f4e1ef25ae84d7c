import type { JobDetail, StepViewRow } from '@norther/contracts';
import { useEffect, useMemo } from 'react';
import { useWaiting } from '../../app/outbox/outbox.ts';
import { shrunk } from '../intake/shrink.ts';
import type { Acts } from './useActs.ts';

/** Photographs taken at a step, those too that are not sent yet. */
export function StepPhotographs({
  job,
  step,
  acts,
  mayAdd,
}: {
  job: JobDetail;
  step: StepViewRow;
  acts: Acts;
  mayAdd: boolean;
}) {
  const all = useWaiting();
  const waiting = useMemo(
    () => all.filter((w) => w.what === 'photograph' && w.number === job.number && w.code === step.code && w.file),
    [all, job.number, step.code],
  );
  const shown = useMemo(() => waiting.map((w) => ({ id: w.id, url: URL.createObjectURL(w.file as Blob) })), [waiting]);
  useEffect(() => () => shown.forEach((s) => URL.revokeObjectURL(s.url)), [shown]);
  const own = job.attachments.filter((a) => a.step === step.code);
  if (!mayAdd && own.length === 0) return null;
  return (
    <section aria-label="Photographs" className="mt-3 border-t border-line pt-2">
      <div className="flex flex-wrap gap-2 items-end">
        {own.map((a) => (
          <a key={a.id} href={`/api/attachments/${a.id}`} target="_blank" rel="noreferrer">
            {a.mediaType.startsWith('image/') ? (
              <img src={`/api/attachments/${a.id}`} alt={a.name} className="h-24 border border-line" loading="lazy" />
            ) : (
              a.name
            )}
          </a>
        ))}
        {shown.map((s) => (
          <figure key={s.id}>
            <img src={s.url} alt="not sent yet" className="h-24 border-2 border-attention" />
            <figcaption className="text-small text-soft">waits</figcaption>
          </figure>
        ))}
        {mayAdd ? (
          <label className="inline-flex items-center justify-center min-h-11 px-4 rounded-sm border border-edge bg-sheet font-semibold cursor-pointer focus-within:outline-2 focus-within:outline-accent">
            Photograph
            <input
              type="file"
              accept="image/*"
              capture="environment"
              className="sr-only"
              onChange={(e) => {
                const input = e.target;
                const file = input.files?.[0];
                if (!file) return;
                void shrunk(file)
                  .then((content) => acts.act('photograph', {}, { content, name: file.name }))
                  .then(() => (input.value = ''));
              }}
            />
          </label>
        ) : null}
      </div>
    </section>
  );
}

import type { PhotographPin } from '@norther/core';
import type { AttachmentView } from '@norther/contracts';
import { Button } from '../../ui/Button.tsx';
import { PlainField, PlainSelect } from '../../ui/Field.tsx';

export interface NewPin {
  says: string;
  photograph: string;
}

/** Which photograph is pinned next and what it shows; the places that are pinned already. */
export function PhotographPins({
  photographs,
  pins,
  next,
  onNext,
  onTake,
}: {
  photographs: readonly AttachmentView[];
  pins: readonly PhotographPin[];
  /** undefined: nothing is being pinned */
  next: NewPin | undefined;
  onNext: ((next: NewPin | undefined) => void) | undefined;
  onTake: (index: number) => void;
}) {
  if (!onNext && pins.length === 0) return null;
  return (
    <section aria-label="Photographs and places" className="space-y-2">
      <h2 className="font-semibold border-b border-line">Photographs and places</h2>
      {pins.length > 0 ? (
        <ol className="space-y-1">
          {pins.map((p, i) => {
            const shows = p.photograph === undefined ? undefined : photographs[p.photograph - 1];
            return (
              <li key={`${i} ${p.slot} ${p.along}`} className="flex items-center gap-2 text-small">
                <strong>{i + 1}</strong>
                {shows ? (
                  <a href={`/api/attachments/${shows.id}`} target="_blank" rel="noreferrer">
                    {shows.mediaType.startsWith('image/') ? (
                      <img
                        src={`/api/attachments/${shows.id}`}
                        alt={shows.name}
                        className="h-12 w-16 object-cover border border-line"
                        loading="lazy"
                      />
                    ) : (
                      shows.name
                    )}
                  </a>
                ) : null}
                <span className="min-w-0 break-words">
                  slot {p.slot}, {Math.round(100 * p.along)} % from the connection end: {p.says}
                </span>
                {onNext ? (
                  <Button look="quiet" aria-label={`Take place ${i + 1} off`} onClick={() => onTake(i)}>
                    take off
                  </Button>
                ) : null}
              </li>
            );
          })}
        </ol>
      ) : null}
      {onNext && !next ? <Button onClick={() => onNext({ says: '', photograph: '' })}>Pin a place</Button> : null}
      {onNext && next ? (
        <div className="flex flex-wrap gap-3 items-end">
          <PlainSelect
            label="Photograph"
            value={next.photograph}
            onChange={(e) => onNext({ ...next, photograph: e.target.value })}
            options={[
              { value: '', label: 'none, the place only' },
              ...photographs.map((a, i) => ({ value: String(i + 1), label: `${i + 1} ${a.name}` })),
            ]}
          />
          <PlainField
            label="What is seen there"
            value={next.says}
            maxLength={200}
            onChange={(e) => onNext({ ...next, says: e.target.value })}
          />
          <Button look="quiet" onClick={() => onNext(undefined)}>
            Leave it
          </Button>
        </div>
      ) : null}
    </section>
  );
}

import { wrap, type Remote } from 'comlink';
import type { CoreDoor } from './worker.ts';

let opened: Remote<CoreDoor> | undefined;

/** The one web worker of the page, started when first needed. */
export function coreDoor(): Remote<CoreDoor> {
  opened ??= wrap<CoreDoor>(new Worker(new URL('./worker.ts', import.meta.url), { type: 'module' }));
  return opened;
}

/** Starts the worker before it is asked for anything, so that the first answer does not wait for its start. */
export function warmCore(): void {
  void coreDoor()
    .warm()
    .catch(() => undefined);
}

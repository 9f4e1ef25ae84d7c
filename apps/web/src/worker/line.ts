import { LineKeeper, type ToLine } from '../app/lineKeeper.ts';

/** Shared by all tabs of a browser: one event stream for all of them (plain HTTP allows six connections a host). */
const keeper = new LineKeeper();
const scope = self as unknown as { onconnect: ((event: MessageEvent) => void) | null };
scope.onconnect = (event) => {
  const port = event.ports[0];
  if (!port) return;
  const hear = keeper.join((message) => port.postMessage(message));
  port.onmessage = (said: MessageEvent<ToLine>) => hear(said.data);
};

import { LineKeeper, TAB_HERE_MS, type FromLine, type SamplesCame, type ToLine } from './lineKeeper.ts';

type OnTrace = (came: SamplesCame | 'again') => void;

let say: ((message: ToLine) => void) | undefined;
const hearers = new Set<(message: FromLine) => void>();
const watchers = new Map<string, Set<OnTrace>>();

function hear(message: FromLine): void {
  for (const hearer of hearers) hearer(message);
  if (message === 'signed-out') return;
  if ('samples' in message) for (const on of watchers.get(message.samples.id) ?? []) on(message.samples);
  else if ('again' in message) for (const on of watchers.get(message.again) ?? []) on('again');
}

/** The way to the line: a worker that all tabs share, or a line of this tab's own where the browser has no such workers. */
function connect(): (message: ToLine) => void {
  if (typeof SharedWorker === 'undefined') return new LineKeeper().join(hear);
  const worker = new SharedWorker(new URL('../worker/line.ts', import.meta.url), { type: 'module', name: 'norther' });
  worker.port.onmessage = (event: MessageEvent<FromLine>) => hear(event.data);
  return (message) => worker.port.postMessage(message);
}

const watching = (): void => say?.({ watch: [...watchers.keys()] });

/** This tab is there, for a person; gives what ends that. */
export function joinLine(person: string, on: (message: FromLine) => void): () => void {
  const send = (say ??= connect());
  hearers.add(on);
  const here = () => {
    send({ here: person });
    watching();
  };
  here();
  const beat = setInterval(() => send({ here: person }), TAB_HERE_MS);
  const bye = () => send('bye');
  addEventListener('pagehide', bye);
  addEventListener('pageshow', here);
  return () => {
    clearInterval(beat);
    removeEventListener('pagehide', bye);
    removeEventListener('pageshow', here);
    hearers.delete(on);
    send('bye');
  };
}

/** New samples of a trace from now on, or word that it is to be asked for anew; gives what ends that. */
export function watchTrace(id: string, on: OnTrace): () => void {
  const of = watchers.get(id) ?? new Set();
  if (of.size === 0) watchers.set(id, of);
  of.add(on);
  watching();
  return () => {
    of.delete(on);
    if (of.size > 0) return;
    watchers.delete(id);
    watching();
  };
}

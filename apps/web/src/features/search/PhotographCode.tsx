import { wrap, type Remote } from 'comlink';
import { ScanQrCode } from 'lucide-react';
import { useRef, useState } from 'react';
import type { ScanDoor } from '../../worker/scan.ts';

let opened: Remote<ScanDoor> | undefined;

/** The reader of codes, started with the first photograph. */
function scanDoor(): Remote<ScanDoor> {
  opened ??= wrap<ScanDoor>(new Worker(new URL('../../worker/scan.ts', import.meta.url), { type: 'module' }));
  return opened;
}

const NOTHING = 'No code was found in this photograph. Go nearer, hold it level and in light, or type the number.';

/**
 * Scans with a telephone: a photograph of the code on a card or label, read on this device.
 * @param onCode goes where the code leads; tells whether there is such a motor
 */
export function PhotographCode({ onCode }: { onCode: (text: string) => Promise<boolean> }) {
  const file = useRef<HTMLInputElement>(null);
  const [reading, setReading] = useState(false);
  const [problem, setProblem] = useState('');
  const read = async (photograph: File): Promise<void> => {
    setReading(true);
    setProblem('');
    try {
      const text = await scanDoor().read(photograph);
      if (text === undefined) setProblem(NOTHING);
      else if (!(await onCode(text))) setProblem(`The code says "${text}"; no motor of this shop has it.`);
    } catch {
      opened = undefined;
      setProblem('This photograph could not be read. Take another, or type the number.');
    } finally {
      setReading(false);
    }
  };
  return (
    <>
      <button
        type="button"
        aria-label="Scan a code by photograph"
        title="Scan a code by photograph"
        aria-busy={reading}
        disabled={reading}
        onClick={() => file.current?.click()}
        className="min-h-9 min-w-9 my-1.5 ml-1 shrink-0 border border-edge rounded-sm bg-page hover:bg-sunk inline-flex items-center justify-center disabled:opacity-60"
      >
        <ScanQrCode className="size-5" aria-hidden="true" />
      </button>
      <input
        ref={file}
        type="file"
        accept="image/*"
        capture="environment"
        aria-label="Photograph of a code"
        className="hidden"
        onChange={(event) => {
          const [photograph] = event.target.files ?? [];
          if (!photograph) return;
          // at once, so that the same photograph may be chosen once more and none chosen meanwhile is thrown away
          event.target.value = '';
          void read(photograph);
        }}
      />
      {problem || reading ? (
        <p
          role={problem ? 'alert' : 'status'}
          className="absolute z-40 left-0 right-0 top-full bg-sheet border border-edge px-3 py-2 flex gap-3 items-start"
        >
          <span className="flex-1">{problem || 'Reading the photograph …'}</span>
          {problem ? (
            <button type="button" className="underline font-semibold" onClick={() => setProblem('')}>
              Close
            </button>
          ) : null}
        </p>
      ) : null}
    </>
  );
}

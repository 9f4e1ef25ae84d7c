import type { WorkView } from '@norther/contracts';
import { useBackgroundQuery, useBackUpMutation, useCancelWorkMutation } from '../../app/api/shop.ts';
import { useMay, useTime } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';
import { ProblemNote, Quiet } from '../../ui/Problem.tsx';

const KINDS: Record<string, string> = {
  report: 'Report laid out',
  backup: 'Backup',
  ovenLog: 'Oven log read and judged',
  archiveImport: 'Old records read in',
  likeness: 'A winding compared with the archive',
  prune: 'Old keys and drafts let go',
};
const STATES: Record<WorkView['state'], string> = {
  waiting: 'waits',
  running: 'runs',
  done: 'done',
  failed: 'failed',
  cancelled: 'cancelled',
};

/** A size as one says it. @example sayBytes(1_500_000) // '1.5 MB' */
function sayBytes(bytes: number): string {
  return bytes >= 1e6 ? `${(bytes / 1e6).toFixed(1)} MB` : `${Math.ceil(bytes / 1000)} kB`;
}

/** What runs beside the server, and how the backups stand. */
export function Background() {
  const mayLook = useMay('foreman');
  const mayAsk = useMay('admin');
  const time = useTime();
  const { data, error } = useBackgroundQuery(undefined, { skip: !mayLook, pollingInterval: 15_000 });
  const [backUp, asked] = useBackUpMutation();
  const [cancel, cancelled] = useCancelWorkMutation();
  if (!mayLook) return null;
  return (
    <section aria-label="Background work">
      <h2 className="font-semibold border-b border-line mb-2">Backups and background work</h2>
      <ProblemNote error={error ?? asked.error ?? cancelled.error} />
      {data ? (
        <>
          <div className="flex items-start justify-between gap-4">
            <p className={data.backup.kept && data.backup.late ? 'text-attention font-semibold' : ''}>
              {!data.backup.kept && data.backup.at === null
                ? 'This Norther keeps no backups: whoever keeps its database does (NORTHER_BACKUPS names a folder).'
                : data.backup.at === null
                  ? 'No backup yet; one is made every night at 02:15 (UTC).'
                  : `Last backup ${time(data.backup.at)}, ${data.backup.file ?? ''}${data.backup.bytes === null ? '' : `, ${sayBytes(data.backup.bytes)}`}.`}
              {data.backup.kept && data.backup.at !== null && data.backup.late
                ? ' That is older than two days: see below what became of it.'
                : ''}
            </p>
            {mayAsk && data.backup.kept ? (
              <Button disabled={asked.isLoading} onClick={() => void backUp()}>
                Back up now
              </Button>
            ) : null}
          </div>
          {data.workers === 0 ? (
            <p role="status" className="border-l-4 border-attention bg-attention-tint px-3 py-2 mt-2">
              No worker is running: what waits here waits until one is started (npm start starts one).
            </p>
          ) : null}
          {data.work.length === 0 ? <Quiet>Nothing waits and nothing was done yet.</Quiet> : null}
          <table className="w-full text-small mt-2">
            <tbody>
              {data.work.slice(0, 8).map((w) => (
                <tr key={w.id} className="border-b border-line">
                  <th scope="row" className="text-left font-normal pr-2 py-1">
                    {KINDS[w.kind] ?? w.kind}
                  </th>
                  <td className="pr-2">{w.person}</td>
                  <td className="pr-2 whitespace-nowrap">{time(w.at)}</td>
                  <td className={w.state === 'failed' ? 'text-fail' : ''}>
                    {STATES[w.state]}
                    {w.state === 'running' && w.progress !== null ? ` ${Math.round(100 * w.progress)} %` : ''}
                    {w.problem ? `: ${w.problem}` : ''}
                  </td>
                  <td className="text-right">
                    {['waiting', 'running'].includes(w.state) && !w.cancelAsked ? (
                      <Button look="quiet" onClick={() => void cancel(w.id)}>
                        Cancel
                      </Button>
                    ) : null}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </>
      ) : null}
    </section>
  );
}

import { randomBytes } from 'node:crypto';
import { minutesLeft, type LoadView, type WallLoad } from '@norther/contracts';

export const newWallSecret = (): string => randomBytes(24).toString('base64url');

/** What may be seen by everybody who walks by. */
export function onTheWall(view: {
  chambers: readonly { id: string; name: string; active: boolean }[];
  loads: readonly LoadView[];
}): WallLoad[] {
  return view.chambers
    .filter((c) => c.active)
    .map((c): WallLoad => {
      const load = view.loads.find((l) => l.chamber.id === c.id && l.state !== 'done');
      if (!load) return { chamber: c.name, use: null, state: 'empty', parts: [], alarms: [] };
      return {
        chamber: c.name,
        use: load.use,
        state: load.state === 'loading' ? 'loading' : 'running',
        parts: load.parts
          .filter((p) => p.out === null)
          .map((p) => ({
            job: p.job,
            what: p.what,
            degree: p.now?.degree ?? null,
            leftMin: minutesLeft(p.now),
            c: p.now?.c ?? null,
            hot: (p.now?.hotC ?? null) !== null,
            says: p.now?.burn?.state ?? '',
          })),
        alarms: load.alarms.map((a) => a.says),
      };
    });
}

/** Work in the background. */
export interface WorkView {
  id: string;
  kind: string;
  state: 'waiting' | 'running' | 'done' | 'failed' | 'cancelled';
  /** 0 to 1; null where it cannot be said */
  progress: number | null;
  person: string;
  at: string;
  endedAt: string | null;
  problem: string | null;
  attempt: number;
  cancelAsked: boolean;
  result: Record<string, unknown> | null;
}

/** What runs in the background, who works, and how the backups stand. */
export interface BackgroundView {
  waiting: number;
  running: number;
  /** processes that do the work; with none it waits */
  workers: number;
  /** what waits and runs, and what ended last */
  work: WorkView[];
  backup: {
    /** this Norther keeps backups; otherwise whoever keeps the database does */
    kept: boolean;
    at: string | null;
    file: string | null;
    bytes: number | null;
    late: boolean;
  };
}

import type { Shown } from '@norther/core';

/** What a trace is, without its samples. */
export interface TraceHeadView {
  id: string;
  what: string;
  channels: { name: string; unit: string; role: string }[];
  xUnit: string;
  samples: number;
}

/** A trace that an instrument has sent, as one chooses among them. */
export interface TraceListed {
  id: string;
  stream: string;
  sourceName: string;
  simulated: boolean;
  channels: { name: string; unit: string; role: string }[];
  at: string;
  ended: boolean;
}

/** A window of a trace at a resolution. */
export interface TraceView extends TraceHeadView, Shown {
  job: string | null;
  startAt: string | null;
  source: string;
  sourceName: string;
  /** it was sent by a simulated instrument */
  simulated: boolean;
  ended: boolean;
  /** the whole trace begins and ends there */
  from: number | null;
  to: number | null;
}

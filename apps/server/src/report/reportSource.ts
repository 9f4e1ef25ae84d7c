import type { BalanceSessionView, JobDetail, LotUsed, PartView, ShopSettings, WindingView } from '@norther/contracts';
import { PARTS_OF_BEFORE, recordOfBefore, type PartKind } from '@norther/core';

/** What a report says, as it stood when it was issued. */
export interface ReportSource {
  job: JobDetail;
  settings: ShopSettings;
  issuer: { name: string; role: string; at: string };
  /** balances on the stand; none in reports of before they were sessions */
  balances?: BalanceSessionView[];
  witness?: string;
  /** why it takes the place of the one before */
  reason?: string;
  lots?: LotUsed[];
}

/** A job as reports kept it before visits had parts. */
interface JobOfBefore {
  parts?: PartView[];
  winding?: WindingView | null;
  plan?: WindingView | null;
  otherWindings?: { part: string; winding: WindingView | null; plan: WindingView | null }[];
}

const ofNow = (view: WindingView | null | undefined): WindingView | null =>
  view ? { ...view, record: recordOfBefore(view.record) } : null;

/** A source as it is kept today; one that was issued before and is laid out only now says the same. */
export function sourceOfNow(source: ReportSource): ReportSource {
  const before = source.job as JobOfBefore;
  if (before.parts) return source;
  const parts: PartView[] = [
    { kind: 'stator', found: ofNow(before.winding), plan: ofNow(before.plan) },
    ...(before.otherWindings ?? []).map(({ part, winding, plan }) => ({
      kind: PARTS_OF_BEFORE[part] ?? (part as PartKind),
      found: ofNow(winding),
      plan: ofNow(plan),
    })),
  ];
  return { ...source, job: { ...source.job, parts } };
}

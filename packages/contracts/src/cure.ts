import { limit, type CoatBake, type Resin, type Trace } from '@norther/core';
import type { ShopSettings } from './shop.ts';

export type ChannelRole = 'part' | 'oven air' | 'not used';

/** What a cure is judged by: the log as assigned, the resin and the shop's limits. The preview and the record ask with the same. */
export function cureInput(
  trace: Trace,
  roles: readonly ChannelRole[],
  resin: Resin,
  settings: Pick<ShopSettings, 'limits' | 'cureSchool'>,
  maxGapMin?: number,
  typedAtMin: readonly number[] = [],
) {
  return {
    timesMin: trace.timesMin,
    channels: trace.channels.map((c, i) => ({ ...c, role: roles[i] ?? ('not used' as const) })),
    resin,
    ...(maxGapMin === undefined ? {} : { maxGapMin }),
    typedAtMin: [...typedAtMin],
    typedGapMin: limit('cure.typedGapMin', settings.limits),
    overBakeDegree: limit('cure.overBakeDegree', settings.limits),
    aboveRatedK: limit('cure.aboveRatedK', settings.limits),
    school: settings.cureSchool,
  };
}

/** A recorded cure as one bake of the coats of its motor. */
export function bakeOf(cure: { code: string; resin: Resin; result: unknown }): CoatBake {
  const { values } = cure.result as {
    values: { degree?: number; hottestC?: number; channels?: { degree?: number | undefined }[] };
  };
  const degrees = (values.channels ?? []).flatMap((c) => (c.degree === undefined ? [] : [c.degree]));
  return {
    code: cure.code,
    resin: cure.resin,
    degree: values.degree,
    largest: degrees.length > 0 ? Math.max(...degrees) : values.degree,
    hottestC: values.hottestC,
  };
}

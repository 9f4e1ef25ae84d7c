import { METRIC_DEFAULTS, type ReadingDefaults } from '@norther/core';
import { dayInZone, formatInTimeZone, may, type Role, type ShopSettings, type TimeKind } from '@norther/contracts';
import { useMemo } from 'react';
import { now } from './clock.ts';
import { useSessionQuery } from './api/people.ts';
import { useShopQuery } from './api/shop.ts';

/** What bare numbers mean in this shop, for every form. */
export function useReadingDefaults(): ReadingDefaults {
  const units = useShopQuery().data?.settings.units;
  // the same object until the shop changes: what is reckoned from it is reckoned once
  return useMemo(() => (units ? { ...METRIC_DEFAULTS, ...units } : METRIC_DEFAULTS), [units]);
}

export function useSettings(): ShopSettings | undefined {
  return useShopQuery().data?.settings;
}

const MARKS = {
  U: { school: 'U', letters: ['U', 'V', 'W'] },
  T: { school: 'T', letters: ['A', 'B', 'C'] },
} as const;
/** Phase letters and lead marks of the shop's school. */
export const useMarks = (): (typeof MARKS)['U' | 'T'] => MARKS[useSettings()?.leadMarks ?? 'U'];

export function useMay(role: Role): boolean {
  const { data } = useSessionQuery();
  return data ? may(data.person.role, role) : false;
}

/** Today where the shop is, year-month-day. */
export function useToday(): string {
  return dayInZone(now(), useSettings()?.timeZone ?? 'UTC');
}

/** A time as the shop writes it, in the shop's zone. */
export function useTime(): (iso: string, kind?: TimeKind) => string {
  const settings = useSettings();
  return (iso, kind = 'with time') =>
    formatInTimeZone(iso, settings?.timeZone ?? 'UTC', settings?.dateFormat ?? 'yyyy-MM-dd', kind);
}

import { METRIC_DEFAULTS, type ReadingDefaults } from '@norther/core';
import { dayInZone, formatInTimeZone, may, type Role, type ShopSettings } from '@norther/contracts';
import { now } from './clock.ts';
import { useSessionQuery } from './api/people.ts';
import { useShopQuery } from './api/shop.ts';

/** What bare numbers mean in this shop, for every form. */
export function useReadingDefaults(): ReadingDefaults {
  const { data } = useShopQuery();
  return data ? { ...METRIC_DEFAULTS, ...data.settings.units } : METRIC_DEFAULTS;
}

export function useSettings(): ShopSettings | undefined {
  return useShopQuery().data?.settings;
}

/** Phase letters and lead marks of the shop's school. */
export function useMarks(): { school: 'T' | 'U'; letters: readonly [string, string, string] } {
  const school = useSettings()?.leadMarks ?? 'U';
  return { school, letters: school === 'U' ? ['U', 'V', 'W'] : ['A', 'B', 'C'] };
}

export function useMay(role: Role): boolean {
  const { data } = useSessionQuery();
  return data ? may(data.person.role, role) : false;
}

/** Today where the shop is, year-month-day. */
export function useToday(): string {
  return dayInZone(now(), useSettings()?.timeZone ?? 'UTC');
}

/** A time as the shop writes it, in the shop's zone. */
export function useTime(): (iso: string, kind?: 'day' | 'with time') => string {
  const settings = useSettings();
  return (iso, kind = 'with time') =>
    formatInTimeZone(iso, settings?.timeZone ?? 'UTC', settings?.dateFormat ?? 'yyyy-MM-dd', kind);
}

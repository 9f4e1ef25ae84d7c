import { formatInTimeZone } from '@norther/contracts';
import { useSettings, useToday } from './shop.ts';

/** A day as the shop writes it and how far it is from the shop's today; nothing of what is no day. */
export function useDay(): (day: string) => string {
  const today = useToday();
  const order = useSettings()?.dateFormat ?? 'yyyy-MM-dd';
  return (day) =>
    /^\d{4}-\d{2}-\d{2}$/.test(day) && Number.isFinite(Date.parse(day))
      ? `${formatInTimeZone(`${day}T12:00:00Z`, 'UTC', order, 'day')}, ${sayDistance(day, today)}`
      : '';
}

/** How far a day lies from today. @example sayDistance('2026-03-11', '2026-03-10') // 'tomorrow' */
export function sayDistance(day: string, today: string): string {
  const days = Math.round((Date.parse(`${day}T00:00:00Z`) - Date.parse(`${today}T00:00:00Z`)) / 86_400_000);
  if (days === 0) return 'today';
  if (Math.abs(days) === 1) return days > 0 ? 'tomorrow' : 'yesterday';
  const far = Math.abs(days) < 60 ? `${Math.abs(days)} days` : `${Math.round(Math.abs(days) / 30.44)} months`;
  return days > 0 ? `in ${far}` : `${far} ago`;
}

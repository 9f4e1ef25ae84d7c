const formats = new Map<string, Intl.DateTimeFormat>();

function formatOf(zone: string): Intl.DateTimeFormat {
  let format = formats.get(zone);
  if (!format) {
    format = new Intl.DateTimeFormat('en-GB', {
      timeZone: zone,
      year: 'numeric',
      month: '2-digit',
      day: '2-digit',
      hour: '2-digit',
      minute: '2-digit',
      second: '2-digit',
      hourCycle: 'h23',
    });
    formats.set(zone, format);
  }
  return format;
}

export type TimeKind = 'day' | 'with time' | 'clock with seconds';
/** A time in the shop's zone and order of day, month and year: one rule for screens and papers. */
export function formatInTimeZone(iso: string, zone: string, order: string, kind: TimeKind): string {
  const parts = Object.fromEntries(
    formatOf(zone)
      .formatToParts(new Date(iso))
      .map((p) => [p.type, p.value]),
  );
  const clock = `${parts['hour'] ?? ''}:${parts['minute'] ?? ''}`;
  if (kind === 'clock with seconds') return `${clock}:${parts['second'] ?? ''}`;
  const day = order
    .replace('yyyy', parts['year'] ?? '')
    .replace('MM', parts['month'] ?? '')
    .replace('dd', parts['day'] ?? '');
  return kind === 'day' ? day : `${day} ${clock}`;
}

/** The day on which a time falls where the shop is, year-month-day: what "today", "late" and "out of date" go by. */
export const dayInZone = (at: Date, zone: string): string =>
  formatInTimeZone(at.toISOString(), zone, 'yyyy-MM-dd', 'day');

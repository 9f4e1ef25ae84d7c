import { useDay } from '../app/day.ts';
import { PlainField } from './Field.tsx';

/** A day, year-month-day; says it the shop's way, and how far it lies from the shop's today. */
export function DateField({
  label,
  value,
  onChange,
  error,
}: {
  label: string;
  value: string;
  onChange: (day: string) => void;
  error?: string | undefined;
}) {
  const sayDay = useDay();
  return (
    <PlainField
      label={label}
      type="date"
      value={value}
      error={error}
      hint={sayDay(value)}
      onChange={(e) => onChange(e.target.value)}
    />
  );
}

/** One of a few, always in sight: which view, which part, which filter. */
export function Segmented<K extends string>({
  label,
  options,
  value,
  onChange,
}: {
  label: string;
  options: readonly (readonly [K, string])[];
  value: K;
  onChange: (key: K) => void;
}) {
  return (
    <div role="group" aria-label={label} className="flex gap-1">
      {options.map(([key, text]) => (
        <button
          key={key}
          type="button"
          aria-pressed={key === value}
          onClick={() => onChange(key)}
          className={`min-h-9 px-3 rounded-sm border ${key === value ? 'border-accent font-semibold bg-accent-tint' : 'border-edge bg-sheet hover:bg-sunk'}`}
        >
          {text}
        </button>
      ))}
    </div>
  );
}

import { useState } from 'react';
import { device } from './device.ts';

type Theme = 'light' | 'dark';

function stored(): Theme {
  const kept = device.read('norther.theme');
  if (kept === 'light' || kept === 'dark') return kept;
  return matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light';
}

export function applyTheme(theme: Theme = stored()): void {
  document.documentElement.dataset['theme'] = theme;
}

export function useTheme(): [Theme, () => void] {
  const [theme, setTheme] = useState<Theme>(stored);
  return [
    theme,
    () => {
      const next = theme === 'light' ? 'dark' : 'light';
      device.keep('norther.theme', next);
      applyTheme(next);
      setTheme(next);
    },
  ];
}

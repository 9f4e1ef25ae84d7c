import { useState } from 'react';

type Theme = 'light' | 'dark';

function stored(): Theme {
  const kept = localStorage.getItem('norther.theme');
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
      localStorage.setItem('norther.theme', next);
      applyTheme(next);
      setTheme(next);
    },
  ];
}

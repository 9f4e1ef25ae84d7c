import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';

const css = readFileSync(new URL('./tokens.css', import.meta.url), 'utf8');

/** The tokens of one theme as name -> colour. */
function theme(name: 'light' | 'dark'): Record<string, string> {
  const block = css.split(`[data-theme='${name}'] {`)[1]?.split('}')[0] ?? '';
  return Object.fromEntries([...block.matchAll(/--([a-z-]+): (#[0-9a-f]{6})/g)].map((m) => [m[1] ?? '', m[2] ?? '']));
}

/** WCAG 2.2 relative luminance and contrast ratio. */
function contrast(a: string, b: string): number {
  const luminance = (hex: string) => {
    const [r, g, bl] = [1, 3, 5]
      .map((i) => Number.parseInt(hex.slice(i, i + 2), 16) / 255)
      .map((c) => (c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4)) as [number, number, number];
    return 0.2126 * r + 0.7152 * g + 0.0722 * bl;
  };
  const [x, y] = [luminance(a), luminance(b)].sort((p, q) => q - p) as [number, number];
  return (x + 0.05) / (y + 0.05);
}

describe.each(['light', 'dark'] as const)('%s tokens', (name) => {
  const t = theme(name);
  const grounds = ['page', 'sheet', 'sunk'];
  it.each(
    ['ink', 'soft', 'accent', 'pass', 'attention', 'fail', 'cannot'].flatMap((ink) =>
      grounds.map((g) => [ink, g] as const),
    ),
  )('%s on %s reads at 4.5:1', (ink, ground) => {
    expect(contrast(t[ink] ?? '#000000', t[ground] ?? '#000000')).toBeGreaterThanOrEqual(4.5);
  });
  it.each(['pass', 'attention', 'fail', 'cannot'])('%s on its tint reads at 4.5:1', (v) => {
    expect(contrast(t[v] ?? '', t[`${v}-tint`] ?? '')).toBeGreaterThanOrEqual(4.5);
  });
  it.each(
    ['edge', 'phase-a', 'phase-b', 'phase-c', 'accent'].flatMap((l) => ['page', 'sheet'].map((g) => [l, g] as const)),
  )('line %s on %s shows at 3:1', (line, ground) => {
    expect(contrast(t[line] ?? '', t[ground] ?? '')).toBeGreaterThanOrEqual(3);
  });
  it('text on the accent reads', () =>
    expect(contrast(t['on-accent'] ?? '', t['accent'] ?? '')).toBeGreaterThanOrEqual(4.5));
  it.each(['a', 'b', 'c'])('ink on the tint of phase %s reads', (p) =>
    expect(contrast(t['ink'] ?? '', t[`phase-${p}-tint`] ?? '')).toBeGreaterThanOrEqual(4.5),
  );
});

import { describe, expect, it } from 'vitest';
import { withRoles } from './jobViews.ts';

const channels = [
  { name: 'Winding', role: 'part' },
  { name: 'Air', role: 'air' },
];
const said = (list: unknown) => ({ values: { channels: list } });

describe('what each channel of a load was taken for', () => {
  it('stands with the verdict; what the verdict does not name was not used', () => {
    expect(withRoles(channels, said([{ name: 'Winding', role: 'air' }]))).toEqual([
      { name: 'Winding', role: 'air' },
      { name: 'Air', role: 'not used' },
    ]);
  });

  it.each([[null], [undefined], ['x'], [{}], [{ values: null }], [said([])], [said(undefined)]])(
    'is as it was given where the verdict %j names none',
    (result) => expect(withRoles(channels, result)).toEqual(channels),
  );

  it('is a word, also where a file says a number or nothing', () => {
    const roles = (list: unknown) => withRoles(channels, said(list)).map((c) => c.role);
    expect(roles([{ name: 'Winding', role: 7 }])).toEqual(['part', 'air']);
    expect(roles([{ name: 7, role: 'air' }, { name: 'Air' }])).toEqual(['part', 'air']);
    expect(roles([null, 3, { name: 'Air', role: 'air' }])).toEqual(['not used', 'air']);
    expect(roles('channels')).toEqual(['part', 'air']);
    expect(roles({ length: 2 })).toEqual(['part', 'air']);
  });
});

import { W, f, type Checks, type Finding } from './checkTypes.ts';
import { spanOf, type SlotPair } from './coilList.ts';
import type { SideKind } from './mixedLayers.ts';

/** A coil longer than a pole pair was as a rule read from its return slot to its go slot. */
export function spansOfList(list: readonly SlotPair[], slots: number, pitch: number): Finding[] {
  return list
    .filter((pair) => spanOf(pair, slots) > 2 * pitch)
    .slice(0, 1)
    .map(([go, back]) =>
      W(
        'span',
        ['coilList'],
        `The coil ${go}-${back} spans ${spanOf([go, back], slots)} slots, more than a pole pair (${f(2 * pitch)}): were go and return exchanged? ${back}-${go} spans ${spanOf([back, go], slots)}.`,
      ),
    );
}

/** Checks of windings that are read off coil by coil. */
export const COIL_LIST_CHECKS: Checks = {
  'mixed-turns': {
    title: 'Full coils have twice the turns of half coils',
    run: ({ record }) => {
      const { sideKinds, turns } = record;
      if (record.layers !== 'mixed' || !sideKinds || turns?.length !== sideKinds.length) return undefined;
      const of = (kind: SideKind) => turns.filter((_, i) => sideKinds[i] === kind);
      const halves = [...new Set(of('half'))];
      const [full = NaN] = of('full');
      const alike = halves.length < 2 && of('full').every((t) => t === full);
      const double = halves.every((t) => Math.abs(2 * t - full) <= 1 || Number.isNaN(full));
      return alike && double
        ? undefined
        : W(
            'mixed-turns',
            ['turns', 'sideKinds'],
            `Turns ${turns.join(', ')} of ${sideKinds.join(', ')} coils: full coils have twice the turns of half ones, all halves alike (an odd full coil: halves rounded the same way).`,
          );
    },
  },
};

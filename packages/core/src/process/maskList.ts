import type { PartKind } from '../machine/parts.ts';

/** What is masked or greased on a part before resin, and what it is for (common practice). */
export interface MaskLine {
  what: string;
  how: 'mask' | 'grease' | 'plug' | 'tie up';
}

const STATOR: readonly MaskLine[] = [
  { what: 'Feet, undersides: varnish there is a soft foot', how: 'grease' },
  { what: 'Spigot fits, both ends', how: 'grease' },
  { what: 'Bolt holes and threads', how: 'plug' },
  { what: 'Rating plate', how: 'mask' },
  { what: 'Earth pads and terminal box seat', how: 'mask' },
  { what: 'Drain holes', how: 'plug' },
  { what: 'Lead ends, lugs bare', how: 'tie up' },
];
const ROTOR: readonly MaskLine[] = [
  { what: 'Shaft: journals, coupling end, keyway', how: 'mask' },
  { what: 'Centres and threads in the shaft ends', how: 'plug' },
  { what: 'Balance weights and their places', how: 'mask' },
  { what: 'Lead ends, lugs bare', how: 'tie up' },
];

/** The mask and grease list of one motor, by the part that gets resin and by what is fitted to it. */
export function maskList(part: PartKind, fitted: readonly string[] = []): MaskLine[] {
  const rotating = part === 'wound-rotor' || part === 'armature' || part === 'cage-rotor' || part === 'magnet-rotor';
  return [
    ...(rotating ? ROTOR : STATOR),
    ...(part === 'wound-rotor' ? [{ what: 'Slip rings', how: 'mask' as const }] : []),
    ...(part === 'armature' ? [{ what: 'Commutator and risers up to the joint', how: 'mask' as const }] : []),
    ...(fitted.includes('thermal sensors') ? [{ what: 'Leads of the thermal sensors', how: 'tie up' as const }] : []),
    ...(fitted.includes('heaters') && !rotating ? [{ what: 'Leads of the heaters', how: 'tie up' as const }] : []),
  ];
}

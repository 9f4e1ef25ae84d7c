import { z } from 'zod';
import type { Nameplate } from './nameplate.ts';

/** What a part may carry, and what the nameplate says of it. */
interface PartFacts {
  title: string;
  /** the rail its work runs on */
  rail: 'stator' | 'rotor';
  /** whether it has a winding with a record of its own */
  winding: boolean;
  /** the part in whose core it lies, where that is another one's */
  core?: string;
  /** what of the nameplate its winding is judged by: all of it, the line only, or the ring voltage and current */
  plate?: 'whole' | 'line' | 'rings';
}

/** Parts of a machine that come into the house; a route says which of them it is for. */
export const PARTS = {
  stator: { title: 'Stator', rail: 'stator', winding: true, plate: 'whole' },
  second: { title: 'Second winding, same core', rail: 'stator', winding: true, core: 'stator', plate: 'line' },
  'cage-rotor': { title: 'Cage rotor', rail: 'rotor', winding: false },
  'wound-rotor': { title: 'Wound rotor', rail: 'rotor', winding: true, plate: 'rings' },
  armature: { title: 'Armature', rail: 'rotor', winding: false },
  'field-frame': { title: 'Field frame', rail: 'stator', winding: false },
  'magnet-rotor': { title: 'Magnet rotor', rail: 'rotor', winding: false },
} as const satisfies Record<string, PartFacts>;
export type PartKind = keyof typeof PARTS;
export const PART_KINDS = Object.keys(PARTS) as [PartKind, ...PartKind[]];
export const partFacts = (kind: PartKind): PartFacts => PARTS[kind];

/** Parts whose windings are recorded, planned and wound. */
export const WINDING_PARTS = ['stator', 'second', 'wound-rotor'] as const satisfies readonly PartKind[];
export type WindingPart = (typeof WINDING_PARTS)[number];
/** The one that is meant where none is named. */
export const FIRST_PART: WindingPart = 'stator';
/** What a heading adds to say that another winding than the first is meant; empty for the first. */
export const sayPart = (part: PartKind): string => (part === FIRST_PART ? '' : PARTS[part].title);

/** Names of before parts were named by what they are. */
export const PARTS_OF_BEFORE: Readonly<Record<string, WindingPart>> = { rotor: 'wound-rotor' };
/** A winding's part as it is sent or filed; names of before are understood. */
export const windingPartSchema = z
  .enum([...WINDING_PARTS, 'rotor'])
  .transform((part): WindingPart => PARTS_OF_BEFORE[part] ?? (part as WindingPart));

/** The kind of rotor that a nameplate speaks of, as far as it does. */
export const rotorOf = (nameplate: Pick<Nameplate, 'rotorVoltageV' | 'rotorCurrentA'>): PartKind =>
  nameplate.rotorVoltageV === undefined && nameplate.rotorCurrentA === undefined ? 'cage-rotor' : 'wound-rotor';

/** Parts that a visit begins with: of those its route is for, what came, with the rotor that the nameplate speaks of. */
export function partsTakenIn(
  routeParts: readonly PartKind[],
  came: 'whole motor' | 'stator only' | 'rotor only',
  nameplate: Nameplate,
): PartKind[] {
  const parts: PartKind[] = ['stator', rotorOf(nameplate)];
  return parts.filter(
    (p) =>
      routeParts.includes(p) &&
      !(came === 'stator only' && PARTS[p].rail === 'rotor') &&
      !(came === 'rotor only' && PARTS[p].rail === 'stator'),
  );
}

/** The part on which work of a rail is done; of two on one rail the one whose core it is. */
export function partOnRail(parts: readonly PartKind[], rail: 'stator' | 'rotor'): PartKind | undefined {
  return parts.find((p) => PARTS[p].rail === rail && partFacts(p).core === undefined);
}

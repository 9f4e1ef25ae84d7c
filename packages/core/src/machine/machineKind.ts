import type { Nameplate } from './nameplate.ts';

/** Kinds of machine whose tests and formulas differ. */
export const MACHINE_KINDS = ['three-phase', 'two-speed', 'single-phase', 'slip-ring', 'permanent magnet'] as const;
export type MachineKind = (typeof MACHINE_KINDS)[number];

/** Whether the machine has magnets: its speed is exact, its flux is theirs. */
export const hasMagnets = (nameplate: Pick<Nameplate, 'machine'>): boolean => nameplate.machine === 'permanent magnet';

/** What a machine is, by its plate and the winding of its stator as far as it is recorded. */
export function machineKindOf(
  nameplate: Pick<Nameplate, 'machine' | 'phases' | 'rotorVoltageV' | 'rotorCurrentA'>,
  record?: { readonly kind?: string | undefined },
): MachineKind {
  if (record?.kind === 'single-phase' || (record === undefined && nameplate.phases === '1')) return 'single-phase';
  if (hasMagnets(nameplate)) return 'permanent magnet';
  if (record?.kind === 'two-speed') return 'two-speed';
  return nameplate.rotorVoltageV === undefined && nameplate.rotorCurrentA === undefined ? 'three-phase' : 'slip-ring';
}

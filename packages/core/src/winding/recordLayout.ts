import type { Nameplate } from '../machine/nameplate.ts';
import { groupingFits, layoutOf } from './layout.ts';
import type { Layout, LayoutInput } from './layoutTypes.ts';
import type { WindingRecord } from './record.ts';

/** What the layout needs, taken from a record; undefined while something is missing. */
export function layoutInputOf(record: WindingRecord): LayoutInput | undefined {
  const { slots, poles } = record;
  if (slots === undefined || poles === undefined) return undefined;
  const { kind } = record;
  const spans = record.spansSlots;
  const turns = record.turns && record.turns.length > 0 ? [...record.turns] : [1];
  if (kind === 'single-phase') {
    if (!spans || spans.length === 0) return undefined;
    const aux = record.auxSpansSlots;
    return {
      kind,
      slots,
      poles,
      layers: 2,
      form: 'concentric',
      poleGroups: record.poleGroups ?? 'every-pole',
      spansSlots: [...spans],
      turns,
      ...(aux && aux.length > 0
        ? {
            auxiliary: {
              spansSlots: [...aux],
              turns: record.auxTurns && record.auxTurns.length > 0 ? [...record.auxTurns] : [1],
              ...(record.auxShiftSlots === undefined ? {} : { shiftSlots: record.auxShiftSlots }),
            },
          }
        : {}),
    };
  }
  const plain = { kind: 'three-phase', slots, poles } as const;
  // two bars over each other are the two sides of a coil of one turn, a pole pitch wide or as wide as the far end is bent
  if (kind === 'bar-rotor')
    return {
      ...plain,
      layers: 2,
      form: 'lap',
      poleGroups: 'every-pole',
      spanSlots: record.farPitchSlots ?? Math.round(slots / poles),
      turns: [(record.barsPerSlot ?? 2) / 2],
    };
  if (record.coilList && record.layers !== 'double' && kind === 'three-phase')
    return {
      ...plain,
      layers: 1,
      form: 'lap',
      poleGroups: 'every-pole',
      coilList: record.coilList.map(([go, back]): [number, number] => [go, back]),
      ...(record.grouping && record.grouping.length > 1 ? { grouping: [...record.grouping] } : {}),
      turns,
    };
  if (record.layers === 'mixed') {
    if (!spans || spans.length === 0 || !record.sideKinds) return undefined;
    return {
      ...plain,
      layers: 2,
      form: 'concentric',
      poleGroups: 'every-pole',
      spansSlots: [...spans],
      sideKinds: [...record.sideKinds],
      turns,
    };
  }
  const layers = record.layers === 'single' ? 1 : 2;
  const form = record.form ?? 'lap';
  const poleGroups = kind === 'two-speed' ? 'consequent' : (record.poleGroups ?? 'every-pole');
  const mean = spans && spans.length > 0 ? spans.reduce((a, b) => a + b, 0) / spans.length : undefined;
  const fixedByForm = layers === 1 && (form === 'concentric' || poleGroups === 'consequent');
  if (mean === undefined && !fixedByForm && kind !== 'tooth-coil') return undefined;
  // a sequence that does not fit the core is said by its check; the drawing goes on with the regular one
  const counted = record.grouping && record.grouping.length > 1 ? record.grouping : undefined;
  const coils = layers === 1 ? slots / 2 : slots;
  const belts = (poleGroups === 'consequent' ? 3 : 6) * (poles / 2);
  const grouping = counted && groupingFits(counted, coils, belts) ? { grouping: [...counted] } : {};
  if (kind === 'tooth-coil')
    return { ...plain, layers, form: 'lap', poleGroups: 'every-pole', spanSlots: 1, ...grouping, turns };
  return {
    kind: kind === 'two-speed' ? kind : 'three-phase',
    slots,
    poles,
    layers,
    form,
    poleGroups,
    ...(fixedByForm || mean === undefined ? {} : { spanSlots: Math.round(mean) }),
    ...grouping,
    turns,
  };
}

/** The layout of a record, or the sentence that says why there is none. */
export function layoutOfRecord(record: WindingRecord): { layout: Layout } | { layout?: undefined; why: string } {
  const input = layoutInputOf(record);
  if (!input)
    return {
      why:
        record.layers === 'mixed'
          ? 'Slots, poles, spans and which coils are full or half are needed before the winding can be drawn.'
          : 'Slots, poles and span are needed before the winding can be drawn.',
    };
  try {
    return { layout: layoutOf(input) };
  } catch (error) {
    const firstTry = error instanceof Error ? error.message.replace(/^\w+: /, '') : 'This winding cannot be laid.';
    if (input.turns.length > 1) {
      try {
        return { layout: layoutOf({ ...input, turns: [1] }) };
      } catch {
        return { why: firstTry };
      }
    }
    return { why: firstTry };
  }
}

/** Leads that bring each phase out in halves: circuits are then counted in each half. */
export function inHalves(record: WindingRecord): boolean {
  return (
    record.kind === 'two-speed' || record.leads === '9' || record.leads === '12' || record.leads === '6 part-winding'
  );
}

/** Parallel circuits of a phase as it runs at the voltage of `ratingOf`: halves in parallel at the low voltage. */
export function runningCircuits(record: WindingRecord): number | undefined {
  if (record.circuits === undefined) return record.kind === 'single-phase' ? 1 : undefined;
  // a two-speed winding runs its halves in series at the low speed (parallel there only for constant power)
  if (record.kind === 'two-speed') return record.duty === 'constant power' ? 2 * record.circuits : record.circuits;
  return inHalves(record) ? 2 * record.circuits : record.circuits;
}

/** How the phases stand to each other at the voltage of `ratingOf`. */
export function runningConnection(record: WindingRecord): 'wye' | 'delta' | undefined {
  if (record.kind === 'single-phase') return 'delta';
  if (record.kind === 'two-speed')
    return record.duty === 'variable torque' || record.duty === 'constant power' ? 'wye' : 'delta';
  return record.connection;
}

/** The voltage and current that belong to the connection of the record: first of the plate unless told. */
export function ratingOf(nameplate: Nameplate, record: WindingRecord): { voltageV?: number; currentA?: number } {
  const volts = nameplate.voltagesV ?? [];
  const amps = nameplate.currentsA ?? [];
  let at = 0;
  if (volts.length === 2 && record.kind !== 'two-speed') {
    const low = (volts[0] as number) <= (volts[1] as number) ? 0 : 1;
    const ratio = (volts[1 - low] as number) / (volts[low] as number);
    // 2:1 on nine or twelve leads: reckoned at the lower voltage, halves in parallel; √3 on six: delta takes the lower
    if (inHalves(record) && ratio > 1.85) at = low;
    else if (record.connection) at = record.connection === 'delta' ? low : 1 - low;
  }
  return {
    ...(volts[at] === undefined ? {} : { voltageV: volts[at] }),
    ...((amps[at] ?? amps[0]) ? { currentA: (amps[at] ?? amps[0]) as number } : {}),
  };
}

/** Turns of the fullest slot: of the main (or only) winding and of a single-phase auxiliary in the same slot. */
export function fullestSlot(layout: Layout): { main: number; aux: number } {
  const slots = Array.from({ length: layout.slots }, () => ({ main: 0, aux: 0 }));
  for (const side of layout.sides) {
    const slot = slots[side.slot - 1];
    const turns = layout.coils[side.coil - 1]?.turns ?? 0;
    if (slot) slot[layout.kind === 'single-phase' && side.phase === 'B' ? 'aux' : 'main'] += turns;
  }
  return slots.reduce((a, b) => (b.main + b.aux > a.main + a.aux ? b : a), { main: 0, aux: 0 });
}

import { z } from 'zod';
import { defineCalculation, refuse } from '../calculation.ts';
import { groupsPerPhase, possibleCircuits, readableCircuitLimit } from './connection.ts';
import { divisorsOf } from './integers.ts';
import { layoutInputSchema } from './layoutTypes.ts';
import { layoutOf } from './layout.ts';

export const readConnectionSchema = z.strictObject({
  leads: z.enum(['3', '6', '6 part-winding', '9', '12']).default('3'),
  endsPerLead: z.int().min(1).max(96).optional().describe('group ends at T1, T2 or T3'),
  wireTipsPerLead: z.int().min(1).max(960).optional(),
  wiresInHand: z.int().min(1).max(40).optional(),
  endsAtOtherLeads: z.int().min(1).max(96).optional().describe('nine leads: group ends at T4 to T9'),
  starEnds: z.int().min(0).max(300).optional().describe('group ends joined in stars inside, 0 = looked and found none'),
  groupsInCircuit: z.int().min(1).max(48).optional().describe('groups counted from a lead to the next lead or star'),
  circuitLimit: z.int().min(1).max(48).describe('largest number of equal circuits of this winding'),
  groupsPerPhase: z.int().min(1).max(48),
});
export type ReadConnectionInput = z.input<typeof readConnectionSchema>;

export interface ReadCandidate {
  connection: 'wye' | 'delta';
  /** per phase; nine, twelve and part-winding leads: in each half */
  circuits: number;
  starEnds: number;
  /** ends at T1–T3, and at the others where they differ */
  endsPerLead: number;
  endsAtOtherLeads?: number;
  groupsInCircuit: number;
  say: string;
}
export interface ReadConnection {
  endsPerLead: number;
  candidates: ReadCandidate[];
  /** what to look at next, the most telling first; empty when one candidate is left */
  lookNext: string[];
  verdict: string;
}

/** Every connection that the leads could be, before anything was counted. */
function possible(x: z.output<typeof readConnectionSchema>): ReadCandidate[] {
  const out: ReadCandidate[] = [];
  const { groupsPerPhase: g, leads } = x;
  const halved = leads === '9' || leads === '12' || leads === '6 part-winding';
  for (const all of divisorsOf(x.circuitLimit)) {
    if (g % all !== 0 || (halved && all % 2 !== 0)) continue;
    const c = halved ? all / 2 : all;
    const base = { circuits: c, groupsInCircuit: g / all };
    const put = (connection: 'wye' | 'delta', endsPerLead: number, starEnds: number, say: string, other?: number) =>
      out.push({
        ...base,
        connection,
        endsPerLead,
        starEnds,
        say,
        ...(other === undefined ? {} : { endsAtOtherLeads: other }),
      });
    if (leads === '3') {
      put('wye', c, 3 * c, `${c}-circuit wye`);
      put('delta', 2 * c, 0, `${c}-circuit delta`);
    } else if (leads === '6') put('delta', c, 0, `${c} circuits, both phase ends out (wye or delta by the links)`);
    else if (leads === '12') put('delta', c, 0, `${c} circuits in each half, all ends out`);
    else if (leads === '6 part-winding') put('wye', c, 6 * c, `two wyes of ${c} circuits`);
    else {
      put('wye', c, 3 * c, `nine-lead wye, ${c} circuits in each half`, c);
      put('delta', 2 * c, 0, `nine-lead delta, ${c} circuits in each half`, c);
    }
  }
  return out;
}

/**
 * Which connections fit what was counted at the stator, and what decides between them. Flux alone never decides wye with
 * e circuits against delta with e/2: they differ by only 2/√3.
 * Source: counting of ends (derived); resolving order common practice.
 * @throws CalculationInputError when nothing was counted or tips do not divide by the wires in hand
 */
export function readConnection(input: ReadConnectionInput): ReadConnection {
  const x = readConnectionSchema.parse(input);
  const ends =
    x.endsPerLead ??
    (x.wireTipsPerLead !== undefined && x.wiresInHand !== undefined ? x.wireTipsPerLead / x.wiresInHand : undefined);
  if (ends === undefined)
    return refuse('endsPerLead', 'Count the group ends at one lead, or the wire tips there and the wires in hand.');
  if (!Number.isInteger(ends))
    refuse(
      'wireTipsPerLead',
      `${x.wireTipsPerLead} wire tips do not divide by ${x.wiresInHand} wires in hand: count both again.`,
    );
  const byEnds = possible(x).filter((c) => c.endsPerLead === ends);
  const fits = byEnds.filter(
    (c) =>
      (x.starEnds === undefined || c.starEnds === x.starEnds) &&
      (x.endsAtOtherLeads === undefined ||
        c.endsAtOtherLeads === undefined ||
        c.endsAtOtherLeads === x.endsAtOtherLeads) &&
      (x.groupsInCircuit === undefined || c.groupsInCircuit === x.groupsInCircuit),
  );
  const lookNext: string[] = [];
  const differs = (pick: (c: ReadCandidate) => number | undefined) => new Set(fits.map(pick)).size > 1;
  const list = (pick: (c: ReadCandidate) => string) => fits.map(pick).join(', ');
  if (fits.length > 1) {
    if (x.starEnds === undefined && differs((c) => c.starEnds))
      lookNext.push(
        `Look for joints of ends without a lead (stars, one or several): ${list((c) => `${c.starEnds === 0 ? 'none' : `${c.starEnds} ends in all`} means ${c.say}`)}.`,
      );
    if (x.endsAtOtherLeads === undefined && differs((c) => c.endsAtOtherLeads))
      lookNext.push(`Count the ends at T4: ${list((c) => `${c.endsAtOtherLeads} means ${c.say}`)}.`);
    if (x.groupsInCircuit === undefined && differs((c) => c.groupsInCircuit))
      lookNext.push(
        `Follow one circuit from the lead: ${list((c) => `${c.groupsInCircuit} ${c.groupsInCircuit === 1 ? 'group' : 'groups'} to the next lead or star means ${c.say}`)}.`,
      );
    lookNext.push('Measure lead to lead with one joint lifted: in a delta the reading changes, in a wye it opens.');
    lookNext.push('The flux does not decide: wye with e circuits and delta with e/2 differ by only 1.155.');
  }
  const shown = (c: readonly ReadCandidate[]) => c.map((y) => y.say).join(' or ');
  return {
    endsPerLead: ends,
    candidates: fits,
    lookNext,
    verdict:
      byEnds.length === 0
        ? `${ends} ends at a lead fit no connection of this winding: count again (were wires counted for ends?), and see that all leads are of one kind.`
        : fits.length === 0
          ? `${ends} ends at a lead would mean ${shown(byEnds)}, but what was found beside does not fit: look again.`
          : fits.length === 1
            ? `It is ${shown(fits)}.`
            : `It may be ${shown(fits)}.`,
  };
}

/** Calculation `winding.readConnection`. */
export const windingReadConnection = defineCalculation({
  id: 'winding.readConnection',
  version: 1,
  title: 'Reading a connection: what the ends at the leads, stars and circuits can be, and what to look at next',
  sources: ['counting of ends (derived)', 'order of looking: common practice'],
  input: layoutInputSchema.extend(readConnectionSchema.omit({ circuitLimit: true, groupsPerPhase: true }).shape),
  output: z.object({
    endsPerLead: z.number(),
    candidates: z.array(
      z.object({
        connection: z.enum(['wye', 'delta']),
        circuits: z.number(),
        starEnds: z.number(),
        endsPerLead: z.number(),
        endsAtOtherLeads: z.number().optional(),
        groupsInCircuit: z.number(),
        say: z.string(),
      }),
    ),
    lookNext: z.array(z.string()),
    verdict: z.string(),
    works: z.array(z.number()).describe('circuits whose phasors are equal in this winding'),
  }),
  example: { slots: 54, poles: 6, layers: 2, form: 'lap', spanSlots: 8, leads: '3', endsPerLead: 6 },
  compute: (input, note) => {
    const { leads, endsPerLead, wireTipsPerLead, wiresInHand, endsAtOtherLeads, starEnds, groupsInCircuit, ...rest } =
      input;
    const layout = layoutOf(rest);
    const counted = { endsPerLead, wireTipsPerLead, wiresInHand, endsAtOtherLeads, starEnds, groupsInCircuit };
    const made = readConnection({
      leads,
      ...(Object.fromEntries(Object.entries(counted).filter(([, v]) => v !== undefined)) as typeof counted),
      circuitLimit: readableCircuitLimit(layout),
      groupsPerPhase: groupsPerPhase(layout),
    } as ReadConnectionInput);
    const works = possibleCircuits(layout).map((p) => p.circuits);
    note?.({
      name: 'Ends per lead',
      symbol: 'e',
      formula: 'wire tips / wires in hand',
      numbers: wireTipsPerLead === undefined ? `${made.endsPerLead} counted` : `${wireTipsPerLead} / ${wiresInHand}`,
      value: made.endsPerLead,
      unit: '',
      source: 'definition',
    });
    return { ...made, works };
  },
});

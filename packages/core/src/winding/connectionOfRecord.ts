import { connect, possibleCircuits, type Connection, type ConnectionChoice } from './connection.ts';
import { inHalves, layoutOfRecord } from './recordLayout.ts';
import type { Layout } from './layoutTypes.ts';
import { isPlainThreePhase, type WindingRecord } from './record.ts';

/** What a record says of its connection, in the terms of `connect`; undefined while connection or circuits are missing. */
export function connectionChoiceOf(record: WindingRecord, layout: Layout): ConnectionChoice | undefined {
  const { kind } = record;
  const circuits = record.circuits ?? (kind === 'single-phase' ? 1 : undefined);
  const plain = isPlainThreePhase(record);
  const connection = plain ? (record.leads === '6 part-winding' ? 'wye' : record.connection) : 'delta';
  if (circuits === undefined || connection === undefined) return undefined;
  const all = circuits * (inHalves(record) && plain ? 2 : 1);
  const jumper =
    record.jumper ?? possibleCircuits(layout).find((p) => p.circuits === all)?.jumpers[0] ?? 'adjacent-pole';
  return {
    connection,
    circuits,
    jumper,
    leads: record.leads === '9' ? 9 : record.leads === '12' ? 12 : record.leads === '6' ? 6 : 3,
    partWinding: record.leads === '6 part-winding',
    ...(record.duty ? { duty: record.duty } : {}),
  };
}

/** The connection that a record asks for, or the sentence that says why there is none. */
export function connectionOfRecord(
  record: WindingRecord,
):
  | { layout?: undefined; connection?: undefined; why: string }
  | { layout: Layout; connection?: undefined; why: string }
  | { layout: Layout; connection: Connection; why?: undefined } {
  const laid = layoutOfRecord(record);
  if (!laid.layout) return { why: laid.why };
  if (record.kind === 'bar-rotor')
    return {
      layout: laid.layout,
      why: 'Bars are joined as waves: half of a phase forward, a jumper, half of it back.',
    };
  const choice = connectionChoiceOf(record, laid.layout);
  if (!choice) return { layout: laid.layout, why: 'Connection and circuits are not recorded yet.' };
  try {
    return { layout: laid.layout, connection: connect(laid.layout, choice) };
  } catch (error) {
    return {
      layout: laid.layout,
      why: error instanceof Error ? error.message.replace(/^\w+: /, '') : 'This connection does not work.',
    };
  }
}

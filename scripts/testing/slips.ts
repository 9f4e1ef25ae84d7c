import { checkConnection, type NetworkCheck } from '../../packages/core/src/network/check.ts';
import { jointsOf, type Joint } from '../../packages/core/src/network/joints.ts';
import { reversed } from '../../packages/core/src/network/mistakes.ts';
import { connect, type Connection, type ConnectionChoice } from '../../packages/core/src/winding/connection.ts';
import { layoutOf } from '../../packages/core/src/winding/layout.ts';
import type { LayoutInput } from '../../packages/core/src/winding/layoutTypes.ts';

const made = (input: Partial<LayoutInput>, choice: Partial<ConnectionChoice>) => {
  const layout = layoutOf({
    layers: 2,
    form: 'lap',
    poleGroups: 'every-pole',
    turns: [10],
    slots: 12,
    poles: 2,
    spanSlots: 5,
    ...input,
  } as LayoutInput);
  const connection = connect(layout, {
    connection: 'wye',
    circuits: 1,
    jumper: 'adjacent-pole',
    leads: 3,
    ...choice,
  } as ConnectionChoice);
  return { layout, connection };
};
/**
 * star: 1F-4F, 3F-6F, 5F-2F, T1-1S, T2-3S, T3-5S, Y-4S-6S-2S
 * delta: two circuits a side, T1-1S-7S-8S-2S, T2-3S-9S-4S-10S, T3-5S-11S-6S-12S
 * nine: nine leads, T1-1S, T4-4S, T7-7S, … , Y-10S-12S-2S
 */
export const WINDINGS = {
  star: made({}, {}),
  delta: made({ slots: 24, poles: 4 }, { connection: 'delta', circuits: 2 }),
  nine: made({ slots: 24, poles: 4 }, { leads: 9 }),
};
export type Name = keyof typeof WINDINGS;
export type Slip = (joints: Joint[], connection: Connection) => Joint[];

export const renamed = (joints: readonly Joint[], names: Record<string, string>): Joint[] =>
  joints.map((j) => j.map((e) => names[e] ?? e));
export const swap =
  (a: string, b: string): Slip =>
  (j) =>
    renamed(j, { [a]: b, [b]: a });
export const drop =
  (...ends: string[]): Slip =>
  (j) =>
    j.map((x) => x.filter((e) => !ends.includes(e)));
export const move =
  (end: string, to: string): Slip =>
  (j) =>
    drop(end)(j, WINDINGS.star.connection).map((x) => (x.includes(to) ? [...x, end] : x));
export const join =
  (a: string, b: string): Slip =>
  (j) => {
    const both = j.filter((x) => x.includes(a) || x.includes(b));
    return [...j.filter((x) => !both.includes(x)), both.flat()];
  };
export const turn =
  (...groups: number[]): Slip =>
  (j) =>
    groups.reduce<Joint[]>((made, g) => reversed(made, g), j);
export const without =
  (end: string): Slip =>
  (j) =>
    j.filter((x) => !x.includes(end));

/** The check of one of these windings after a slip. */
export const checked = (name: Name, slip: Slip): NetworkCheck => {
  const { layout, connection } = WINDINGS[name];
  return checkConnection(layout, connection, slip(jointsOf(connection), connection));
};

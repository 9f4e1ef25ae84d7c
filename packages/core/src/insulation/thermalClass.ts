/** Thermal classes by letter, °C (IEC 60085, from memory). The letters do not go up with the temperature. */
export const THERMAL_CLASSES = { Y: 90, A: 105, E: 120, B: 130, F: 155, H: 180, N: 200, R: 220 } as const;
export type ThermalLetter = keyof typeof THERMAL_CLASSES;

/** Class temperature of a letter or of a number written out; undefined when it is neither. */
export function classTemperatureC(stated: string | number | undefined): number | undefined {
  if (stated === undefined) return undefined;
  if (typeof stated === 'number') return Number.isFinite(stated) && stated > 0 ? stated : undefined;
  const text = stated.trim().toUpperCase();
  if (text in THERMAL_CLASSES) return THERMAL_CLASSES[text as ThermalLetter];
  const number = Number(text);
  return text !== '' && Number.isFinite(number) && number > 0 ? number : undefined;
}

/** "155 (F)", "250". */
export function sayClass(temperatureC: number): string {
  const letter = (Object.keys(THERMAL_CLASSES) as ThermalLetter[]).find((k) => THERMAL_CLASSES[k] === temperatureC);
  return letter ? `${temperatureC} (${letter})` : String(temperatureC);
}

export interface SystemMember {
  name: string;
  /** °C; undefined = nobody stated it */
  classC: number | undefined;
}
export interface SystemClass {
  /** °C; undefined while any member's class is unstated: a member without a class is not "as the rest" */
  classC: number | undefined;
  weakest: string[];
  unstated: string[];
}

/**
 * Class of an insulation system: that of its lowest member; a tested system may be declared higher by its certificate.
 * Source: docs/derivations.md 13 (IEC 60085, IEC 60034-18, from memory).
 */
export function systemClass(
  members: readonly SystemMember[],
  tested?: { classC: number; certificate: string },
): SystemClass {
  const unstated = members.filter((m) => m.classC === undefined).map((m) => m.name);
  const stated = members.flatMap((m) => (m.classC === undefined ? [] : [m.classC]));
  const lowest = stated.length > 0 ? Math.min(...stated) : undefined;
  const weakest = members.filter((m) => m.classC === lowest && lowest !== undefined).map((m) => m.name);
  if (tested && tested.certificate.trim() !== '') return { classC: tested.classC, weakest, unstated };
  return { classC: unstated.length > 0 ? undefined : lowest, weakest, unstated };
}

/** How much longer insulation lives below its class: 2^((class − hot spot)/10) (common practice). */
export function lifeFactor(classC: number, hotSpotC: number): number {
  return 2 ** ((classC - hotSpotC) / 10);
}

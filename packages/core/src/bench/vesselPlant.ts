/** A simulated vacuum-pressure plant that runs its cycle by itself. */
export interface PlantRun {
  seed: number;
  partTopMm: number;
  coverMm: number;
  /** what goes wrong: the vessel leaks, the capacitance lead comes off, the resin stands too low */
  faults?: readonly { what: (typeof PLANT_FAULTS)[number]; fromMin: number }[];
}
export const PLANT_FAULTS = ['vessel leaks', 'lead comes off', 'level falls'] as const;

/** When the simulated plant does what, min from the loading; the pressure is held until the last of them. */
export const PLANT_TIMES = {
  vacuum: 20,
  leak: 66,
  admit: 90,
  soak: 104,
  pressurise: 126,
  hold: 134,
  release: 320,
  return: 328,
  drip: 345,
  end: 375,
} as const;
export const PLANT_CHANNELS = [
  { name: 'gauge_bar', unit: 'bar' },
  { name: 'abs_mbar', unit: 'mbar' },
  { name: 'level_mm', unit: 'mm' },
  { name: 'part_C', unit: '°C' },
  { name: 'resin_C', unit: '°C' },
  { name: 'storage_free_litre', unit: 'l' },
  { name: 'resin_in_tank_litre', unit: 'l' },
  { name: 'capacitance_nF', unit: 'nF' },
  { name: 'lid_locked', unit: '' },
  { name: 'vent_open', unit: '' },
  { name: 'pump_on', unit: '' },
  { name: 'pressure_valve_open', unit: '' },
  { name: 'resin_valve_open', unit: '' },
  { name: 'vacuum_valve_open', unit: '' },
] as const;

const AIR_MBAR = 1013;
const DEEP_MBAR = 2.6;
const PUMP_MIN = 6;
const LEAK_MBAR_MIN = 0.15;
const LEAKS_MBAR_MIN = 0.9;
const DRY_NF = 38;
const FILLED_SHARE = 0.21;
/** How fast resin creeps into the winding, min: by itself, and under pressure. */
const SOAKS_MIN = 60;
const PRESSED_MIN = 24;
const PRESSURE_BAR = 4;
const LITRE_PER_MM = 0.62;

/** What the plant reads, sample by sample; the same for a seed. Resin displaces air, so the capacitance climbs towards its plateau (derived). */
export function* vesselPlant(run: PlantRun, stepS: number): Generator<{ s: number; values: number[] }, never> {
  let state = (run.seed % 2147483646) + 1;
  const noise = (size: number): number => {
    state = (state * 48271) % 2147483647;
    return (state / 2147483647 - 0.5) * 2 * size;
  };
  const T = PLANT_TIMES;
  const level0 = run.partTopMm + run.coverMm + 15;
  let filled = 0;
  let abs = AIR_MBAR;
  for (let i = 0; ; i++) {
    const min = (i * stepS) / 60;
    const dt = stepS / 60;
    const has = (what: (typeof PLANT_FAULTS)[number]) =>
      run.faults?.some((f) => f.what === what && f.fromMin <= min) ?? false;
    const leaking = min >= T.leak && min < T.leak + 6;
    const evacuated = min >= T.vacuum && min < T.pressurise;
    if (evacuated && !leaking) {
      const floor = has('vessel leaks') ? DEEP_MBAR + 6 : DEEP_MBAR;
      abs = floor + (abs - floor) * Math.exp(-dt / PUMP_MIN);
    } else if (leaking) abs += dt * (has('vessel leaks') ? LEAKS_MBAR_MIN : LEAK_MBAR_MIN);
    else if (min < T.vacuum) abs = AIR_MBAR;
    const ramp = (from: number, to: number) => Math.max(0, Math.min(1, (min - from) / (to - from)));
    const pressed = ramp(T.pressurise, T.hold) * (1 - ramp(T.release, T.return - 2));
    const gauge = min < T.pressurise ? (abs - AIR_MBAR) / 1000 : PRESSURE_BAR * pressed;
    if (min >= T.pressurise) abs = AIR_MBAR + 1000 * gauge;
    const level =
      level0 * ramp(T.admit, T.soak - 2) * (1 - ramp(T.return, T.drip - 3)) - (has('level falls') ? 0.35 * level0 : 0);
    const under = ramp(T.admit, T.soak - 2);
    if (under > 0 && min < T.return)
      filled += (under - filled) * (1 - Math.exp(-dt / (pressed > 0.5 ? PRESSED_MIN : SOAKS_MIN)));
    const shown = (x: number, size: number, digits: number) => Number((x + noise(size)).toFixed(digits));
    yield {
      s: i * stepS,
      values: [
        shown(gauge, 0.004, 3),
        Math.max(0.1, shown(abs, abs < 50 ? 0.05 : 0.6, 2)),
        Math.max(0, shown(level, level > 5 ? 1 : 0, 0)),
        shown(51 - 0.008 * min, 0.1, 1),
        shown(24, 0.1, 1),
        shown(900 - LITRE_PER_MM * Math.max(0, level), 0.5, 0),
        Math.max(0, shown(LITRE_PER_MM * Math.max(0, level), 0.5, 0)),
        has('lead comes off') ? shown(2, 0.05, 3) : shown(DRY_NF * (1 + FILLED_SHARE * filled), 0.002, 3),
        min < T.end - 2 && min > 6 ? 1 : 0,
        min < 8 || min >= T.drip ? 1 : 0,
        evacuated && !leaking && min < T.soak + 6 ? 1 : 0,
        min >= T.pressurise && min < T.hold ? 1 : 0,
        (min >= T.admit && min < T.soak) || (min >= T.return && min < T.drip) ? 1 : 0,
        evacuated && !leaking && min < T.soak + 6 ? 1 : 0,
      ],
    };
  }
}

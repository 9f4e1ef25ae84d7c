import { possibleCircuits } from '../winding/connection.ts';
import { hasFilledBelts, windingFactors } from '../winding/factors.ts';
import type { Layout } from '../winding/layoutTypes.ts';
import { layoutOf } from '../winding/layout.ts';
import { phaseVolts, type AsFound } from './asFound.ts';
import { outputAndTorque } from './torque.ts';
import type { RedesignWish } from './wish.ts';

/**
 * Exact turns of a coil for a changed winding: T₂ = T₁ (E₂/E₁)(f₁/f₂)(k_w1/k_w2)(c₂/c₁)(n_c1/n_c2)(Φ₁/Φ₂).
 * Source: flux equation (Say); docs/derivations.md 9.
 */
export function redesignTurns(x: {
  turns: number;
  emfRatio: number;
  frequencyRatio: number;
  factorRatio: number;
  circuitRatio: number;
  coilRatio: number;
  fluxRatio: number;
}): number {
  return (x.turns * x.emfRatio * x.circuitRatio) / (x.frequencyRatio * x.factorRatio * x.coilRatio * x.fluxRatio);
}

/** One combination of poles, connection, circuits, span and whole turns. */
export interface WindingChoice {
  layout: Layout;
  /** spans of the coils of a group, outermost first */
  spansSlots: number[];
  connection: 'wye' | 'delta';
  circuits: number;
  turns: number;
  exact: number;
  kw: number;
  fifth: number;
  seventh: number;
  fluxErrorPercent: number;
  /** shorter than two thirds of the pole pitch, or longer than it */
  pitchWarning: string | undefined;
}

/** Layouts that the wish allows, with the sentences that say why others are not. */
export function layoutsFor(found: AsFound, wish: RedesignWish, refusals: string[]): Layout[] {
  const { record } = found;
  const S = found.layout.slots;
  const poles = wish.poles ?? found.layout.poles;
  const layers = (wish.layers ?? record.layers) === 'single' ? 1 : 2;
  const form = wish.form ?? found.layout.form;
  const pitch = S / poles;
  const low = Math.ceil((2 / 3) * pitch - 1e-9);
  const fixed = layers === 1 && form === 'concentric';
  const spans: (number | undefined)[] = fixed
    ? [undefined]
    : wish.spanSlots !== undefined
      ? [wish.spanSlots]
      : Array.from({ length: Math.max(0, Math.floor(pitch + 1e-9) - low + 1) }, (_, i) => low + i);
  const out: Layout[] = [];
  let why = '';
  for (const spanSlots of spans) {
    try {
      const layout = layoutOf({
        slots: S,
        poles,
        layers,
        form,
        poleGroups: layers === found.layout.layers ? found.layout.poleGroups : 'every-pole',
        ...(spanSlots === undefined ? {} : { spanSlots }),
        turns: [1],
      });
      if (!layout.balance.balanced) {
        refusals.push(`${S} slots and ${poles} poles do not make three equal phases.`);
        return [];
      }
      out.push(layout);
    } catch (error) {
      why = error instanceof Error ? error.message.replace(/^\w+: /, '') : '';
    }
  }
  if (out.length === 0 && why !== '') refusals.push(why);
  return out;
}

/** Combinations of connection, circuits, span and whole turns, with what they do to the flux. */
export function* windings(found: AsFound, wish: RedesignWish, refusals: string[]): Generator<WindingChoice> {
  const volts = wish.lineVoltageV ?? found.voltageV;
  const hertz = wish.frequencyHz ?? found.frequencyHz;
  const said = new Set<string>();
  const asked = outputAndTorque(wish, { frequencyHz: found.frequencyHz, poles: found.layout.poles });
  for (const layout of layoutsFor(found, wish, refusals)) {
    const factors = windingFactors(layout, 7);
    const kw = factors[0]?.size ?? 0;
    if (kw < 0.5) continue;
    const possible = possibleCircuits(layout)
      .map((p) => p.circuits)
      .filter((c) => !found.halves || c % 2 === 0);
    const wanted = wish.circuits !== undefined ? possible.filter((c) => c === wish.circuits) : possible;
    if (wanted.length === 0)
      said.add(
        possible.length === 0
          ? `${found.record.leads} leads bring each phase out in halves; with ${layout.poles} poles no even number of circuits works.`
          : `${wish.circuits} circuits would not be equal with ${layout.poles} poles; ${possible.join(', ')} would.`,
      );
    const full = hasFilledBelts(layout);
    const pitch = layout.polePitchSlots;
    const pitchWarning = full
      ? undefined
      : layout.spanSlots > pitch + 1e-9
        ? `over-pitch: longer than the pole pitch of ${pitch.toFixed(2)} slots, copper for nothing`
        : layout.spanSlots < (2 / 3) * pitch - 1e-9
          ? 'span below two thirds of the pole pitch'
          : undefined;
    const connections = wish.connection
      ? [wish.connection]
      : found.record.leads === '6 part-winding'
        ? (['wye'] as const)
        : (['wye', 'delta'] as const);
    for (const connection of connections)
      for (const circuits of wanted) {
        const exact = redesignTurns({
          turns: found.turns,
          emfRatio: phaseVolts(connection, volts) / phaseVolts(found.connection, found.voltageV),
          frequencyRatio: hertz / found.frequencyHz,
          factorRatio: kw / found.windingFactor,
          circuitRatio: circuits / found.circuits,
          coilRatio: layout.coils.length / found.layout.coils.length,
          fluxRatio: (found.layout.poles / layout.poles) * asked.fluxRatio,
        });
        const first = layout.groups[0]?.coils.map((c) => layout.coils[c - 1]?.spanSlots ?? layout.spanSlots);
        for (const turns of new Set([Math.floor(exact + 1e-9), Math.ceil(exact - 1e-9)]))
          if (turns >= 1)
            yield {
              layout,
              spansSlots: layout.form === 'lap' ? [layout.spanSlots] : (first ?? [layout.spanSlots]),
              connection,
              circuits,
              turns,
              exact,
              kw,
              fifth: factors[4]?.size ?? 0,
              seventh: factors[6]?.size ?? 0,
              fluxErrorPercent: (exact / turns - 1) * 100,
              pitchWarning,
            };
      }
  }
  refusals.push(...said);
}

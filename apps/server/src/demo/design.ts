import {
  conductorAreaM2, fluxFigures, insulatedDiameterM, layoutOf, METRIC_R20_MM, workingFactor, type LayoutInput, type Strand,
} from '@norther/core';

/** What an invented motor is asked to be; everything else is worked out so that its figures belong together. */
export interface MotorWish {
  outputKW: number;
  volts: number | [number, number];
  hertz: 50 | 60;
  poles: number;
  slots: number;
  layers: 1 | 2;
  form: 'lap' | 'concentric';
  poleGroups?: 'every-pole' | 'consequent';
  oneToN?: number;
  connection: 'wye' | 'delta';
  circuits: number;
  leads?: '3' | '6';
  slipPercent: number;
  efficiency: number;
  powerFactor: number;
  airGapT?: number;
}

export interface DesignedMotor {
  nameplate: Record<string, string>;
  winding: Record<string, string>;
  lineVolts: number;
  lineAmps: number;
}

const t = (x: number, digits: number) => String(Number(x.toFixed(digits)));

/** Sizes core and winding by the ordinary rules (D²L, flux, current density, fill) and writes the sheet as typed in mm. */
export function designMotor(w: MotorWish): DesignedMotor {
  const synchronous = (120 * w.hertz) / w.poles;
  const speed = synchronous * (1 - w.slipPercent / 100);
  const plateVolts = Array.isArray(w.volts) ? w.volts : [w.volts];
  const lineVolts = plateVolts.length === 2 ? (w.connection === 'delta' ? Math.min(...plateVolts) : Math.max(...plateVolts)) : (plateVolts[0] as number);
  const lineAmps = (w.outputKW * 1000) / (Math.sqrt(3) * lineVolts * w.efficiency * w.powerFactor);
  // D²L from about 3 kW·min/m³, pole arc about as long as the core
  const volume = w.outputKW / (w.outputKW < 3 ? 1.6 : w.outputKW < 30 ? 2.4 : 3.2) / speed;
  const stretch = w.poles === 2 ? 1.15 : 0.9 + 0.12 * (w.poles / 4);
  const bore = Math.round(1000 * (volume / stretch) ** (1 / 3) / 5) * 5 / 1000;
  const length = Math.round((1000 * volume) / bore ** 2 / 5) * 5 / 1000;
  const layoutInput: LayoutInput = {
    slots: w.slots, poles: w.poles, layers: w.layers, form: w.form, poleGroups: w.poleGroups ?? 'every-pole', turns: [1], ...(w.oneToN === undefined ? {} : { spanSlots: w.oneToN - 1 }),
  };
  const layout = layoutOf(layoutInput);
  const kw = workingFactor(layout);
  const target = w.airGapT ?? 0.82;
  const flux = (2 * target * bore * length) / w.poles;
  const phaseVolts = w.connection === 'wye' ? lineVolts / Math.sqrt(3) : lineVolts;
  const seriesTurns = phaseVolts / (4.44288 * w.hertz * kw * flux);
  const turns = Math.max(1, Math.round((seriesTurns * 3 * w.circuits) / layout.coils.length));
  const made = (turns * layout.coils.length) / (3 * w.circuits);
  const first = fluxFigures({ lineVoltageV: lineVolts, frequencyHz: w.hertz, connection: w.connection, seriesTurns: made, windingFactor: kw, poles: w.poles, boreM: bore, coreLengthM: length });
  const tooth = (first.airGapT * Math.PI * bore) / (w.slots * 0.95 * 1.66);
  const backIron = first.fluxWb / (2 * 0.95 * length * 1.42);
  const circuitAmps = (w.connection === 'wye' ? lineAmps : lineAmps / Math.sqrt(3)) / w.circuits;
  const strands = chooseStrands(circuitAmps / 5.4);
  const perSlot = layout.layers * turns;
  const squares = perSlot * strands.reduce((s, x) => s + x.count * insulatedDiameterM(x.bareM, 2) ** 2, 0);
  const net = squares / 0.73;
  const gross = net * 1.17;
  let depth = 0.015;
  for (let i = 0; i < 30; i++) depth = gross / Math.max(0.002, (Math.PI * (bore + depth)) / w.slots - tooth);
  const outer = bore + 2 * (depth + backIron);
  const spans = layout.coils.filter((c) => c.group === layout.groups[0]?.number).map((c) => `1-${c.spanSlots + 1}`);
  const uneven = new Set(layout.groups.map((g) => g.coils.length)).size > 1;
  const wires = strands.map((s) => `${s.count}x${s.label}`).join(' + ');
  const ends = w.leads === '6' ? w.circuits : w.connection === 'wye' ? w.circuits : 2 * w.circuits;
  const inHand = strands.reduce((n, s) => n + s.count, 0);
  const largest = Math.max(...strands.map((s) => insulatedDiameterM(s.bareM, 2))) * 1000;
  return {
    lineVolts,
    lineAmps,
    nameplate: {
      outputW: `${w.outputKW} kW`, voltagesV: plateVolts.join('/'),
      currentsA: plateVolts.map((v) => t((w.outputKW * 1000) / (Math.sqrt(3) * v * w.efficiency * w.powerFactor), lineAmps < 10 ? 2 : 1)).join('/'),
      frequencyHz: String(w.hertz), speedRpm: t(speed, 0), phases: '3', plateConnection: w.leads === '6' ? 'Δ/Y' : w.connection === 'wye' ? 'Y' : 'Δ', insulationClass: 'F', duty: 'S1', serviceFactor: '1', ambientC: '40',
      enclosure: 'IP 55', efficiencyPercent: t(100 * w.efficiency, 1), powerFactor: t(w.powerFactor, 2),
    },
    winding: {
      slots: String(w.slots), poles: String(w.poles), layers: w.layers === 2 ? 'double' : 'single', form: w.form, poleGroups: w.poleGroups ?? 'every-pole', coilCount: String(layout.coils.length), groupCount: String(layout.groups.length),
      grouping: uneven ? layout.groups.map((g) => g.coils.length).join('-') : `${layout.groups.length}x${layout.groups[0]?.coils.length ?? 0}`,
      spansSlots: w.form === 'lap' ? (spans[0] ?? '') : spans.join(', '), turns: String(turns), turnsSecondCount: String(turns), strands: wires, wireGrade: '2', material: 'copper', connection: w.connection, circuits: String(w.circuits),
      leads: w.leads ?? '3', jumper: 'adjacent-pole', leadOneGroup: '1', endsPerLead: String(ends), wireTipsPerLead: String(ends * inHand), starPoints: w.leads === '6' || w.connection === 'delta' ? '0' : '1',
      ...(w.leads !== '6' && w.connection === 'wye' ? { endsPerStar: String(3 * w.circuits) } : {}),
      boreM: t(bore * 1000, 1), coreLengthM: t(length * 1000, 1), coreOuterM: t(outer * 1000, 1), backIronM: t(backIron * 1000, 1), toothWidthM: t(tooth * 1000, 2), slotDepthM: t(depth * 1000, 1), slotOpeningM: t(Math.max(2.2, largest + 1.2), 1),
      slotAreaM2: t(gross * 1e6, 0), slotNetAreaM2: t(net * 1e6, 0), airGapM: t(Math.max(0.3, 0.2 + bore * 2.2), 2), extensionConnectionEndM: t(30 + bore * 160, 0), extensionOppositeEndM: t(26 + bore * 150, 0),
      leadExit: '3 o\'clock', connectionSide: 'opposite end', linerM: '0.3', separatorM: '0.3', wedge: 'glass-epoxy, 1.5 mm', phasePaper: 'polyester-film laminate 0.25 mm',
    },
  };
}

function chooseStrands(areaMm2: number): Strand[] {
  const sizes = METRIC_R20_MM.filter((d) => d >= 0.4 && d <= 1.32);
  let best: { strands: Strand[]; error: number } | undefined;
  for (let count = 1; count <= 24; count++) {
    if (count === 13) continue;
    for (const d of sizes) {
      const area = conductorAreaM2([{ count, bareM: d / 1000, label: '' }]) * 1e6;
      const error = Math.abs(area / areaMm2 - 1) + 0.004 * count;
      if (!best || error < best.error) best = { strands: [{ count, bareM: d / 1000, label: String(d) }], error };
    }
  }
  return best?.strands ?? [];
}


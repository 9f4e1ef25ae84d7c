import {
  assumedLapEnd, mixedGroup, sayPairs, assumedRoundEnd, chordM, magnetFluxWb,  conductorAreaM2, fluxFigures, fullestSlot, gradedSpans, insulatedDiameterM, layoutOf, METRIC_DEFAULTS, METRIC_R20_MM, readWindingRecord, sinusoidalTurns, windingRotorVoltage, workingFactor, type LayoutInput, type Strand,
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
  /** a single layer read off coil by coil: one repeat */
  coilList?: [number, number][];
  /** mixed layers with the slot contents of the lap `oneToN` */
  mixed?: true;
  connection: 'wye' | 'delta';
  circuits: number;
  /** for nine and twelve leads and two speeds: circuits of each half */
  leads?: '3' | '6' | '9' | '12';
  kind?: 'three-phase' | 'two-speed';
  duty?: 'constant torque' | 'variable torque' | 'constant power';
  rotorBars?: number;
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
  const halves = w.leads === '9' || w.leads === '12';
  const running = halves ? 2 * w.circuits : w.circuits;
  // a two-speed plate is read at its high speed, half the poles
  const synchronous = (120 * w.hertz) / (w.kind === 'two-speed' ? w.poles / 2 : w.poles);
  const speed = synchronous * (1 - w.slipPercent / 100);
  const plateVolts = Array.isArray(w.volts) ? w.volts : [w.volts];
  const lineVolts = plateVolts.length === 2 ? (halves ? Math.min(...plateVolts) : w.connection === 'delta' ? Math.min(...plateVolts) : Math.max(...plateVolts)) : (plateVolts[0] as number);
  const highAmps = (w.outputKW * 1000) / (Math.sqrt(3) * lineVolts * w.efficiency * w.powerFactor);
  // half the output at the low speed, with a poorer power factor
  const lineAmps = w.kind === 'two-speed' ? 0.62 * highAmps : highAmps;
  // D²L from about 3 kW·min/m³, pole arc about as long as the core
  const volume = (w.kind === 'two-speed' ? 1.5 : 1) * w.outputKW / (w.outputKW < 3 ? 1.6 : w.outputKW < 30 ? 2.4 : 3.2) / speed;
  const stretch = w.poles === 2 ? 1.15 : 0.9 + 0.12 * (w.poles / 4);
  const bore = Math.round(1000 * (volume / stretch) ** (1 / 3) / 5) * 5 / 1000;
  const length = Math.round((1000 * volume) / bore ** 2 / 5) * 5 / 1000;
  const group = w.mixed ? mixedGroup({ slots: w.slots, poles: w.poles, spanSlots: (w.oneToN ?? 2) - 1, turns: 1 }) : undefined;
  const layoutInput: LayoutInput = {
    slots: w.slots, poles: w.poles, layers: w.layers, form: w.form, poleGroups: w.poleGroups ?? 'every-pole', kind: w.kind ?? 'three-phase', turns: [1], ...(w.oneToN === undefined ? {} : { spanSlots: w.oneToN - 1 }),
    ...(w.coilList ? { coilList: w.coilList } : {}),
    ...(group ? { spansSlots: group.map((g) => g.spanSlots), sideKinds: group.map((g) => g.side), turns: group.map((g) => g.turns) } : {}),
  };
  const layout = layoutOf(layoutInput);
  const kw = workingFactor(layout);
  const target = w.airGapT ?? 0.82;
  const flux = (2 * target * bore * length) / w.poles;
  const phaseVolts = w.connection === 'wye' ? lineVolts / Math.sqrt(3) : lineVolts;
  const seriesTurns = phaseVolts / (4.44288 * w.hertz * kw * flux);
  const units = layout.coils.reduce((n, c) => n + c.turns, 0);
  const turns = Math.max(1, Math.round((seriesTurns * 3 * running) / units));
  const made = (turns * units) / (3 * running);
  const first = fluxFigures({ lineVoltageV: lineVolts, frequencyHz: w.hertz, connection: w.connection, seriesTurns: made, windingFactor: kw, poles: w.poles, boreM: bore, coreLengthM: length });
  const tooth = (first.airGapT * Math.PI * bore) / (w.slots * 0.95 * 1.66);
  const backIron = first.fluxWb / (2 * 0.95 * length * 1.42);
  const circuitAmps = (w.connection === 'wye' ? lineAmps : lineAmps / Math.sqrt(3)) / running;
  const strands = chooseStrands(circuitAmps / 5.4);
  const perSlot = fullestSlot(layout).main * turns;
  const squares = perSlot * strands.reduce((s, x) => s + x.count * insulatedDiameterM(x.bareM, 2) ** 2, 0);
  const net = squares / 0.73;
  const gross = net * 1.17;
  let depth = 0.015;
  for (let i = 0; i < 30; i++) depth = gross / Math.max(0.002, (Math.PI * (bore + depth)) / w.slots - tooth);
  const outer = bore + 2 * (depth + backIron);
  const spans = layout.coils.filter((c) => c.group === layout.groups[0]?.number).map((c) => `1-${c.spanSlots + 1}`);
  const uneven = new Set(layout.groups.map((g) => g.coils.length)).size > 1;
  const wires = strands.map((s) => `${s.count}x${s.label}`).join(' + ');
  const ends = w.leads === '6' || w.leads === '12' || (w.leads === '9' && w.connection === 'wye') ? w.circuits : w.connection === 'wye' ? w.circuits : 2 * w.circuits;
  const inHand = strands.reduce((n, s) => n + s.count, 0);
  const largest = Math.max(...strands.map((s) => insulatedDiameterM(s.bareM, 2))) * 1000;
  return {
    lineVolts,
    lineAmps,
    nameplate: {
      outputW: `${w.outputKW} kW`, voltagesV: plateVolts.join('/'),
      currentsA: w.kind === 'two-speed' ? `${t(lineAmps, 1)}/${t(highAmps, 1)}` : plateVolts.map((v) => t((w.outputKW * 1000) / (Math.sqrt(3) * v * w.efficiency * w.powerFactor), lineAmps < 10 ? 2 : 1)).join('/'),
      frequencyHz: String(w.hertz), speedRpm: t(speed, 0), phases: '3', plateConnection: w.leads === '6' ? 'Δ/Y' : w.connection === 'wye' ? 'Y' : 'Δ', insulationClass: 'F', duty: 'S1', serviceFactor: '1', ambientC: '40',
      enclosure: 'IP 55', efficiencyPercent: t(100 * w.efficiency, 1), powerFactor: t(w.powerFactor, 2),
    },
    winding: {
      kind: w.kind ?? 'three-phase', ...(w.kind === 'two-speed' ? { duty: w.duty ?? 'constant torque' } : {}), ...(w.rotorBars ? { rotorBars: String(w.rotorBars) } : {}),
      slots: String(w.slots), poles: String(w.poles), layers: group ? 'mixed' : w.layers === 2 ? 'double' : 'single', ...(w.coilList ? { coilList: sayPairs(w.coilList) } : { form: layout.form }), ...(group ? { sideKinds: group.map((g) => g.side).join(', ') } : {}), poleGroups: w.poleGroups ?? 'every-pole', coilCount: String(layout.coils.length), groupCount: String(layout.groups.length),
      grouping: uneven ? layout.groups.map((g) => g.coils.length).join('-') : `${layout.groups.length}x${layout.groups[0]?.coils.length ?? 0}`,
      ...(w.coilList ? {} : { spansSlots: layout.form === 'lap' ? (spans[0] ?? '') : spans.join(', ') }), turns: group ? group.map((g) => g.turns * turns).join(', ') : String(turns), turnsSecondCount: group ? group.map((g) => g.turns * turns).join(', ') : String(turns), strands: wires, wireGrade: '2', material: 'copper', connection: w.connection, circuits: String(w.circuits),
      leads: w.leads ?? '3', jumper: 'adjacent-pole', leadOneGroup: '1', endsPerLead: String(ends), wireTipsPerLead: String(ends * inHand), starPoints: w.leads === '6' || w.leads === '12' || w.connection === 'delta' ? '0' : '1',
      ...(w.leads !== '6' && w.leads !== '12' && w.connection === 'wye' ? { endsPerStar: String(3 * w.circuits) } : {}),
      boreM: t(bore * 1000, 1), coreLengthM: t(length * 1000, 1), coreOuterM: t(outer * 1000, 1), backIronM: t(backIron * 1000, 1), toothWidthM: t(tooth * 1000, 2), slotDepthM: t(depth * 1000, 1), slotOpeningM: t(Math.max(2.2, largest + 1.2), 1),
      slotAreaM2: t(gross * 1e6, 0), slotNetAreaM2: t(net * 1e6, 0), airGapM: t(Math.max(0.3, 0.2 + bore * 2.2), 2), ...projections(layout.form, Math.max(...layout.coils.map((c) => c.spanSlots)), bore, depth, w.slots),
      leadExit: '3 o\'clock', connectionSide: 'opposite end', linerM: '0.3', separatorM: '0.3', wedge: 'glass-epoxy, 1.5 mm', phasePaper: 'polyester-film laminate 0.25 mm',
    },
  };
}

/** How far end turns of the ordinary shape stand out, a little more at the connection end, mm. */
function projections(form: 'lap' | 'concentric', span: number, bore: number, depth: number, slots: number) {
  const tau = chordM(bore, depth, span, slots);
  const out = form === 'lap' ? assumedLapEnd(tau).projectionM : assumedRoundEnd(tau, 0.012).projectionM;
  return { extensionConnectionEndM: t(1030 * out, 0), extensionOppositeEndM: t(985 * out, 0) };
}

/** An invented capacitor-run motor: main and auxiliary graded by the sine, sizes by the ordinary rules. */
export function designSinglePhase(w: { outputKW: number; volts: number; hertz: 50 | 60; poles: number; slots: number; coils: number; slipPercent: number; efficiency: number; powerFactor: number; capacitorUF: number; ratio: number }): DesignedMotor {
  const pitch = w.slots / w.poles;
  const synchronous = (120 * w.hertz) / w.poles;
  const speed = synchronous * (1 - w.slipPercent / 100);
  const lineAmps = (w.outputKW * 1000) / (w.volts * w.efficiency * w.powerFactor);
  const volume = w.outputKW / 1.1 / speed;
  const bore = Math.round(1000 * (volume / 0.85) ** (1 / 3) / 5) * 5 / 1000;
  const length = Math.round((1000 * volume) / bore ** 2 / 5) * 5 / 1000;
  const mainSpans = gradedSpans(pitch, w.coils, false);
  // an odd pole pitch puts the auxiliary half a pole on with spans of the other kind
  const auxSpans = pitch % 2 === 1 ? gradedSpans(pitch, w.coils - 1, true) : mainSpans.slice(0, w.coils - 1);
  const factor = sinusoidalTurns(pitch, mainSpans, 1000).factor;
  const flux = (2 * 0.72 * bore * length) / w.poles;
  const perPole = Math.round(w.volts / (4.44288 * w.hertz * factor * flux) / w.poles);
  const main = sinusoidalTurns(pitch, mainSpans, perPole);
  const aux = sinusoidalTurns(pitch, auxSpans, Math.round((perPole * factor * w.ratio) / sinusoidalTurns(pitch, auxSpans, 1000).factor));
  const wire = chooseStrands(lineAmps / 5.6);
  const thin = chooseStrands((lineAmps * 0.45) / 5.6);
  const said = (list: Strand[]) => list.map((s) => `${s.count}x${s.label}`).join(' + ');
  const squares = (list: Strand[]) => list.reduce((s, x) => s + x.count * insulatedDiameterM(x.bareM, 2) ** 2, 0);
  const layout = layoutOf({ kind: 'single-phase', slots: w.slots, poles: w.poles, layers: 2, form: 'concentric', poleGroups: 'every-pole', spansSlots: mainSpans, turns: main.coils.map((c) => c.turns), auxiliary: { spansSlots: auxSpans, turns: aux.coils.map((c) => c.turns) } });
  const full = fullestSlot(layout);
  const net = (full.main * squares(wire) + full.aux * squares(thin)) / 0.72;
  const tooth = (0.72 * Math.PI * bore) / (w.slots * 0.95 * 1.6);
  const backIron = flux / (2 * 0.95 * length * 1.35);
  let depth = 0.012;
  for (let i = 0; i < 30; i++) depth = (net * 1.17) / Math.max(0.002, (Math.PI * (bore + depth)) / w.slots - tooth);
  const spansOf = (spans: readonly number[]) => spans.map((y) => `1-${y + 1}`).join(', ');
  const turnsOf = (coils: readonly { turns: number }[]) => coils.map((c) => c.turns).join(', ');
  const largest = Math.max(...wire.map((s) => insulatedDiameterM(s.bareM, 2))) * 1000;
  return {
    lineVolts: w.volts,
    lineAmps,
    nameplate: {
      outputW: `${w.outputKW} kW`, voltagesV: String(w.volts), currentsA: t(lineAmps, 1), frequencyHz: String(w.hertz), speedRpm: t(speed, 0), phases: '1', plateConnection: 'run capacitor', insulationClass: 'F', duty: 'S1', ambientC: '40', enclosure: 'IP 55', efficiencyPercent: t(100 * w.efficiency, 1), powerFactor: t(w.powerFactor, 2),
    },
    winding: {
      kind: 'single-phase', slots: String(w.slots), poles: String(w.poles), poleGroups: 'every-pole', groupCount: String(2 * w.poles), spansSlots: spansOf(mainSpans), turns: turnsOf(main.coils), turnsSecondCount: turnsOf(main.coils), strands: said(wire), wireGrade: '2', material: 'copper', circuits: '1', jumper: 'adjacent-pole',
      auxKind: 'capacitor run', auxSpansSlots: spansOf(auxSpans), auxTurns: turnsOf(aux.coils), auxStrands: said(thin), capacitorF: String(w.capacitorUF), auxCapacitorV: '450',
      boreM: t(bore * 1000, 1), coreLengthM: t(length * 1000, 1), coreOuterM: t((bore + 2 * (depth + backIron)) * 1000, 1), backIronM: t(backIron * 1000, 1), toothWidthM: t(tooth * 1000, 2), slotDepthM: t(depth * 1000, 1), slotOpeningM: t(Math.max(2.2, largest + 1.2), 1), slotAreaM2: t(net * 1.17 * 1e6, 0), slotNetAreaM2: t(net * 1e6, 0), airGapM: '0.35',
      ...projections('concentric', Math.max(...mainSpans), bore, depth, w.slots), leadExit: '12 o\'clock', connectionSide: 'opposite end', linerM: '0.25', wedge: 'paper topstick',
    },
  };
}

/** An invented magnet machine with a coil round each tooth, for a drive: its sizes from the flux of its EMF. */
export function designMagnets(w: { outputKW: number; amps: number; rpm: number; emfPer1000: number; poles: number; slots: number; turns: number; wire: string; circuits: number; connection: 'wye' | 'delta' }): DesignedMotor {
  const ke = (w.emfPer1000 * 60) / (2 * Math.PI * 1000);
  const seriesTurns = (w.slots * w.turns) / (3 * w.circuits);
  const flux = magnetFluxWb({ emfConstantVs: ke, connection: w.connection, poles: w.poles, seriesTurns, windingFactor: 0.933 });
  const bore = 0.09;
  const length = Math.round((1000 * flux * w.poles) / (2 * bore * 0.62)) / 1000;
  const ironM = 0.95 * length;
  const tooth = Math.round((10_000 * flux * Math.sin((Math.PI / 2) * (w.poles / w.slots))) / (1.45 * ironM)) / 10_000;
  const depth = 0.024;
  const backIron = Math.round((1000 * flux) / (2 * 1.2 * ironM)) / 1000;
  const over = insulatedDiameterM(Number(w.wire) / 1000, 2);
  const net = (2 * w.turns * over ** 2) / 0.62;
  return {
    lineVolts: 330,
    lineAmps: w.amps,
    nameplate: {
      outputW: `${w.outputKW} kW`, voltagesV: '330', currentsA: t(w.amps, 1), frequencyHz: t((w.poles * w.rpm) / 120, 0), speedRpm: String(w.rpm), poles: String(w.poles), phases: '3', plateConnection: w.connection === 'wye' ? 'Y' : 'Δ', insulationClass: 'F', duty: 'S1', ambientC: '40', enclosure: 'IP 65', machine: 'permanent magnet', emfConstantVs: String(w.emfPer1000), emfMeasured: 'line, rms', magnetC: '22',
    },
    winding: {
      kind: 'tooth-coil', slots: String(w.slots), poles: String(w.poles), layers: 'double', coilCount: String(w.slots), turns: String(w.turns), turnsSecondCount: String(w.turns), strands: `2x${w.wire}`, wireGrade: '2', material: 'copper', connection: w.connection, circuits: String(w.circuits), leads: '3',
      boreM: t(bore * 1000, 1), coreLengthM: t(length * 1000, 1), coreOuterM: t((bore + 2 * (depth + backIron)) * 1000, 1), backIronM: t(backIron * 1000, 1), toothWidthM: t(tooth * 1000, 2), slotDepthM: t(depth * 1000, 1), slotOpeningM: '2.8', slotAreaM2: t(2 * net * 1.2 * 1e6, 0), slotNetAreaM2: t(2 * net * 1e6, 0), airGapM: '0.9',
      toothInsulationSideM: '0.6', toothInsulationEndM: '1.8', bobbinRadiusM: '1.5', windingHeightM: '19', coilGapM: '1', extensionConnectionEndM: '9', extensionOppositeEndM: '8.5', leadExit: '3 o\'clock', connectionSide: 'opposite end', linerM: '0.25', wedge: 'none', phasePaper: 'polyester-film laminate 0.25 mm',
    },
  };
}

/** An invented pump motor with form-wound coils of strip: turns from the flux, slot from the build-up. */
export function designFormWound(w: { outputKW: number; volts: number; hertz: 50 | 60; poles: number; slots: number; oneToN: number; boreM: number; lengthM: number; strip: [number, number]; high: number; airGapT: number; efficiency: number; powerFactor: number; slipPercent: number }): DesignedMotor {
  const lineAmps = (w.outputKW * 1000) / (Math.sqrt(3) * w.volts * w.efficiency * w.powerFactor);
  const layout = layoutOf({ slots: w.slots, poles: w.poles, layers: 2, form: 'lap', poleGroups: 'every-pole', spanSlots: w.oneToN - 1, turns: [1] });
  const flux = (2 * w.airGapT * w.boreM * w.lengthM) / w.poles;
  const turns = Math.round(((w.volts / Math.sqrt(3)) / (4.44288 * w.hertz * workingFactor(layout) * flux)) / (w.slots / 3));
  const [thick, wide] = w.strip;
  const wall = 1.45;
  const turnWidth = wide + 0.15 + 2 * 0.16;
  const turnHeight = w.high * (thick + 0.15) + 2 * 0.16;
  const coilHeight = turns * turnHeight + 2 * wall;
  const slotWidth = turnWidth + 2 * wall + 0.4;
  const slotDepth = 2 * coilHeight + 2 + 1 + 1 + 4 + 0.9;
  const tooth = (Math.PI * w.boreM * 1000) / w.slots - slotWidth;
  const backIron = (1000 * flux) / (2 * 0.95 * w.lengthM * 1.35);
  return {
    lineVolts: w.volts,
    lineAmps,
    nameplate: {
      outputW: `${w.outputKW} kW`, voltagesV: String(w.volts), currentsA: t(lineAmps, 1), frequencyHz: String(w.hertz), speedRpm: t(((120 * w.hertz) / w.poles) * (1 - w.slipPercent / 100), 0), phases: '3', plateConnection: 'Y', insulationClass: 'F', duty: 'S1', ambientC: '40', enclosure: 'IP 55', efficiencyPercent: t(100 * w.efficiency, 1), powerFactor: t(w.powerFactor, 2),
    },
    winding: {
      kind: 'form-wound', slots: String(w.slots), poles: String(w.poles), coilCount: String(w.slots), groupCount: String(3 * w.poles), grouping: `${3 * w.poles}x${w.slots / (3 * w.poles)}`, spansSlots: `1-${w.oneToN}`, turns: String(turns), turnsSecondCount: String(turns), material: 'copper', connection: 'wye', circuits: '1', leads: '3', jumper: 'adjacent-pole',
      stripThicknessM: String(thick), stripWidthM: String(wide), stripsWide: '1', stripsHigh: String(w.high), strandBuildM: '0.15', turnTapeM: '0.16', groundWallM: String(wall), slotWidthM: t(slotWidth, 2), slotDepthM: t(slotDepth, 2), separatorM: '2', bottomStripM: '1', topStripM: '1', wedgeDepthM: '4', coilStraightM: '32', knucklePinM: '15', coilGapM: '3',
      boreM: t(w.boreM * 1000, 1), coreLengthM: t(w.lengthM * 1000, 1), coreOuterM: t(w.boreM * 1000 + 2 * (slotDepth + backIron), 0), backIronM: t(backIron, 1), toothWidthM: t(tooth, 2), slotOpeningM: t(slotWidth, 2), airGapM: '1.2', leadExit: '3 o\'clock', connectionSide: 'opposite end', wedge: 'glass-epoxy', rotorBars: '74',
    },
  };
}

/** The rotor winding of a slip-ring motor: its turns from a wanted ring voltage, in a core that fits the stator's bore. */
export function designRotor(stator: DesignedMotor, w: { poles: number; slots: number; oneToN: number; ringVolts: number; outputKW: number; bars?: true }): { plate: Record<string, string>; winding: Record<string, string> } {
  const record = readWindingRecord(stator.winding, METRIC_DEFAULTS).record;
  const plate = { voltagesV: [stator.lineVolts] };
  const layout = layoutOf({ slots: w.slots, poles: w.poles, layers: 2, form: 'lap', poleGroups: 'every-pole', spanSlots: w.oneToN - 1, turns: [1] });
  const one = windingRotorVoltage.compute({ stator: record, rotor: { kind: 'three-phase', slots: w.slots, poles: w.poles, layers: 'double', form: 'lap', spansSlots: [w.oneToN - 1], turns: [1], circuits: 1, connection: 'wye' }, nameplate: plate, limits: {} });
  const turns = w.bars ? 1 : Math.max(1, Math.round(w.ringVolts / one.openCircuitV));
  const volts = Math.round(one.openCircuitV * turns);
  const amps = (w.outputKW * 1000 * 1.05) / (Math.sqrt(3) * volts);
  const strands = chooseStrands(amps / 5.2);
  const outside = (record.boreM ?? 0.2) - 2 * (record.airGapM ?? 0.0006);
  if (w.bars) {
    const width = Math.max(2, Math.round(2 * 0.33 * ((Math.PI * outside * 1000) / w.slots)) / 2);
    return {
      plate: { rotorVoltageV: String(volts), rotorCurrentA: t(amps, 1) },
      winding: {
        kind: 'bar-rotor', slots: String(w.slots), poles: String(w.poles), barsPerSlot: '2', barWidthM: String(width), barHeightM: t(amps / 5.2 / width, 1), farPitchSlots: String(w.oneToN - 1), connection: 'wye', circuits: '1', leads: '3',
        boreM: t(outside * 1000, 1), coreLengthM: stator.winding['coreLengthM'] ?? '', slotDepthM: t((2 * amps) / 5.2 / width + 5, 1), slotOpeningM: '2.5', linerM: '0.4', separatorM: '0.4', leadExit: 'through the shaft', connectionSide: 'opposite end', wedge: 'glass-epoxy',
      },
    };
  }
  const tooth = (0.85 * Math.PI * outside) / (w.slots * 0.95 * 1.62);
  const net = (2 * turns * strands.reduce((s, x) => s + x.count * insulatedDiameterM(x.bareM, 2) ** 2, 0)) / 0.72;
  const depth = (net * 1.17) / Math.max(0.0015, (Math.PI * outside) / w.slots - tooth) * 1.1;
  const largest = Math.max(...strands.map((s) => insulatedDiameterM(s.bareM, 2))) * 1000;
  return {
    plate: { rotorVoltageV: String(volts), rotorCurrentA: t(amps, 1) },
    winding: {
      slots: String(w.slots), poles: String(w.poles), layers: 'double', form: 'lap', poleGroups: 'every-pole', coilCount: String(w.slots), groupCount: String(layout.groups.length), grouping: `${layout.groups.length}x${w.slots / layout.groups.length}`, spansSlots: `1-${w.oneToN}`, turns: String(turns), turnsSecondCount: String(turns),
      strands: strands.map((s) => `${s.count}x${s.label}`).join(' + '), wireGrade: '2', material: 'copper', connection: 'wye', circuits: '1', leads: '3', jumper: 'adjacent-pole', endsPerLead: '1', starPoints: '1', endsPerStar: '3',
      boreM: t(outside * 1000, 1), coreLengthM: stator.winding['coreLengthM'] ?? '', toothWidthM: t(tooth * 1000, 2), slotDepthM: t(depth * 1000, 1), slotOpeningM: t(Math.max(2, largest + 1.2), 1), slotAreaM2: t(net * 1.17 * 1e6, 0), slotNetAreaM2: t(net * 1e6, 0), leadExit: 'to the slip rings', connectionSide: 'opposite end', linerM: '0.3', wedge: 'glass-epoxy, 1.5 mm',
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


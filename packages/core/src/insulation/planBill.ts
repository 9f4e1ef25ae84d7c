import { sentenceOfIssue } from '../problems.ts';
import { limit, type ShopLimits } from '../limits/limits.ts';
import { readForm, type ReadingDefaults, type Typed } from '../quantity/fields.ts';
import type { Nameplate } from '../machine/nameplate.ts';
import type { Strand } from '../wire/strands.ts';
import type { Connection } from '../winding/connection.ts';
import { connectionOfRecord } from '../winding/connectionOfRecord.ts';
import { CONDUCTORS, enamelShare } from '../winding/copper.ts';
import { windingFigures } from '../winding/figures.ts';
import { inHalves, ratingOf } from '../winding/recordLayout.ts';
import type { Layout } from '../winding/layoutTypes.ts';
import type { WindingRecord } from '../winding/record.ts';
import { BILL_FIELDS, FIELD_OF_USE } from './billFields.ts';
import { cutLine, wireLines, type BillLine } from './billLines.ts';
import { billFigures, billInputSchema, type BillFigures, type BillInput } from './bill.ts';
import { phaseBoundaries, phasePaperSize, separatorSize, usualExtensionM } from './cutSizes.ts';
import { jointList } from '../network/jointList.ts';
import { jointMaterial } from './jointMaterials.ts';
import { brazeMassKg, bundleDiameterM, lacingCordM, sleeveBoreM } from './ends.ts';
import { LEAD_SHARES, leadSize, type LeadSize, type LeadUse } from './leadSize.ts';
import type { BillUse, ShopMaterial } from './materials.ts';
import { withWaste } from './nesting.ts';
import { classTemperatureC, sayClass, systemClass, type SystemClass, type SystemMember } from './thermalClass.ts';

/** What a bill takes from the shop. */
export interface BillShop {
  materials: readonly ShopMaterial[];
  defaults: ReadingDefaults;
  limits?: ShopLimits | undefined;
  /** class of the enamel as the lots in stock state it; what is typed comes first */
  enamelClass?: EnamelClass | undefined;
}

/** Class of the enamel of one wire, °C. */
export type EnamelClass = (bareM: number, grade: 1 | 2, material: 'copper' | 'aluminium') => number | undefined;

/** A bill as the store and its lists take it, of whatever is wound. */
export interface StockBill {
  lines: BillLine[];
  system: SystemClass;
  wantedClassC: number | undefined;
  warnings: string[];
  lead: LeadSize | undefined;
}
/** Of round wire: with what was counted and measured for it. */
export interface PlanBill extends StockBill {
  input: BillInput;
  figures: BillFigures;
}

export type PlanBillResult =
  { bill: PlanBill; problems: [] } | { bill?: undefined; problems: { field: string; message: string }[] };

export function leadUse(record: Pick<WindingRecord, 'connection' | 'leads'>): LeadUse {
  const wye = record.connection !== 'delta';
  switch (record.leads) {
    case '6':
      return wye ? '6 leads wye' : '6 leads delta';
    case '6 part-winding':
      return '6 leads part-winding';
    case '9':
      return wye ? '9 leads wye low' : '9 leads delta low';
    case '12':
      return '12 leads delta low';
    default:
      return '3 leads';
  }
}

/** Shaft height in mm from a metric frame name ("132M" -> 132). */
const shaftHeight = (frame: string | undefined): number | undefined => {
  const found = /^(\d{2,3})/.exec(frame?.trim() ?? '');
  return found ? Number(found[1]) : undefined;
};

/** Ends of groups that meet in the fullest joint. */
const fullestJoint = (connection: Connection): number => Math.max(2, ...connection.nodes.map((n) => n.ends.length));

/**
 * The bill of one winding: what is cut, how it lies on sheet or roll, what is drawn from stock, and the class of the
 * system. Refuses with the fields that are missing.
 * @param typed what the person altered, by field of BILL_FIELDS
 */
export function billOfRecord(
  record: WindingRecord,
  nameplate: Nameplate,
  typed: Typed,
  shop: BillShop,
): PlanBillResult {
  const { materials, defaults, limits = {}, enamelClass = () => undefined } = shop;
  const reading = readForm(BILL_FIELDS, typed, defaults);
  if (reading.problems.length > 0)
    return { problems: reading.problems.map((p) => ({ field: p.field, message: p.message })) };
  const v = reading.values as Record<string, number | string | undefined>;
  const num = (name: string, otherwise: number): number => (v[name] as number | undefined) ?? otherwise;
  const made = connectionOfRecord(record);
  const figures = windingFigures.compute(windingFigures.input.parse({ record, nameplate }));
  const missing: [string, string][] = [];
  const want = <T>(field: string, label: string, value: T | undefined): T => {
    if (value === undefined) missing.push([field, label]);
    return value as T;
  };
  const slots = want('slots', 'slots', record.slots);
  const depthM = want('slotDepthM', 'slot depth', record.slotDepthM);
  const coreLengthM = want('coreLengthM', 'core length', record.coreLengthM);
  const boreM = want('boreM', 'bore', record.boreM);
  const strands = want('strands', 'wires in hand', record.strands?.length ? record.strands : undefined) as Strand[];
  const meanTurnM = want('copperKg', 'copper weighed, a sample coil or the core’s sizes', figures.meanTurnM);
  want('turns', 'turns', record.turns);
  const layout = made.layout as Layout;
  const connection = made.connection as Connection;
  if (!made.connection) missing.push(['connection', made.why]);
  if (missing.length > 0)
    return { problems: missing.map(([field, label]) => ({ field, message: `The bill needs the record's ${label}.` })) };

  const geometry = slotWidths(record, boreM, depthM, slots);
  const bottom = (v['slotBottom'] as 'flat' | 'round' | undefined) ?? 'flat';
  const topWidthM = num('slotTopWidth', geometry.top);
  const bottomWidthM = num('slotBottomWidth', geometry.bottom);
  const height = shaftHeight(nameplate.frame);
  const extensionM = num('extension', usualExtensionM(height ?? 132));
  const grade = record.wireGrade === '1' ? 1 : 2;
  const halves = inHalves(record) && record.kind !== 'single-phase' ? 2 : 1;
  const leadNodes = connection.nodes.filter((n) => n.kind === 'lead').length;
  const papers = v['papers'] === 'one' ? 1 : 2;
  // main and auxiliary of a single-phase winding lie as groups of two phases round the bore
  const orderRound = [...layout.groups].sort((a, b) => firstSlot(layout, a.coils) - firstSlot(layout, b.coils));
  const totalTurns = layout.coils.reduce(
    (n, c) => n + (layout.kind === 'single-phase' && c.phase === 'B' ? 0 : c.turns),
    0,
  );
  const read = billInputSchema.safeParse({
    slots,
    layers: layout.layers,
    ...(layout.from === 'mixed layers'
      ? { coils: layout.coils.length, slotsOfTwo: layout.sides.filter((side) => side.layer === 'top').length }
      : {}),
    groups: layout.groups.length,
    phases: layout.phases.length,
    circuits: connection.circuitsPerPhase,
    halves,
    leads: leadNodes,
    internalStars: connection.nodes.filter((n) => n.kind === 'star').length,
    phaseBoundaries: phaseBoundaries(orderRound.map((g) => g.phase)),
    papersPerBoundary: papers,
    totalTurns,
    strands: strands.map((s) => ({ ...s })),
    material: record.material ?? 'copper',
    meanTurnM,
    groupTailM: num('groupTail', 0.18),
    enamelShare: enamelShare(strands, grade, CONDUCTORS[record.material ?? 'copper'].densityKgM3),
    wireWaste: num('wireWaste', 5) / 100,
    sheetWaste: num('sheetWaste', 5) / 100,
    sleeveWaste: num('sleeveWaste', 10) / 100,
    sleevePerGroupEndM: num('groupSleeve', 0.16),
    jointSleeveM: num('jointSleeve', 0.06),
    leadM: num('leadLength', 0.6),
    slot: {
      bottom,
      depthM,
      topWidthM,
      ...(bottom === 'flat'
        ? { bottomWidthM }
        : { bottomRadiusM: Math.min(num('slotBottomRadius', bottomWidthM / 2), depthM) }),
    },
    linerAllowanceM: num('allowance', 0),
    linerThicknessM: 0,
    coreLengthM,
    extensionM,
    cuffM: num('cuff', 0.006),
  });
  if (!read.success)
    return {
      problems: read.error.issues.map((i) => ({
        field: i.path.join('.'),
        message: `${i.path.join(' ')}: ${sentenceOfIssue(i)}`,
      })),
    };
  const input = read.data;
  const bill = billFigures(input);
  const jointTotal = connection.jumpers.length + connection.nodes.length;

  const chosen = (use: BillUse): ShopMaterial | undefined => {
    const name = v[FIELD_OF_USE[use]] as string | undefined;
    const able = materials.filter((m) => m.use.includes(use));
    return name ? able.find((m) => m.name === name) : usualMaterial(able, classTemperatureC(nameplate.insulationClass));
  };
  const warnings: string[] = [];
  const lines: BillLine[] = [];
  const spoolKg = num('spoolKg', 5);
  const classOf: EnamelClass = (...wire) => (v['wireClass'] as number | undefined) ?? enamelClass(...wire);
  wireLines(lines, input, strands, grade, bill, spoolKg, classOf);
  if (layout.kind === 'single-phase' && (record.auxStrands?.length ?? 0) > 0 && figures.auxBareMassKg !== undefined) {
    const aux = record.auxStrands as Strand[];
    const share = enamelShare(aux, grade, CONDUCTORS[record.material ?? 'copper'].densityKgM3);
    const order = figures.auxBareMassKg * (1 + share) * (1 + input.wireWaste);
    wireLines(lines, { ...input, strands: aux }, aux, grade, { ...bill, orderKg: order }, spoolKg, classOf);
  }
  const cut = (use: BillUse, pieces: number, lengthM: number, widthM: number) => {
    if (pieces === 0) return;
    lines.push(cutLine(use, chosen(use), pieces, lengthM, widthM, warnings));
  };
  cut('slot liner', bill.liners, bill.linerLengthM, bill.linerWidthM);
  if (bill.separators > 0) {
    const size = separatorSize((topWidthM + bottomWidthM) / 2, coreLengthM, extensionM);
    cut('separator', bill.separators, size.lengthM, size.widthM);
  }
  const overhangM = num(
    'overhang',
    Math.max(record.extensionConnectionEndM ?? 0, record.extensionOppositeEndM ?? 0) ||
      0.35 * meanTurnM - coreLengthM / 3,
  );
  const perGroup = Math.max(1, ...layout.groups.map((g) => g.coils.length));
  const paper = phasePaperSize({
    boreM,
    slotDepthM: depthM,
    spanSlots: layout.spanSlots,
    coilsPerGroup: perGroup,
    slots,
    sideMarginM: num('sideMargin', 0.012),
    overhangM: Math.max(0.01, overhangM),
    topMarginM: num('topMargin', 0.012),
  });
  const paperHeight = papers === 1 ? 2 * paper.heightM + coreLengthM : paper.heightM;
  cut('phase paper', withWaste(bill.phasePapers, input.sheetWaste), paperHeight, paper.widthM);
  measured('wedge', bill.wedges * (coreLengthM + 2 * extensionM), {
    pieces: bill.wedges,
    lengthM: coreLengthM + 2 * extensionM,
    widthM: topWidthM,
  });
  const endBore = sleeveBoreM(bundleDiameterM(strands, 1, grade));
  measured('group sleeving', bill.groupSleeveM, {
    pieces: 2 * input.groups,
    lengthM: input.sleevePerGroupEndM,
    ...(endBore === undefined ? {} : { boreM: endBore }),
  });
  const rating = ratingOf(nameplate, record);
  const use = leadUse(record);
  const lead =
    rating.currentA === undefined
      ? undefined
      : leadSize(rating.currentA * Math.max(...LEAD_SHARES[use]), limit('winding.leadDensity', limits));
  // a joint of two ends, a lead's and the star's are of different thickness: each has its own sleeve
  const bores = new Map<number | undefined, number>();
  for (const joint of jointList(connection, 'jumpers first')) {
    const bore = jointMaterial(joint, strands, grade, lead, input.jointSleeveM).sleeveBoreM;
    bores.set(bore, (bores.get(bore) ?? 0) + 1);
  }
  for (const [bore, pieces] of [...bores].sort(([a], [b]) => (a ?? Infinity) - (b ?? Infinity)))
    measured('joint sleeving', pieces * input.jointSleeveM * (1 + input.sleeveWaste), {
      pieces,
      lengthM: input.jointSleeveM,
      ...(bore === undefined ? {} : { boreM: bore }),
    });
  if (bores.has(undefined))
    warnings.push('A joint is thicker than any sleeving sold: wrap it with tape of the class, or split the joint.');
  if (endBore === undefined)
    warnings.push('The wires of a group end are thicker than any sleeving sold; split the bundle.');
  const perimeterM = num('bundlePerimeter', 2 * (depthM + Math.max(0.02, overhangM) / 2));
  const cord = lacingCordM({
    stitches: num('stitches', slots),
    loops: 1,
    perimeterM,
    meanDiameterM: boreM + depthM,
    tailM: 0.2,
  });
  measured('lacing cord', 2 * cord * (1 + input.sleeveWaste), {});
  const cables = lead?.cables ?? 1;
  measured('lead cable', bill.leadCableM * cables, {
    pieces: input.leads * cables,
    lengthM: input.leadM,
    ...(lead?.sizeMm2 === undefined ? {} : { areaMm2: lead.sizeMm2 }),
  });
  if (lead && cables > 1)
    warnings.push(
      `A lead needs ${lead.leastMm2.toFixed(0)} mm², more than the largest cable: ${cables} parallel cables of ${lead.sizeMm2} mm², each with its own lug and mark.`,
    );
  const braze = chosen('braze metal');
  if (braze) {
    const ends = fullestJoint(connection);
    const wide = Math.max(0.004, bundleDiameterM(strands, Math.min(2, ends), grade));
    lines.push({
      use: 'braze metal',
      material: braze.name,
      classC: braze.classC ?? undefined,
      pieces: 0,
      quantity: brazeMassKg({
        joints: jointTotal,
        lapM: 0.02,
        widthM: wide,
        gapM: 0.00015,
        densityKgM3: braze.densityKgM3 ?? 8400,
      }),
      unit: 'kg',
      nesting: `${jointTotal} joints, 20 mm lap, 0.15 mm gap`,
    });
  }
  function measured(use: BillUse, metres: number, more: Partial<BillLine>): void {
    const m = chosen(use);
    lines.push({
      use,
      material: m?.name ?? 'none chosen',
      classC: m?.classC ?? undefined,
      pieces: 0,
      quantity: metres,
      unit: 'm',
      nesting: '',
      ...more,
    });
  }
  for (const line of lines) {
    const price = materials.find((m) => m.name === line.material)?.price;
    if (price !== undefined) line.cost = price * line.quantity;
  }
  const varnish = chosen('varnish');
  const wires = lines.filter((l) => l.use === 'winding wire');
  const members = [
    ...(new Set(wires.map((l) => l.classC)).size > 1
      ? wires.map((l) => ({ name: `enamel of ${l.material}`, classC: l.classC }))
      : [{ name: 'enamel of the wire', classC: wires[0]?.classC }]),
    ...[
      ...new Map(
        lines.filter((l) => l.use !== 'winding wire' && l.use !== 'braze metal').map((l) => [l.material, l]),
      ).values(),
    ].map((l) => ({ name: l.material, classC: l.classC })),
    { name: varnish?.name ?? 'varnish', classC: varnish?.classC ?? undefined },
  ];
  const { system, wanted } = judgedClass(members, nameplate, v, warnings);
  for (const use of ['slot liner', 'phase paper', 'wedge', 'group sleeving', 'lead cable'] as const)
    if (!chosen(use)) warnings.push(`No shop material is chosen for: ${use}.`);
  if (chosen('lead cable') && system.classC !== undefined && (chosen('lead cable')?.classC ?? 0) < system.classC)
    warnings.push('The lead cable is of a lower class than the system.');
  return {
    bill: {
      input,
      figures: { ...bill, joints: jointTotal },
      lines,
      system,
      wantedClassC: wanted,
      warnings,
      lead,
    },
    problems: [],
  };
}

/** Class of a system against the nameplate's, by its weakest member or its certificate, with what is to be said of it. */
export function judgedClass(
  members: readonly SystemMember[],
  nameplate: Nameplate,
  v: Readonly<Record<string, number | string | undefined>>,
  warnings: string[],
): { system: SystemClass; wanted: number | undefined } {
  const testedC = v['testedClass'] as number | undefined;
  const certificate = (v['certificate'] as string | undefined) ?? '';
  const system = systemClass(members, testedC === undefined ? undefined : { classC: testedC, certificate });
  const byTest = testedC !== undefined && certificate !== '';
  if (testedC !== undefined && certificate === '')
    warnings.push('A tested system counts by its certificate: name it, or the class stays that of the weakest member.');
  const wanted = classTemperatureC(nameplate.insulationClass);
  const known =
    system.classC ?? Math.min(...members.flatMap((m) => (m.classC === undefined ? [] : [m.classC])), Infinity);
  if (wanted !== undefined && known < wanted)
    warnings.push(
      `The system is class ${sayClass(known)} ${byTest ? `by certificate ${certificate}` : `by its weakest member (${system.weakest.join(', ')})`}; the nameplate asks for ${sayClass(wanted)}.`,
    );
  if (system.unstated.length > 0 && !byTest)
    warnings.push(`Class of the system not verified: no class stated for ${system.unstated.join(', ')}.`);
  return { system, wanted };
}

const firstSlot = (layout: Layout, coils: readonly number[]): number => layout.coils[(coils[0] ?? 1) - 1]?.goSlot ?? 0;

/** Widths of a slot of parallel teeth from tooth, bore and depth; else the mean width from its area. */
function slotWidths(
  record: WindingRecord,
  boreM: number,
  depthM: number,
  slots: number,
): { top: number; bottom: number } {
  const tooth = record.toothWidthM;
  if (tooth !== undefined) {
    const at = (h: number) => (Math.PI * (boreM + 2 * h)) / slots - tooth;
    const [top, bottom] = [at(Math.min(0.0015, depthM / 10)), at(depthM)];
    if (top > 0.0005) return { top, bottom };
  }
  const mean = (record.slotAreaM2 ?? (record.slotNetAreaM2 ?? 0) * 1.15) / depthM;
  const width = mean > 0 ? mean : (Math.PI * boreM) / slots / 2;
  return { top: width, bottom: width };
}

/** The material taken when nobody chose: the lowest class that reaches the nameplate's, else the highest. */
export function usualMaterial(able: readonly ShopMaterial[], wantedC: number | undefined): ShopMaterial | undefined {
  const sorted = [...able].sort((a, b) => (a.classC ?? 0) - (b.classC ?? 0));
  return sorted.find((m) => (m.classC ?? 0) >= (wantedC ?? 155)) ?? sorted[sorted.length - 1];
}

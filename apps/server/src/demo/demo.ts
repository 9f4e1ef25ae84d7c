import {
  ancestorsOf, permissibleUnbalanceGMm, inOrder, readWindingRecord, METRIC_DEFAULTS, operation, operationHours, runCalculation, windingFigures, type TestStage, type WindingFigures,
} from '@norther/core';
import { newJobBody, shopSettingsSchema, testBody } from '@norther/contracts';
import type { NestFastifyApplication } from '@nestjs/platform-fastify';
import { hashSecret } from '../auth/secrets.ts';
import { Database } from '../database/database.ts';
import { PeopleRepository } from '../auth/peopleRepository.ts';
import type { Act } from '../database/writes.ts';
import { Cures } from '../evaluate/cures.ts';
import { Evaluations } from '../evaluate/evaluations.ts';
import { Problem } from '../problem/problem.ts';
import { Jobs, readNameplate } from '../job/jobs.ts';
import { Units } from '../job/units.ts';
import { graphOf, statesOf } from '../job/jobViews.ts';
import { ReadJob } from '../job/readJob.ts';
import { Steps } from '../process/steps.ts';
import { Reports } from '../report/reports.ts';
import { Shop } from '../shop/shop.ts';
import { Materials } from '../stock/materials.ts';
import { Stock } from '../stock/stock.ts';
import { testsOf } from './demoTests.ts';
import { nowMs } from '../clock/clock.ts';
import { addDemoBalance } from './demoBalance.ts';
import { loadTestsOf } from './demoLoads.ts';
import { addDemoFailure } from './demoFailures.ts';
import { addDemoOvens, addDemoTank, addDemoVessel } from './demoOvens.ts';
import { addDemoSensors, DEMO_GAUGES } from './demoSensors.ts';
import { DEMO_LOTS } from './demoStock.ts';
import { afterWorking, lastWorking, workingBetween } from './shopHours.ts';
import { Windings } from '../winding/windings.ts';
import { DEMO_JOBS, type DemoJob } from './demoJobs.ts';
import { timesOf } from './demoNumbers.ts';
import { DEMO_PASSWORD, DEMO_PEOPLE } from './demoPeople.ts';
import { designMotor, designRotor, designFormWound, designMagnets, designSinglePhase, type DesignedMotor } from './design.ts';
import { ovenLog } from './ovenLog.ts';
import { PASSING } from './passingRecords.ts';

const DAY = 86_400_000;

/** Fills an empty Norther with the invented harbour motor works. Does nothing where there are people already. */
export async function loadDemo(app: NestFastifyApplication): Promise<number> {
  const { tables } = app.get(Database);
  const people = app.get(PeopleRepository);
  if ((await people.howMany()) > 0) return 0;
  const passwordHash = await hashSecret(DEMO_PASSWORD);
  const acts = new Map<string, Act['actor']>();
  for (const [i, p] of DEMO_PEOPLE.entries()) {
    const pinHash = await hashSecret(p.pin);
    const row = await people.add(tables, { name: p.name, signIn: p.signIn, role: p.role, passwordHash, pinHash, createdAt: new Date(nowMs() - 400 * DAY + i * 1000) });
    acts.set(p.key, { id: row.id, name: row.name, role: row.role });
  }
  await app.get(Shop).store(
    shopSettingsSchema.parse({
      name: 'Skarvøy Harbour Motor Works', address: 'North Quay 4, Skarvøy', leadMarks: 'U', timeZone: 'UTC',
      gauges: DEMO_GAUGES(nowMs()), supplyTapsV: [60, 110, 230, 400],
      resins: [
        { name: 'Polyester dip resin', ratedC: 145, ratedH: 5, floorC: 130, thermalClassC: 155 },
        { name: 'Epoxy for vacuum-pressure', ratedC: 150, ratedH: 8, floorC: 135, thermalClassC: 180, rate: { law: 'arrhenius', activationKJMol: 90 } },
      ],
    }),
    true,
  );
  const loader = new Loader(app, (key) => {
    const actor = acts.get(key);
    if (!actor) throw new Error(`no demo person ${key}`);
    return actor;
  });
  for (const lot of DEMO_LOTS(nowMs()))
    await app.get(Stock).receive({ actor: acts.get('foreman') as Act['actor'], at: new Date(lastWorking(nowMs() - 60 * DAY)) }, lot);
  await addDemoTank(app, (key, at) => loader.act(key, at));
  await addDemoVessel(app, (key, at) => loader.act(key, at));
  for (const one of DEMO_JOBS) await loader.load(one);
  await addDemoSensors(app, (key, at) => loader.act(key, at));
  await addDemoBalance(app, (key, at) => loader.act(key, at));
  await addDemoOvens(app, (key, at) => loader.act(key, at));
  return DEMO_JOBS.length;
}

class Loader {
  private readonly app: NestFastifyApplication;
  private readonly actor: (key: string) => Act['actor'];
  constructor(app: NestFastifyApplication, actor: (key: string) => Act['actor']) {
    this.app = app;
    this.actor = actor;
  }

  act(key: string, at: number): Act {
    return { actor: this.actor(key), at: new Date(Math.min(at, nowMs() - 60_000)) };
  }

  async load(one: DemoJob): Promise<void> {
    const designed = one.singlePhase ? designSinglePhase(one.singlePhase) : one.magnets ? designMagnets(one.magnets) : one.formWound ? designFormWound(one.formWound) : designMotor(one.motor);
    const rotor = one.woundRotor ? designRotor(designed, { ...one.woundRotor, poles: one.motor.poles, outputKW: one.motor.outputKW }) : undefined;
    // work happens in the shop's hours: the time of the job is reckoned in them
    const { begin, end } = timesOf(one, nowMs());
    const span = Math.max(60_000, workingBetween(begin, end) - 60_000);
    let clock = begin;
    const body = newJobBody.parse({
      customerName: one.customer, what: one.what, route: one.route ?? 'ac_random_rewind', impregnation: one.impregnation ?? 'dip', priority: one.priority ?? 'ordinary',
      promised: new Date(nowMs() + one.promisedInDays * DAY).toISOString().slice(0, 10),
      nameplate: { ...designed.nameplate, ...(rotor?.plate ?? {}), manufacturer: 'unknown', serial: one.serial, frame: one.frame, massKg: one.mass },
      intake: { came: one.came ?? 'whole motor', quantity: one.pieces?.serials.length ?? 1, fitted: one.fitted ?? ['bearings', 'fan'], complaint: one.complaint, condition: one.condition, looseParts: 'Tray 4, shelf B: key, fan cover, terminal links', leadPosition: '3 o\'clock from the lead end', boxPosition: 'right, seen from drive end' },
    });
    const { number } = await this.app.get(Jobs).take(this.act('winder', clock), body);
    if (one.pieces) await this.pieces(number, one.pieces, begin);
    const reader = this.app.get(ReadJob);
    const { tables } = reader.database;
    const row = await reader.row(number, tables);
    const graph = graphOf(row, await reader.steps(row, tables));
    const until = new Set(one.until.flatMap((code) => [...ancestorsOf(graph, code), code]));
    const steps = this.app.get(Steps);
    const figures = this.figuresOf(designed);
    const list = inOrder(graph).filter((code) => until.has(code));
    const total = list.reduce((n, code) => n + operationHours(operation(code), 160).elapsedH, 0);
    let worked = 0;
    for (const code of list) {
      const op = operation(code);
      const begun = clock;
      worked += (span * operationHours(op, 160).elapsedH) / total;
      clock = afterWorking(begin, worked);
      const who = op.resource === 'test' || op.resource === 'core-test' ? 'tester' : op.resource === 'desk' ? 'foreman' : 'winder';
      if ((code === 'LDT' && !one.loaded) || (code === 'SLP' && one.poorShop)) {
        await steps.waive(this.act('foreman', clock), number, code, 'Not ordered.');
        continue;
      }
      await steps.start(this.act(who, begun), number, code, {});
      const isLast = one.until.includes(code);
      if (isLast && one.leave === 'running') continue;
      await this.before(code, number, one, designed, figures, clock);
      const typed = { ...PASSING[code], ...(code === 'STR' ? { copper: ((figures.bareMassKg ?? 5) + (figures.auxBareMassKg ?? 0)).toFixed(2) } : {}), ...(one.records?.[code] ?? {}) };
      await steps.finish(this.act(who, clock), number, code, { typed });
      const state = statesOf(await reader.steps(row, tables))[code];
      if (state === 'attention' && !(isLast && one.leave === 'attention')) await steps.signOff(this.act('foreman', clock), number, code, 'Looked at again, accepted.');
    }
    // on the dynamometer, its load test not ended
    if (one.loaded && one.until.includes('RUN')) await this.onDynamometer(number, one, designed, figures, clock);
    if (one.dataTyped) {
      const windings = this.app.get(Windings);
      await windings.save(this.act('winder', clock), number, { part: 'stator', revision: 0, typed: designed.winding });
      if (rotor) await windings.save(this.act('winder', clock), number, { part: 'wound-rotor', revision: 0, typed: rotor.winding });
    }
  }

  /** Several alike: numbered as they came in, the first of them measured. */
  private async pieces(number: string, { serials, megohm }: NonNullable<DemoJob['pieces']>, at: number): Promise<void> {
    await this.app.get(Units).add(this.act('winder', at), number, { serials });
    for (const [i, value] of megohm.entries())
      await this.app.get(Evaluations).test(this.act('tester', at), number, testBody.parse({
        stage: 'IN', kind: 'insulationResistance', unit: i + 1,
        typed: { testV: '500', r1min: String(value), windingC: '20', measured: 'whole winding', kind: 'random-wound', system: 'thermosetting', instrument: 'insulation tester 1' },
      }));
  }

  private figuresOf(designed: DesignedMotor): WindingFigures {
    const { record } = readWindingRecord(designed.winding, METRIC_DEFAULTS);
    return runCalculation(windingFigures, { record, nameplate: readNameplate(designed.nameplate, METRIC_DEFAULTS) }, { working: 'none' }).values;
  }

  /** What an operation needs to have been recorded before it can end. */
  private async before(code: string, number: string, one: DemoJob, designed: DesignedMotor, figures: WindingFigures, at: number): Promise<void> {
    const windings = this.app.get(Windings);
    switch (code) {
      case 'TAF':
        return this.tests(number, 'IN', one, designed, figures, at);
      case 'DAT':
        await windings.save(this.act('winder', at), number, { part: 'stator', revision: 0, typed: { ...designed.winding, copperKg: (figures.bareMassKg ?? 1).toFixed(2), copperState: 'burned clean', sampleCoilM: ((figures.meanTurnM ?? 0.5) * 1000).toFixed(0), ...(one.winding ?? {}) } });
        if (one.failure) await addDemoFailure(this.app, this.act('winder', at), number, one.failure);
        return;
      case 'DSG': {
        const { tables } = this.app.get(Database);
        const row = await this.app.get(ReadJob).row(number, tables);
        const { found } = await this.app.get(ReadJob).windings(row, tables);
        await windings.release(this.act('foreman', at), number, { part: 'stator', revision: found?.revision ?? 1, reason: 'Rewind as found.' });
        await this.lists(number, at);
        return;
      }
      case 'LIN':
        return this.use(number, code, (what) => what.includes('laminate') || what.includes('paper'), at);
      case 'WND':
        return this.use(number, code, (what) => what.includes('copper') && what.includes('grade'), at);
      case 'PVT':
        return this.tests(number, 'AC', one, designed, figures, at);
      case 'PCT':
      case 'OTT':
        return this.tests(number, 'VC', one, designed, figures, at);
      case 'RUN':
        return this.tests(number, 'AA', one, designed, figures, at);
      case 'LDT':
        return this.onDynamometer(number, one, designed, figures, at);
      case 'CUR':
        await this.app.get(Cures).fromFile(this.act('winder', at), number, {
          fileName: 'bake-oven-1.csv', csv: ovenLog({ start: [6, 30], holdC: one.impregnation === 'vacuum-pressure' ? 155 : 149, hours: one.impregnation === 'vacuum-pressure' ? 13 : 9, lagsMin: [55, 25] }), roles: ['oven air', 'part', 'part'],
          resin: one.impregnation === 'vacuum-pressure' ? 'Epoxy for vacuum-pressure' : 'Polyester dip resin',
        });
        return;
      case 'RBL':
        await this.app.get(Evaluations).balance(this.act('winder', at), number, { typed: balanceRun(one) });
        return;
      case 'DSP':
        await this.tests(number, 'FI', one, designed, figures, at);
        await this.app.get(Reports).issue(this.act('foreman', at), number);
        return;
    }
  }

  /** What was reserved for a step is used in it. */
  private async use(number: string, code: string, what: (name: string) => boolean, at: number): Promise<void> {
    const materials = this.app.get(Materials);
    for (const u of (await materials.sheet(number, 'stator')).uses)
      if (u.reserved > 0 && what(u.what)) await materials.use(this.act('winder', at), number, 'stator', { lotId: u.lotId, quantity: u.reserved, code, reason: '' });
  }

  /** Cutting and picking lists from the plan. */
  private async lists(number: string, at: number): Promise<void> {
    const materials = this.app.get(Materials);
    await materials.makeLists(this.act('winder', at), number, 'stator', { version: 0 });
  }

  private async onDynamometer(number: string, one: DemoJob, designed: DesignedMotor, figures: WindingFigures, at: number): Promise<void> {
    const readings = loadTestsOf(one, designed, figures);
    for (const [i, { kind, typed }] of readings.entries())
      await this.app.get(Evaluations).test(this.act('tester', at - (readings.length - 1 - i) * 1_200_000), number, testBody.parse({ stage: 'FI', kind, typed }));
  }

  private async tests(number: string, stage: TestStage, one: DemoJob, designed: DesignedMotor, figures: WindingFigures, at: number): Promise<void> {
    const evaluations = this.app.get(Evaluations);
    const cold = 19 + (number.charCodeAt(number.length - 1) % 5);
    const readings = testsOf(stage, one, designed, figures, cold);
    for (const [i, { kind, typed, waves }] of readings.entries())
      try {
        // a reading every four minutes, the last at the end of the step
        await evaluations.test(this.act('tester', at - (readings.length - 1 - i) * 240_000), number, testBody.parse({ stage, kind, typed, ...(waves ? { waves } : {}) }));
      } catch (e) {
        // a winding that failed a lower test is not strained further
        if (!(e instanceof Problem && e.title === 'Order of stress')) throw e;
      }
  }
}

/** An invented one-plane run of a short rotor: found at five times its tolerance, corrected to half of it. */
export function balanceRun(one: Pick<DemoJob, 'motor' | 'rotor'>): Record<string, string> {
  const rotor = one.rotor ?? { massKg: 20, widthMm: 60, spanMm: 420 };
  const speed = ((120 * one.motor.hertz) / one.motor.poles) * (1 - one.motor.slipPercent / 100);
  const grade = one.motor.poles === 2 ? 1 : 2.5;
  const trial = Number((6 * permissibleUnbalanceGMm(grade, rotor.massKg, speed)).toPrecision(2));
  return {
    grade: String(grade),
    mass: String(rotor.massKg),
    serviceSpeed: speed.toFixed(0),
    balancingSpeed: '900',
    width: String(rotor.widthMm),
    span: String(rotor.spanMm),
    radius: rotor.massKg > 100 ? '140' : '60',
    method: 'add',
    positions: '12',
    firstPosition: '0',
    foundSize: '6.2',
    foundAngle: '35',
    trial: String(trial),
    trialAngle: '60',
    trialSize: '8.1',
    trialPhase: '95',
    trialStays: 'no',
    afterSize: '0.62',
    afterPhase: '210',
    stand: 'stand 1',
  };
}

import {
  windingOfPart,
  cureInput,
  type ChannelRole,
  type BalanceSessionView,
  type JobDetail,
  type LotUsed,
  type LoadView,
  type MaterialLists,
  type ShopSettings,
} from '@norther/contracts';
import {
  calculationOf,
  CalculationInputError,
  chunksOf,
  connectionOfRecord,
  MOST_ROWS,
  otherwise,
  processCure,
  readSurgeCsv,
  readTraceCsv,
  runCalculation,
  type BadRow,
  type CalculationResult,
  type Chunk,
  type MotorTests,
  type Resin,
  type ShopLimits,
  type SurgeFileSaid,
  type Trace,
  type Verdict,
  type WindingPart,
  type TestStage,
} from '@norther/core';
import { balanceSheet } from '../report/balanceSheet.ts';
import { loadSheet, type LoadMotor } from '../report/loadSheet.ts';
import { cuttingList, pickingList } from '../report/materialLists.ts';
import { makePdf } from '../report/paper.ts';
import { customerReport, dataSheet, label, plateLabel } from '../report/papers.ts';
import { smallForPaper } from '../report/photographs.ts';
import { testSheet } from '../report/testSheet.ts';
import { windingCard } from '../report/windingCard.ts';
import { drawingPages, drawingsOf } from '../winding/drawings.ts';

/** What is judged and kept of an oven log. */
export interface JudgedLog {
  rows: number;
  /** name and role of each channel, and the samples as the database takes them */
  channels: { name: string; unit: string; role: string }[];
  chunks: Chunk[];
  badRows: BadRow[];
  verdict: Verdict;
  reason: string;
  result: CalculationResult;
}

interface CureOrder {
  roles: ChannelRole[];
  resin: Resin;
  settings: Pick<ShopSettings, 'limits' | 'cureSchool'>;
  maxGapMin?: number | undefined;
}

interface OvenLogOrder extends CureOrder {
  csv: string;
  unit?: '°C' | '°F' | undefined;
}
interface TraceOrder extends CureOrder {
  timesMin: Float64Array;
  names: string[];
  values: Float64Array[];
}

interface PaperOrder {
  job: JobDetail;
  settings: ShopSettings;
}

/** Pages with every drawing of a winding; none where it cannot be laid out. */
function drawnPages(job: JobDetail, settings: ShopSettings, part: WindingPart) {
  const own = windingOfPart(job, part);
  const made = connectionOfRecord(own.record);
  return made.layout ? drawingPages(drawingsOf(own.record, own.nameplate, made.layout, made.connection, settings)) : [];
}

/** What takes longer than a request may hold up others: done in the thread beside the server. */
export const WORK = {
  report: async ({
    job,
    settings,
    revision,
    issuer,
    balances,
    witness,
    reason,
    lots,
    photographs = [],
  }: PaperOrder & {
    revision: number;
    issuer: { name: string; role: string; at: string };
    balances?: BalanceSessionView[] | undefined;
    witness?: string | undefined;
    reason?: string | undefined;
    lots?: LotUsed[] | undefined;
    photographs?: { id: string; content: Uint8Array }[] | undefined;
  }) =>
    makePdf(
      customerReport(job, settings, revision, issuer, balances, {
        witness,
        reason,
        lots,
        photographs: await smallForPaper(photographs),
      }),
    ),
  balance: ({ job, settings, session }: PaperOrder & { session: BalanceSessionView }) =>
    makePdf(balanceSheet(job, session, settings)),
  label: ({ job, settings }: PaperOrder) => makePdf(label(job, settings)),
  plate: ({ job, settings }: PaperOrder) => makePdf(plateLabel(job, settings)),
  testSheet: ({ job, settings, stage }: { job: JobDetail; settings: ShopSettings; stage: TestStage }) =>
    makePdf(testSheet(job, settings, stage)),
  dataSheet: ({ settings }: { settings: ShopSettings }) => makePdf(dataSheet(settings)),
  card: ({ job, settings, part, drawings }: PaperOrder & { part: WindingPart; drawings: 'all' | 'none' }) => {
    const card = windingCard(job, settings, part);
    const pages =
      drawings === 'all'
        ? drawnPages(job, settings, part).map((p) => ({ ...p, pageBreak: 'before', pageOrientation: 'landscape' }))
        : [];
    return makePdf({ ...card, content: [...card.content, ...pages] });
  },
  drawings: ({ job, settings, part }: PaperOrder & { part: WindingPart }) =>
    makePdf({
      title: `Drawings ${job.number}`,
      settings,
      content: drawnPages(job, settings, part).map((p, i) => (i > 0 ? { ...p, pageBreak: 'before' } : p)),
      landscape: true,
      footer: `${settings.name} · ${job.number} · ${job.what}`,
    }),
  cutting: ({ job, settings, part, lists }: PaperOrder & { part: WindingPart; lists: MaterialLists }) =>
    makePdf(cuttingList(job, part, lists, settings)),
  picking: ({ job, settings, part, lists }: PaperOrder & { part: WindingPart; lists: MaterialLists }) =>
    makePdf(pickingList(job, part, lists, settings)),
  loadSheet: ({ load, motors, settings }: { load: LoadView; motors: LoadMotor[]; settings: ShopSettings }) =>
    makePdf(loadSheet(load, motors, settings)),
  ovenLog,
  ovenTrace,
  surgeCsv: ({ csv, ...said }: SurgeFileSaid & { csv: string }) => readSurgeCsv(csv, said),
  otherwise: ({ motors, limits }: { motors: MotorTests[]; limits: ShopLimits }) => otherwise(motors, limits),
  calculation: ({ id, input }: { id: string; input: unknown }) => {
    const calculation = calculationOf(id);
    if (!calculation) throw new CalculationInputError([{ field: 'id', message: `There is no calculation ${id}.` }]);
    return runCalculation(calculation, input);
  },
};

/** Reads and judges an oven log. */
function ovenLog(order: OvenLogOrder): JudgedLog {
  const refuse = (field: string, message: string) => new CalculationInputError([{ field, message }]);
  const { trace, badRows } = readTraceCsv(order.csv, order.unit ? { unit: order.unit } : {});
  const rows = trace.timesMin.length;
  if (rows < 2)
    throw refuse('csv', 'The file holds fewer than two rows that can be read: a time and a temperature in each.');
  if (rows > MOST_ROWS)
    throw refuse(
      'csv',
      `The file holds ${rows.toLocaleString('en')} rows; at most ${MOST_ROWS.toLocaleString('en')} are taken. Cut it into parts.`,
    );
  const { result, input } = judged(trace, order);
  return {
    rows,
    channels: input.channels.map(({ name, role }) => ({ name, unit: '°C', role })),
    chunks: chunksOf({
      x: Float64Array.from(input.timesMin),
      values: input.channels.map((c) => Float64Array.from(c.valuesC, (v) => v ?? NaN)),
    }),
    badRows: badRows.slice(0, 200),
    verdict: result.values.verdict,
    reason: result.values.reason,
    result,
  };
}

/** Judges an oven log that an instrument has sent; times in minutes. */
function ovenTrace(order: TraceOrder): Omit<JudgedLog, 'channels' | 'chunks'> {
  const rows = order.timesMin.length;
  if (rows < 2)
    throw new CalculationInputError([{ field: 'traceId', message: 'The trace holds fewer than two samples yet.' }]);
  const trace = {
    timesMin: Array.from(order.timesMin),
    channels: order.names.map((name, i) => ({
      name,
      valuesC: Array.from(order.values[i] ?? [], (v) => (Number.isNaN(v) ? null : v)),
    })),
  };
  const { result } = judged(trace, order);
  return { rows, badRows: [], verdict: result.values.verdict, reason: result.values.reason, result };
}

function judged(trace: Trace, order: CureOrder) {
  if (order.roles.length !== trace.channels.length)
    throw new CalculationInputError([
      {
        field: 'roles',
        message: `There are ${trace.channels.length} channels, but ${order.roles.length} were assigned.`,
      },
    ]);
  const input = cureInput(trace, order.roles, order.resin, order.settings, order.maxGapMin);
  return { input, result: runCalculation(processCure, input) };
}

export type Work = typeof WORK;
export type WorkName = keyof Work;
/** What crosses the thread's door. */
export interface Order {
  id: number;
  name: WorkName;
  input: unknown;
}
export type Done =
  | { id: number; value: unknown }
  | { id: number; problems: { field: string; message: string }[] }
  | { id: number; broke: string };

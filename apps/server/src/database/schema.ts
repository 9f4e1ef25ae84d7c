import { sql } from 'drizzle-orm';
import {
  bigserial,
  boolean,
  check,
  customType,
  date,
  doublePrecision,
  foreignKey,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  timestamp,
  unique,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core';

/** A channel of a trace as it is kept. */
export interface TraceChannelKept {
  name: string;
  unit: string;
  role: string;
}

const bytea = customType<{ data: Buffer }>({ dataType: () => 'bytea' });
const now = (name: string) => timestamp(name, { withTimezone: true }).notNull().defaultNow();
const when = (name: string) => timestamp(name, { withTimezone: true });
const id = () => uuid('id').primaryKey().defaultRandom();
const verdictIn = (column: string) => sql.raw(`${column} in ('pass','attention','fail','cannot judge')`);

export const person = pgTable(
  'person',
  {
    id: id(),
    name: text('name').notNull(),
    signIn: text('sign_in').notNull(),
    role: text('role').notNull(),
    passwordHash: text('password_hash'),
    pinHash: text('pin_hash'),
    active: boolean('active').notNull().default(true),
    version: integer('version').notNull().default(1),
    createdAt: now('created_at'),
  },
  (t) => [
    unique('person_sign_in_unique').on(t.signIn),
    check('person_role_known', sql`${t.role} in ('viewer','winder','tester','foreman','admin')`),
  ],
);

export const session = pgTable(
  'session',
  {
    tokenHash: text('token_hash').primaryKey(),
    personId: uuid('person_id').notNull(),
    deviceHash: text('device_hash').notNull(),
    createdAt: now('created_at'),
    expiresAt: when('expires_at').notNull(),
  },
  (t) => [
    foreignKey({ name: 'session_person', columns: [t.personId], foreignColumns: [person.id] }).onDelete('cascade'),
    index('session_device').on(t.deviceHash),
  ],
);

/** People who signed in fully on a device and may switch to themselves by PIN there. */
export const devicePerson = pgTable(
  'device_person',
  { deviceHash: text('device_hash').notNull(), personId: uuid('person_id').notNull(), signedInAt: now('signed_in_at') },
  (t) => [
    primaryKey({ name: 'device_person_key', columns: [t.deviceHash, t.personId] }),
    foreignKey({ name: 'device_person_person', columns: [t.personId], foreignColumns: [person.id] }).onDelete(
      'cascade',
    ),
  ],
);

export const signInFailure = pgTable(
  'sign_in_failure',
  { id: bigserial('id', { mode: 'number' }).primaryKey(), key: text('key').notNull(), at: now('at') },
  (t) => [index('sign_in_failure_key_at').on(t.key, t.at)],
);

export const shop = pgTable(
  'shop',
  {
    id: integer('id').primaryKey().default(1),
    version: integer('version').notNull().default(1),
    settings: jsonb('settings').notNull(),
    demo: boolean('demo').notNull().default(false),
  },
  (t) => [check('shop_is_one', sql`${t.id} = 1`)],
);

export const customer = pgTable(
  'customer',
  { id: id(), name: text('name').notNull(), createdAt: now('created_at') },
  (t) => [uniqueIndex('customer_name_unique').on(sql`lower(${t.name})`)],
);

/** What ties the visits of one machine together: whose it is and its serial number. What its plate said stands with each visit. */
export const motor = pgTable(
  'motor',
  {
    id: id(),
    customerId: uuid('customer_id').notNull(),
    serial: text('serial'),
  },
  (t) => [
    foreignKey({ name: 'motor_customer', columns: [t.customerId], foreignColumns: [customer.id] }),
    index('motor_serial').on(sql`lower(${t.serial})`),
    uniqueIndex('motor_customer_serial').on(t.customerId, sql`lower(${t.serial})`),
  ],
);

export const job = pgTable(
  'job',
  {
    id: id(),
    number: text('number').notNull(),
    motorId: uuid('motor_id').notNull(),
    /** customer, title and nameplate of this visit, as they were then */
    customerId: uuid('customer_id').notNull(),
    nameplateTyped: jsonb('nameplate_typed').notNull(),
    nameplate: jsonb('nameplate').notNull(),
    readWith: jsonb('read_with').notNull(),
    what: text('what').notNull(),
    came: text('came').notNull(),
    quantity: integer('quantity').notNull().default(1),
    intake: jsonb('intake').notNull(),
    route: text('route').notNull(),
    impregnation: text('impregnation').notNull(),
    priority: text('priority').notNull(),
    promised: date('promised'),
    /** what it is compared with (core's familyOf), as the nameplate of this visit says */
    family: text('family'),
    takenInAt: now('taken_in_at'),
    closedAt: when('closed_at'),
    importedFrom: text('imported_from'),
    version: integer('version').notNull().default(1),
  },
  (t) => [
    unique('job_number_unique').on(t.number),
    foreignKey({ name: 'job_motor', columns: [t.motorId], foreignColumns: [motor.id] }),
    foreignKey({ name: 'job_customer', columns: [t.customerId], foreignColumns: [customer.id] }),
    index('job_motor_index').on(t.motorId),
    index('job_customer_index').on(t.customerId),
    index('job_open')
      .on(t.takenInAt)
      .where(sql`closed_at is null`),
    index('job_closed')
      .on(t.closedAt.desc(), t.takenInAt)
      .where(sql`closed_at is not null`),
    index('job_family').on(t.family, t.takenInAt.desc()),
    check('job_came_known', sql`${t.came} in ('whole motor','stator only','rotor only')`),
    check('job_quantity', sql`${t.quantity} between 1 and 500`),
  ],
);

export const jobCounter = pgTable('job_counter', {
  year: integer('year').primaryKey(),
  last: integer('last').notNull(),
});

const ofJob = (name: string, t: { jobId: Parameters<typeof foreignKey>[0]['columns'][0] }) =>
  foreignKey({ name, columns: [t.jobId], foreignColumns: [job.id] });

/** Every save is a row of its own; the newest revision of a role is the one in force. */
export const windingRecord = pgTable(
  'winding_record',
  {
    id: id(),
    jobId: uuid('job_id').notNull(),
    part: text('part').notNull().default('stator'),
    role: text('role').notNull(),
    revision: integer('revision').notNull(),
    typed: jsonb('typed').notNull(),
    record: jsonb('record').notNull(),
    readWith: jsonb('read_with').notNull(),
    reason: text('reason'),
    personName: text('person_name').notNull(),
    at: now('at'),
    released: jsonb('released'),
    /** what a changed rewind changes and its new nameplate; null = rewound as found */
    redesign: jsonb('redesign'),
  },
  (t) => [
    unique('winding_record_revision').on(t.jobId, t.part, t.role, t.revision),
    check('winding_record_part', sql`${t.part} in ('stator','second','rotor')`),
    ofJob('winding_record_job', t),
    check('winding_record_role', sql`${t.role} in ('as_found','planned')`),
  ],
);

/** Old windings brought in from a table; those of jobs are found where they stand. */
export const archiveRecord = pgTable('archive_record', {
  id: id(),
  title: text('title').notNull(),
  nameplateTyped: jsonb('nameplate_typed').notNull(),
  nameplate: jsonb('nameplate').notNull(),
  typed: jsonb('typed').notNull(),
  record: jsonb('record').notNull(),
  readWith: jsonb('read_with').notNull(),
  fileName: text('file_name').notNull(),
  personName: text('person_name').notNull(),
  at: now('at'),
});

/** The joints of one winding: ticks by person and time, and the joints as they really were made. */
export const jointSheet = pgTable(
  'joint_sheet',
  {
    jobId: uuid('job_id').notNull(),
    part: text('part').notNull(),
    version: integer('version').notNull().default(1),
    order: text('joint_order').notNull().default('jumpers first'),
    ticks: jsonb('ticks').notNull(),
    asMade: text('as_made').notNull().default(''),
  },
  (t) => [
    primaryKey({ name: 'joint_sheet_key', columns: [t.jobId, t.part] }),
    ofJob('joint_sheet_job', t),
    check('joint_sheet_part', sql`${t.part} in ('stator','second','rotor')`),
  ],
);

/** The bill of one winding: what was altered, and the cutting and picking lists once they are made. */
export const materialSheet = pgTable(
  'material_sheet',
  {
    jobId: uuid('job_id').notNull(),
    part: text('part').notNull(),
    version: integer('version').notNull().default(1),
    typed: jsonb('typed').notNull(),
    lists: jsonb('lists'),
  },
  (t) => [
    primaryKey({ name: 'material_sheet_key', columns: [t.jobId, t.part] }),
    ofJob('material_sheet_job', t),
    check('material_sheet_part', sql`${t.part} in ('stator','second','rotor')`),
  ],
);

/** A lot as it came in. What is left of it is the sum of its entries. */
export const stockLot = pgTable(
  'stock_lot',
  {
    id: id(),
    lot: text('lot').notNull(),
    what: jsonb('what').notNull(),
    unit: text('unit').notNull(),
    pricePerUnit: doublePrecision('price_per_unit'),
    spools: integer('spools'),
    expires: date('expires'),
    quarantined: boolean('quarantined').notNull().default(false),
    note: text('note').notNull().default(''),
    receivedAt: now('received_at'),
    version: integer('version').notNull().default(1),
  },
  (t) => [
    unique('stock_lot_unique').on(t.lot),
    check('stock_lot_unit', sql`${t.unit} in ('kg','m','sheets','pieces')`),
    check('stock_lot_price', sql`${t.pricePerUnit} is null or ${t.pricePerUnit} >= 0`),
  ],
);

/** What came, was reserved, freed, used, brought back or counted. Never changed: a mistake is put right by another entry. */
export const stockEntry = pgTable(
  'stock_entry',
  {
    id: bigserial('id', { mode: 'number' }).primaryKey(),
    lotId: uuid('lot_id').notNull(),
    kind: text('kind').notNull(),
    quantity: doublePrecision('quantity').notNull(),
    jobId: uuid('job_id'),
    part: text('part'),
    code: text('code'),
    reason: text('reason'),
    personName: text('person_name').notNull(),
    at: now('at'),
  },
  (t) => [
    foreignKey({ name: 'stock_entry_lot', columns: [t.lotId], foreignColumns: [stockLot.id] }),
    foreignKey({ name: 'stock_entry_job', columns: [t.jobId], foreignColumns: [job.id] }),
    index('stock_entry_lot_index').on(t.lotId),
    index('stock_entry_job_index').on(t.jobId),
    check('stock_entry_kind', sql`${t.kind} in ('received','counted','reserved','freed','used','returned')`),
    check('stock_entry_quantity', sql`${t.kind} = 'counted' or ${t.quantity} > 0`),
  ],
);

export const routeStep = pgTable(
  'route_step',
  {
    jobId: uuid('job_id').notNull(),
    code: text('code').notNull(),
    state: text('state').notNull().default('open'),
    changedAt: when('changed_at'),
    waived: jsonb('waived'),
    notes: jsonb('notes').notNull().default([]),
  },
  (t) => [
    primaryKey({ name: 'route_step_key', columns: [t.jobId, t.code] }),
    ofJob('route_step_job', t),
    check(
      'route_step_state',
      sql`${t.state} in ('open','running','passed','attention','undecided','failed','waived','recheck')`,
    ),
  ],
);

export const stepAttempt = pgTable(
  'step_attempt',
  {
    id: id(),
    jobId: uuid('job_id').notNull(),
    code: text('code').notNull(),
    number: integer('number').notNull(),
    startedBy: text('started_by').notNull(),
    startedAt: now('started_at'),
    override: text('override'),
    finishedBy: text('finished_by'),
    finishedAt: when('finished_at'),
    typed: jsonb('typed').notNull().default({}),
    values: jsonb('values').notNull().default({}),
    verdict: text('verdict'),
    reason: text('reason').notNull().default(''),
    signed: jsonb('signed'),
  },
  (t) => [
    unique('step_attempt_number').on(t.jobId, t.code, t.number),
    foreignKey({
      name: 'step_attempt_step',
      columns: [t.jobId, t.code],
      foreignColumns: [routeStep.jobId, routeStep.code],
    }),
    check('step_attempt_verdict', sql`${t.verdict} is null or ${verdictIn('verdict')}`),
  ],
);

/** A reading is never overwritten: a correction is a new row that supersedes an old one, with its reason. */
export const testRun = pgTable(
  'test_run',
  {
    id: id(),
    jobId: uuid('job_id').notNull(),
    stage: text('stage').notNull(),
    kind: text('kind').notNull(),
    typed: jsonb('typed').notNull(),
    values: jsonb('values').notNull(),
    calculation: text('calculation'),
    calculationVersion: integer('calculation_version'),
    limits: jsonb('limits').notNull(),
    verdict: text('verdict').notNull(),
    reason: text('reason').notNull(),
    result: jsonb('result'),
    personName: text('person_name').notNull(),
    takenAt: now('taken_at'),
    supersedes: uuid('supersedes'),
    correctionReason: text('correction_reason'),
    signed: jsonb('signed'),
  },
  (t) => [
    ofJob('test_run_job', t),
    index('test_run_job_index').on(t.jobId),
    unique('test_run_superseded_once').on(t.supersedes),
    foreignKey({ name: 'test_run_supersedes', columns: [t.supersedes], foreignColumns: [t.id] }),
    check('test_run_verdict', verdictIn('verdict')),
    check('test_run_correction', sql`${t.supersedes} is null or ${t.correctionReason} is not null`),
    check('test_run_stage', sql`${t.stage} in ('IN','BS','AB','AC','VC','AA','FI')`),
  ],
);

/** What measures and sends by itself: a principal beside people, known by its key. */
export const instrument = pgTable(
  'instrument',
  {
    id: id(),
    name: text('name').notNull(),
    kind: text('kind').notNull(),
    keyHash: text('key_hash').notNull(),
    calibratedUntil: date('calibrated_until'),
    mayWrite: jsonb('may_write').$type<string[]>().notNull(),
    simulated: boolean('simulated').notNull().default(false),
    active: boolean('active').notNull().default(true),
    lastSeenAt: when('last_seen_at'),
    /** seconds between its batches, as they came */
    intervalS: doublePrecision('interval_s'),
    /** its clock against ours, seconds */
    clockOffS: doublePrecision('clock_off_s'),
    version: integer('version').notNull().default(1),
    at: now('at'),
  },
  (t) => [uniqueIndex('instrument_name').on(sql`lower(${t.name})`), unique('instrument_key').on(t.keyHash)],
);

/** A long sampled series: an oven log, a load run. Its samples stand in chunks, apart from the verdict made of it. */
export const trace = pgTable(
  'trace',
  {
    id: id(),
    jobId: uuid('job_id'),
    part: text('part'),
    what: text('what').notNull(),
    /** name, unit and role of each channel, in the order of its values */
    channels: jsonb('channels').$type<TraceChannelKept[]>().notNull(),
    xUnit: text('x_unit').notNull(),
    /** when its x is zero; null where the file did not say */
    startAt: when('start_at'),
    /** file, instrument or by hand, and its name */
    source: text('source').notNull(),
    sourceName: text('source_name').notNull(),
    instrumentId: uuid('instrument_id'),
    /** the run on the instrument that it is */
    stream: text('stream'),
    at: now('at'),
    endedAt: when('ended_at'),
  },
  (t) => [
    ofJob('trace_job', t),
    foreignKey({ name: 'trace_instrument', columns: [t.instrumentId], foreignColumns: [instrument.id] }),
    unique('trace_stream').on(t.instrumentId, t.stream),
    index('trace_job_index').on(t.jobId),
    check('trace_source', sql`${t.source} in ('file','instrument','by hand')`),
    check('trace_x_unit', sql`${t.xUnit} in ('min','s')`),
  ],
);

/** Samples of a trace (core's `Chunk`, packed as little-endian doubles), only ever added. */
export const traceChunk = pgTable(
  'trace_chunk',
  {
    traceId: uuid('trace_id').notNull(),
    first: integer('first').notNull(),
    count: integer('count').notNull(),
    from: doublePrecision('x_from').notNull(),
    to: doublePrecision('x_to').notNull(),
    packed: bytea('packed').notNull(),
    overview: bytea('overview').notNull(),
  },
  (t) => [
    primaryKey({ name: 'trace_chunk_key', columns: [t.traceId, t.first] }),
    foreignKey({ name: 'trace_chunk_trace', columns: [t.traceId], foreignColumns: [trace.id] }),
    check('trace_chunk_count', sql`${t.count} between 1 and 4096`),
  ],
);

export const cureRun = pgTable(
  'cure_run',
  {
    id: id(),
    jobId: uuid('job_id').notNull(),
    fileName: text('file_name').notNull(),
    resin: jsonb('resin').notNull(),
    limits: jsonb('limits').notNull(),
    traceId: uuid('trace_id').notNull(),
    badRows: jsonb('bad_rows').notNull(),
    calculation: text('calculation').notNull(),
    calculationVersion: integer('calculation_version').notNull(),
    verdict: text('verdict').notNull(),
    reason: text('reason').notNull(),
    result: jsonb('result').notNull(),
    personName: text('person_name').notNull(),
    at: now('at'),
  },
  (t) => [
    ofJob('cure_run_job', t),
    foreignKey({ name: 'cure_run_trace', columns: [t.traceId], foreignColumns: [trace.id] }),
    index('cure_run_job_index').on(t.jobId),
    check('cure_run_verdict', verdictIn('verdict')),
  ],
);

export const balanceRun = pgTable(
  'balance_run',
  {
    id: id(),
    jobId: uuid('job_id').notNull(),
    typed: jsonb('typed').notNull(),
    values: jsonb('values').notNull(),
    limits: jsonb('limits').notNull(),
    calculation: text('calculation').notNull(),
    calculationVersion: integer('calculation_version').notNull(),
    verdict: text('verdict').notNull(),
    reason: text('reason').notNull(),
    result: jsonb('result').notNull(),
    personName: text('person_name').notNull(),
    at: now('at'),
  },
  (t) => [
    ofJob('balance_run_job', t),
    index('balance_run_job_index').on(t.jobId),
    check('balance_run_verdict', verdictIn('verdict')),
  ],
);

export const attachment = pgTable(
  'attachment',
  {
    id: id(),
    jobId: uuid('job_id').notNull(),
    name: text('name').notNull(),
    mediaType: text('media_type').notNull(),
    bytes: integer('bytes').notNull(),
    content: bytea('content').notNull(),
    personName: text('person_name').notNull(),
    at: now('at'),
  },
  (t) => [
    ofJob('attachment_job', t),
    index('attachment_job_index').on(t.jobId),
    check('attachment_size', sql`${t.bytes} between 1 and 15728640`),
  ],
);

export const report = pgTable(
  'report',
  {
    id: id(),
    jobId: uuid('job_id').notNull(),
    revision: integer('revision').notNull(),
    /** what the report says, as it stood when it was issued; its paper is laid out from this */
    source: jsonb('source'),
    content: bytea('content'),
    sha256: text('sha256'),
    personName: text('person_name').notNull(),
    at: now('at'),
  },
  (t) => [unique('report_revision').on(t.jobId, t.revision), ofJob('report_job', t)],
);

export const draft = pgTable(
  'draft',
  { personId: uuid('person_id').notNull(), key: text('key').notNull(), body: jsonb('body').notNull(), at: now('at') },
  (t) => [
    primaryKey({ name: 'draft_key', columns: [t.personId, t.key] }),
    foreignKey({ name: 'draft_person', columns: [t.personId], foreignColumns: [person.id] }).onDelete('cascade'),
  ],
);

export const idempotencyKey = pgTable(
  'idempotency_key',
  {
    personId: uuid('person_id').notNull(),
    key: text('key').notNull(),
    fingerprint: text('fingerprint').notNull(),
    response: jsonb('response'),
    at: now('at'),
  },
  (t) => [primaryKey({ name: 'idempotency_key_key', columns: [t.personId, t.key] })],
);

export const auditEvent = pgTable(
  'audit_event',
  {
    id: bigserial('id', { mode: 'number' }).primaryKey(),
    at: now('at'),
    personId: uuid('person_id'),
    personName: text('person_name').notNull(),
    action: text('action').notNull(),
    jobId: uuid('job_id'),
    summary: text('summary').notNull(),
    before: jsonb('before'),
    after: jsonb('after'),
  },
  (t) => [index('audit_event_job').on(t.jobId, t.id)],
);

/**
 * One row for each measured quantity of a test, step or balance, beside its document: trends, before and after and statistics ask
 * these. Only ever added; what a correction replaced is known by its test.
 */
export const measurement = pgTable(
  'measurement',
  {
    id: bigserial('id', { mode: 'number' }).primaryKey(),
    jobId: uuid('job_id').notNull(),
    source: text('source').notNull(),
    sourceId: uuid('source_id').notNull(),
    what: text('what').notNull(),
    /** in the quantity's base unit */
    value: doublePrecision('value').notNull(),
    unit: text('unit').notNull(),
    bound: text('bound'),
    typed: text('typed'),
    stage: text('stage'),
    part: text('part'),
    at: now('at'),
    personName: text('person_name'),
    verdict: text('verdict'),
  },
  (t) => [
    ofJob('measurement_job', t),
    index('measurement_job_what').on(t.jobId, t.what, t.at.desc()),
    unique('measurement_once').on(t.sourceId, t.what),
    check('measurement_source', sql`${t.source} in ('test','step','balance')`),
    check('measurement_bound', sql`${t.bound} is null or ${t.bound} in ('above','below')`),
    check('measurement_verdict', sql`${t.verdict} is null or ${verdictIn('verdict')}`),
  ],
);

/** Work on old rows that was done once, after a migration. */
export const doneOnce = pgTable('done_once', { name: text('name').primaryKey(), at: now('at') });

/** A process that does what is queued; it says every few seconds that it is there. */
export const worker = pgTable('worker', {
  id: uuid('id').primaryKey(),
  host: text('host').notNull(),
  pid: integer('pid').notNull(),
  startedAt: now('started_at'),
  heartbeatAt: now('heartbeat_at'),
});

/** Work in the background as people see it; the queue (pg-boss) only hands out its id. */
export const work = pgTable(
  'work',
  {
    id: id(),
    kind: text('kind').notNull(),
    data: jsonb('data').notNull(),
    state: text('state').notNull().default('waiting'),
    /** counts every taking up: what an attempt has done stands only while it is the newest */
    attempt: integer('attempt').notNull().default(0),
    workerId: uuid('worker_id'),
    heartbeatAt: when('heartbeat_at'),
    /** 0 to 1; null where it cannot be said */
    progress: doublePrecision('progress'),
    cancelAsked: boolean('cancel_asked').notNull().default(false),
    jobId: uuid('job_id'),
    personName: text('person_name').notNull(),
    at: now('at'),
    startedAt: when('started_at'),
    endedAt: when('ended_at'),
    result: jsonb('result'),
    problem: text('problem'),
  },
  (t) => [
    ofJob('work_job', t),
    index('work_open')
      .on(t.at)
      .where(sql`state in ('waiting','running')`),
    index('work_kind').on(t.kind, t.at.desc()),
    check('work_state', sql`${t.state} in ('waiting','running','done','failed','cancelled')`),
  ],
);

/** Batches of samples as they came, so that a repeat is stored once. */
export const instrumentBatch = pgTable(
  'instrument_batch',
  {
    traceId: uuid('trace_id').notNull(),
    batch: integer('batch').notNull(),
    receivedAt: now('received_at'),
    /** the instrument's time of its last sample */
    sentAt: when('sent_at').notNull(),
  },
  (t) => [
    primaryKey({ name: 'instrument_batch_key', columns: [t.traceId, t.batch] }),
    foreignKey({ name: 'instrument_batch_trace', columns: [t.traceId], foreignColumns: [trace.id] }),
  ],
);

import { existsSync, readFileSync } from 'node:fs';
import { constants } from 'node:zlib';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import helmet from '@fastify/helmet';
import fastifyCompress from '@fastify/compress';
import fastifyStatic from '@fastify/static';
import { Controller, Get, Module, Res, type INestApplicationContext } from '@nestjs/common';
import { APP_FILTER, NestFactory } from '@nestjs/core';
import { FastifyAdapter, type NestFastifyApplication } from '@nestjs/platform-fastify';
import { ApiExcludeController, DocumentBuilder, SwaggerModule } from '@nestjs/swagger';
import type { FastifyReply } from 'fastify';
import { Archive } from './archive/archive.ts';
import { ArchiveController } from './archive/archiveController.ts';
import { AuthController } from './auth/authController.ts';
import { Attempts } from './auth/attempts.ts';
import { Open } from './auth/guard.ts';
import { People } from './auth/people.ts';
import { Sessions } from './auth/sessions.ts';
import { CalculationController } from './calculation/calculationController.ts';
import { SHIFT_MS } from './clock/clock.ts';
import { Database } from './database/database.ts';
import { Writes } from './database/writes.ts';
import { DraftController } from './draft/draftController.ts';
import { Drafts } from './draft/drafts.ts';
import { EvaluateController } from './evaluate/evaluateController.ts';
import { Evaluations } from './evaluate/evaluations.ts';
import { Exchange } from './exchange/exchange.ts';
import { ExchangeController } from './exchange/exchangeController.ts';
import { FilesController } from './files/filesController.ts';
import { HealthController } from './health/healthController.ts';
import { Metrics } from './health/metrics.ts';
import { Readiness } from './health/readiness.ts';
import { hangLog, requestId } from './health/requestLog.ts';
import { answerOddAddress, answerOddLine, hangDoor } from './http/door.ts';
import { ORDINARY_BYTES } from './http/routeFacts.ts';
import { trustedProxies } from './http/trustedProxies.ts';
import { InstrumentController } from './instrument/instrumentController.ts';
import { InstrumentRepository } from './instrument/instrumentRepository.ts';
import { Instruments } from './instrument/instruments.ts';
import { JobController } from './job/jobController.ts';
import { Jobs } from './job/jobs.ts';
import { ReadJob } from './job/readJob.ts';
import { Live } from './live/live.ts';
import { MeasurementController } from './measurement/measurementController.ts';
import { MeasurementRepository } from './measurement/measurementRepository.ts';
import { Trends } from './measurement/trends.ts';
import { LiveController } from './live/liveController.ts';
import { notFound } from './problem/problem.ts';
import { ProblemFilter } from './problem/problemFilter.ts';
import { StepController } from './process/stepController.ts';
import { Steps } from './process/steps.ts';
import { ReportController } from './report/reportController.ts';
import { NightBackup } from './backup/nightBackup.ts';
import { PruneRepository } from './prune/pruneRepository.ts';
import { Pruning } from './prune/pruning.ts';
import { Queue } from './queue/queue.ts';
import { QueueController } from './queue/queueController.ts';
import { QueueRepository } from './queue/queueRepository.ts';
import { Worker } from './queue/worker.ts';
import { Works } from './queue/works.ts';
import { Reports } from './report/reports.ts';
import { SearchController } from './search/searchController.ts';
import { Shop } from './shop/shop.ts';
import { ShopController } from './shop/shopController.ts';
import { MaterialController } from './stock/materialController.ts';
import { Materials } from './stock/materials.ts';
import { Stock } from './stock/stock.ts';
import { StockController } from './stock/stockController.ts';
import { WorkThread } from './thread/workThread.ts';
import { TraceController } from './trace/traceController.ts';
import { TraceRepository } from './trace/traceRepository.ts';
import { Traces } from './trace/traces.ts';
import { Joints } from './winding/joints.ts';
import { JointsController } from './winding/jointsController.ts';
import { WindingController } from './winding/windingController.ts';
import { WindingFilesController } from './winding/windingFiles.ts';
import { Windings } from './winding/windings.ts';

const webFolder = fileURLToPath(new URL('../../web/dist', import.meta.url));

/** In tests the page's clock runs on with the server's. */
const withClock = (page: string): string =>
  SHIFT_MS === 0
    ? page
    : page.replace('</head>', `<meta name="norther-clock-days" content="${SHIFT_MS / 86_400_000}" /></head>`);

/** Serves the interface: any address that is not the API is the application's page. */
@ApiExcludeController()
@Controller()
class PageController {
  private readonly page = existsSync(join(webFolder, 'index.html'))
    ? withClock(readFileSync(join(webFolder, 'index.html'), 'utf8'))
    : undefined;

  @Open()
  @Get('*')
  send(@Res() reply: FastifyReply): void {
    const path = reply.request.url.split('?')[0] ?? '/';
    if (path === '/api' || path.startsWith('/api/') || /\.[a-z0-9]{2,5}$/i.test(path) || this.page === undefined)
      throw notFound(path.slice(0, 200));
    void reply.type('text/html; charset=utf-8').header('Cache-Control', 'no-cache').send(this.page);
  }
}

@Module({
  controllers: [
    AuthController,
    ShopController,
    JobController,
    WindingController,
    WindingFilesController,
    ArchiveController,
    JointsController,
    MaterialController,
    StockController,
    StepController,
    EvaluateController,
    MeasurementController,
    TraceController,
    InstrumentController,
    FilesController,
    LiveController,
    SearchController,
    DraftController,
    CalculationController,
    HealthController,
    ReportController,
    QueueController,
    ExchangeController,
    PageController,
  ],
  providers: [
    Database,
    Writes,
    Attempts,
    Sessions,
    People,
    WorkThread,
    Metrics,
    Readiness,
    Queue,
    QueueRepository,
    Works,
    NightBackup,
    PruneRepository,
    Pruning,
    Worker,
    Reports,
    Shop,
    ReadJob,
    Jobs,
    Windings,
    Archive,
    Joints,
    Stock,
    Materials,
    Steps,
    Evaluations,
    MeasurementRepository,
    Trends,
    TraceRepository,
    InstrumentRepository,
    Instruments,
    Traces,
    Live,
    Drafts,
    Exchange,
    { provide: APP_FILTER, useClass: ProblemFilter },
  ],
})
export class AppModule {}

/** Builds what does the work in the background: the same parts, nothing that serves. */
export async function createWorker(): Promise<INestApplicationContext> {
  const app = await NestFactory.createApplicationContext(AppModule, { logger: ['error', 'warn'], abortOnError: false });
  await app.get(Database).migrate();
  return app;
}

/** Builds the application without listening; tests and the server start share it. */
export async function createApp(
  options: { log: 'quiet' | 'ordinary' } = { log: 'ordinary' },
): Promise<NestFastifyApplication> {
  const adapter = new FastifyAdapter({
    bodyLimit: ORDINARY_BYTES,
    forceCloseConnections: true,
    trustProxy: trustedProxies(process.env['TRUST_PROXY']),
    routerOptions: { maxParamLength: 300 },
    frameworkErrors: answerOddAddress as never,
    clientErrorHandler: answerOddLine as never,
    requestTimeout: 120_000,
    genReqId: requestId as never,
  });
  const app = await NestFactory.create<NestFastifyApplication>(AppModule, adapter, {
    logger: options.log === 'quiet' ? (process.env['NORTHER_TELL'] ? ['error', 'warn'] : ['error']) : ['error', 'warn'],
    abortOnError: false,
    bodyParser: false,
  });
  const fastify = adapter.getInstance();
  hangLog(fastify as never, () => app.get(Metrics));
  hangDoor(
    fastify as never,
    () => app.get(Sessions),
    () => app.get(Instruments),
  );
  await app.register(
    helmet as never,
    {
      contentSecurityPolicy: {
        directives: {
          defaultSrc: ["'self'"],
          scriptSrc: ["'self'"],
          styleSrc: ["'self'", "'unsafe-inline'"],
          imgSrc: ["'self'", 'data:', 'blob:'],
          fontSrc: ["'self'"],
          connectSrc: ["'self'"],
          workerSrc: ["'self'", 'blob:'],
          objectSrc: ["'none'"],
          frameAncestors: ["'none'"],
          upgradeInsecureRequests: null,
        },
      },
      hsts: false,
      crossOriginOpenerPolicy: false,
      originAgentCluster: false,
    } as never,
  );
  // what is made to order is compressed quickly; the interface's own files lie there compressed (apps/web/vite.config.ts)
  await app.register(
    fastifyCompress as never,
    {
      global: true,
      threshold: 1024,
      encodings: ['br', 'gzip'],
      brotliOptions: { params: { [constants.BROTLI_PARAM_QUALITY]: 4 } },
    } as never,
  );
  if (existsSync(join(webFolder, 'assets'))) {
    await app.register(
      fastifyStatic as never,
      {
        root: join(webFolder, 'assets'),
        prefix: '/assets/',
        immutable: true,
        preCompressed: true,
        maxAge: '365d',
        decorateReply: false,
      } as never,
    );
  }
  const document = SwaggerModule.createDocument(
    app,
    new DocumentBuilder()
      .setTitle('Norther')
      .setDescription(
        'What the interface uses. Errors are application/problem+json. Writes take an Idempotency-Key header.',
      )
      .setVersion('1')
      .addCookieAuth('norther_session')
      .build(),
  );
  SwaggerModule.setup('api/docs', app, document, { jsonDocumentUrl: 'api/openapi.json' });
  app.enableShutdownHooks();
  return app;
}

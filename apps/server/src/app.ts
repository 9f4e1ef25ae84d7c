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
import { Open } from './auth/guard.ts';
import { Sessions } from './auth/sessions.ts';
import { SHIFT_MS } from './clock/clock.ts';
import { Database } from './database/database.ts';
import { Metrics } from './health/metrics.ts';
import { hangLog, requestId } from './health/requestLog.ts';
import { answerOddAddress, answerOddLine, hangDoor } from './http/door.ts';
import { ORDINARY_BYTES } from './http/routeFacts.ts';
import { trustedProxies } from './http/trustedProxies.ts';
import { Instruments } from './instrument/instruments.ts';
import { notFound } from './problem/problem.ts';
import { ProblemFilter } from './problem/problemFilter.ts';
import { DatabaseModule } from './database/databaseModule.ts';
import { ArchiveModule } from './archive/archiveModule.ts';
import { AuthModule } from './auth/authModule.ts';
import { CalculationModule } from './calculation/calculationModule.ts';
import { DraftModule } from './draft/draftModule.ts';
import { EvaluateModule } from './evaluate/evaluateModule.ts';
import { ExchangeModule } from './exchange/exchangeModule.ts';
import { FilesModule } from './files/filesModule.ts';
import { HealthModule } from './health/healthModule.ts';
import { InstrumentModule } from './instrument/instrumentModule.ts';
import { JobModule } from './job/jobModule.ts';
import { LiveModule } from './live/liveModule.ts';
import { LoadModule } from './load/loadModule.ts';
import { MeasurementModule } from './measurement/measurementModule.ts';
import { OvenModule } from './oven/ovenModule.ts';
import { BalanceModule } from './balance/balanceModule.ts';
import { SensorModule } from './sensor/sensorModule.ts';
import { ProcessModule } from './process/processModule.ts';
import { QueueModule } from './queue/queueModule.ts';
import { ReportModule } from './report/reportModule.ts';
import { SearchModule } from './search/searchModule.ts';
import { ShopModule } from './shop/shopModule.ts';
import { StockModule } from './stock/stockModule.ts';
import { TankModule } from './tank/tankModule.ts';
import { ThreadModule } from './thread/threadModule.ts';
import { TraceModule } from './trace/traceModule.ts';
import { VesselModule } from './vessel/vesselModule.ts';
import { WindingModule } from './winding/windingModule.ts';
import { WorkerModule } from './queue/workerModule.ts';

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
  imports: [
    DatabaseModule,
    ShopModule,
    AuthModule,
    ThreadModule,
    JobModule,
    MeasurementModule,
    TraceModule,
    InstrumentModule,
    StockModule,
    WindingModule,
    EvaluateModule,
    ProcessModule,
    SensorModule,
    BalanceModule,
    OvenModule,
    TankModule,
    VesselModule,
    FilesModule,
    QueueModule,
    ReportModule,
    ArchiveModule,
    ExchangeModule,
    DraftModule,
    SearchModule,
    CalculationModule,
    HealthModule,
    LiveModule,
    LoadModule,
    WorkerModule,
  ],
  controllers: [PageController],
  providers: [{ provide: APP_FILTER, useClass: ProblemFilter }],
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
          // the reader of codes is WebAssembly; it comes from here like every other script
          scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
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

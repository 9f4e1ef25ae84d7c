import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import helmet from '@fastify/helmet';
import fastifyStatic from '@fastify/static';
import { Controller, Get, Module, Res } from '@nestjs/common';
import { APP_FILTER, APP_GUARD, NestFactory } from '@nestjs/core';
import { FastifyAdapter, type NestFastifyApplication } from '@nestjs/platform-fastify';
import { ApiExcludeController, DocumentBuilder, SwaggerModule } from '@nestjs/swagger';
import type { FastifyReply } from 'fastify';
import { Archive } from './archive/archive.ts';
import { ArchiveController } from './archive/archiveController.ts';
import { AuthController } from './auth/authController.ts';
import { Open, RoleGuard } from './auth/guard.ts';
import { People } from './auth/people.ts';
import { Sessions } from './auth/sessions.ts';
import { CalculationController } from './calculation/calculationController.ts';
import { Database } from './database/database.ts';
import { Writes } from './database/writes.ts';
import { EvaluateController } from './evaluate/evaluateController.ts';
import { Evaluations } from './evaluate/evaluations.ts';
import { Exchange } from './exchange/exchange.ts';
import { ExchangeController } from './exchange/exchangeController.ts';
import { FilesController } from './files/filesController.ts';
import { JobController } from './job/jobController.ts';
import { Jobs } from './job/jobs.ts';
import { ReadJob } from './job/readJob.ts';
import { Live } from './live/live.ts';
import { LiveController } from './live/liveController.ts';
import { ProblemFilter } from './problem/problem.ts';
import { StepController } from './process/stepController.ts';
import { Steps } from './process/steps.ts';
import { ReportController } from './report/reportController.ts';
import { SearchController } from './search/searchController.ts';
import { Shop } from './shop/shop.ts';
import { ShopController } from './shop/shopController.ts';
import { MaterialController } from './stock/materialController.ts';
import { Materials } from './stock/materials.ts';
import { Stock } from './stock/stock.ts';
import { StockController } from './stock/stockController.ts';
import { Joints } from './winding/joints.ts';
import { JointsController } from './winding/jointsController.ts';
import { WindingController } from './winding/windingController.ts';
import { WindingFilesController } from './winding/windingFiles.ts';
import { Windings } from './winding/windings.ts';

const MOST_BYTES = 15 * 1024 * 1024;
/** A job file carries photographs as base64, so it may be larger than one file. */
const MOST_JSON_BYTES = 200 * 1024 * 1024;
const webFolder = fileURLToPath(new URL('../../web/dist', import.meta.url));

/** Serves the interface: any address that is not the API is the application's page. */
@ApiExcludeController()
@Controller()
class PageController {
  private readonly page = existsSync(join(webFolder, 'index.html'))
    ? readFileSync(join(webFolder, 'index.html'), 'utf8')
    : undefined;

  @Open()
  @Get('*')
  send(@Res() reply: FastifyReply): void {
    const path = reply.request.url.split('?')[0] ?? '/';
    if (path === '/api' || path.startsWith('/api/')) {
      void reply
        .status(404)
        .type('application/problem+json')
        .send(JSON.stringify({ type: 'about:blank', title: 'Not found', status: 404, detail: `There is no ${path}.` }));
      return;
    }
    if (/\.[a-z0-9]{2,5}$/i.test(path) || this.page === undefined) {
      void reply.status(404).type('text/plain').send('Not found.');
      return;
    }
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
    FilesController,
    LiveController,
    SearchController,
    CalculationController,
    ReportController,
    ExchangeController,
    PageController,
  ],
  providers: [
    Database,
    Writes,
    Sessions,
    People,
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
    Live,
    Exchange,
    { provide: APP_GUARD, useClass: RoleGuard },
    { provide: APP_FILTER, useClass: ProblemFilter },
  ],
})
export class AppModule {}

/** Builds the application without listening; tests and the server start share it. */
export async function createApp(
  options: { log: 'quiet' | 'ordinary' } = { log: 'ordinary' },
): Promise<NestFastifyApplication> {
  const adapter = new FastifyAdapter({ bodyLimit: MOST_JSON_BYTES, forceCloseConnections: true, trustProxy: false });
  const app = await NestFactory.create<NestFastifyApplication>(AppModule, adapter, {
    logger: options.log === 'quiet' ? ['error'] : ['error', 'warn'],
    abortOnError: false,
  });
  const fastify = adapter.getInstance();
  fastify.addContentTypeParser(
    ['image/jpeg', 'image/png', 'image/webp', 'application/pdf', 'application/octet-stream'],
    { parseAs: 'buffer', bodyLimit: MOST_BYTES },
    (_request, body, done) => done(null, body),
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
  if (existsSync(join(webFolder, 'assets'))) {
    await app.register(
      fastifyStatic as never,
      {
        root: join(webFolder, 'assets'),
        prefix: '/assets/',
        immutable: true,
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

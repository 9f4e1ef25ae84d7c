import { Controller, Get, Inject, Req, Res } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { FastifyReply } from 'fastify';
import { cookiesOf, type Request, SESSION_COOKIE } from '../auth/guard.ts';
import { tokenHash } from '../auth/secrets.ts';
import { endedPerson, endedSession, Sessions } from '../auth/sessions.ts';
import { Metrics } from '../health/metrics.ts';
import { Live } from './live.ts';

const HEARTBEAT_MS = 20_000;

@ApiTags('live')
@Controller('api/live')
export class LiveController {
  readonly live: Live;
  readonly sessions: Sessions;
  readonly metrics: Metrics;
  constructor(@Inject(Live) live: Live, @Inject(Sessions) sessions: Sessions, @Inject(Metrics) metrics: Metrics) {
    this.metrics = metrics;
    this.live = live;
    this.sessions = sessions;
  }

  /**
   * Server-sent events: each names what changed ("job:26-0004", "shop", "people"); the screen asks again for it. The stream ends
   * with its session.
   */
  @Get()
  stream(@Req() request: Request, @Res() reply: FastifyReply): void {
    const token = cookiesOf(request)[SESSION_COOKIE] ?? '';
    const hash = tokenHash(token);
    const personId = request.person?.id ?? '';
    const mine = endedSession(hash);
    const everywhere = endedPerson(personId);
    const butMe = endedPerson(personId, hash);
    reply.hijack();
    this.metrics.streams.inc();
    const out = reply.raw;
    out.writeHead(200, {
      'Content-Type': 'text/event-stream',
      'Cache-Control': 'no-cache, no-transform',
      Connection: 'keep-alive',
      'X-Accel-Buffering': 'no',
    });
    out.write('retry: 2000\n\ndata: hello\n\n');
    const end = () => {
      out.end('data: signed-out\n\n');
      stop();
    };
    const heartbeat = setInterval(() => {
      out.write(': still here\n\n');
      // a session that ran out ends its stream; a database that is away does not
      this.sessions.personOf(token).then(
        (person) => (person ? undefined : end()),
        () => undefined,
      );
    }, HEARTBEAT_MS);
    const subscription = this.live.topics.subscribe({
      next: (topic) => {
        if (!topic.startsWith('!')) out.write(`data: ${topic.replaceAll('\n', ' ')}\n\n`);
        else if (topic === mine || (topic.startsWith(everywhere) && topic !== butMe)) end();
      },
      complete: () => out.end(),
    });
    let stopped = false;
    const stop = () => {
      if (stopped) return;
      stopped = true;
      this.metrics.streams.dec();
      clearInterval(heartbeat);
      subscription.unsubscribe();
    };
    request.raw.on('close', stop);
  }
}

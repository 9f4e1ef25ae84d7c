import { Controller, Get, Headers, Inject, Query, Req, Res } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { FastifyReply } from 'fastify';
import { cookiesOf, type Request, SESSION_COOKIE } from '../auth/guard.ts';
import { tokenHash } from '../auth/secrets.ts';
import { endedPerson, endedSession, Sessions } from '../auth/sessions.ts';
import { Metrics } from '../health/metrics.ts';
import { whenGone } from '../http/whenGone.ts';
import { badField } from '../problem/problem.ts';
import { Live } from './live.ts';
import { TraceFeed } from './traceFeed.ts';

const HEARTBEAT_MS = 20_000;
/** Traces one browser watches at most. */
const MOST_TRACES = 32;
const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i;

@ApiTags('live')
@Controller('api/live')
export class LiveController {
  readonly live: Live;
  readonly sessions: Sessions;
  readonly metrics: Metrics;
  readonly feed: TraceFeed;
  constructor(
    @Inject(Live) live: Live,
    @Inject(Sessions) sessions: Sessions,
    @Inject(Metrics) metrics: Metrics,
    @Inject(TraceFeed) feed: TraceFeed,
  ) {
    this.metrics = metrics;
    this.feed = feed;
    this.live = live;
    this.sessions = sessions;
  }

  /**
   * Server-sent events: each names what changed ("job:26-0004", "shop", "people"); the screen asks again for it. The stream ends
   * with its session. `traces` names traces whose new samples are wanted, as events `samples`, at most ten a second each; `again`
   * says that the trace is to be asked for anew. A line that dropped goes on after its `Last-Event-ID` (or `last`), or hears "all".
   */
  @Get()
  stream(
    @Query('traces') traces: string | undefined,
    @Query('last') last: string | undefined,
    @Headers('last-event-id') lastId: string | undefined,
    @Req() request: Request,
    @Res() reply: FastifyReply,
  ): void {
    const watched = [...new Set((traces ?? '').split(',').filter(Boolean))];
    if (watched.length > MOST_TRACES || !watched.every((id) => UUID.test(id)))
      throw badField('traces', `Name at most ${MOST_TRACES} traces by their ids, with commas between.`);
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
    out.write('retry: 2000\n\n');
    const tell = (topic: string) => {
      // what comes to traces goes to who watches them
      if (!topic.startsWith('!') && !topic.startsWith('trace:') && !topic.startsWith('command:'))
        out.write(`id: ${this.live.last}\ndata: ${topic.replaceAll('\n', ' ')}\n\n`);
    };
    tell('hello');
    const known = lastId || last;
    if (known) for (const topic of this.live.since(known) ?? ['all']) tell(topic);
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
        if (!topic.startsWith('!')) tell(topic);
        else if (topic === mine || (topic.startsWith(everywhere) && topic !== butMe)) end();
      },
      complete: () => out.end(),
    });
    const watching = watched.map((id) =>
      this.feed.watch(id, (what) =>
        what === 'again'
          ? out.write(`event: again\ndata: ${id}\n\n`)
          : out.write(`event: samples\ndata: ${JSON.stringify(what)}\n\n`),
      ),
    );
    let stopped = false;
    const stop = () => {
      if (stopped) return;
      stopped = true;
      this.metrics.streams.dec();
      clearInterval(heartbeat);
      subscription.unsubscribe();
      for (const stopWatching of watching) stopWatching();
    };
    whenGone(request.raw, out, stop);
  }
}

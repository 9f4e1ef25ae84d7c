import { Controller, Get, Inject, Req, Res } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { FastifyReply } from 'fastify';
import type { Request } from '../auth/guard.ts';
import { Live } from './live.ts';

@ApiTags('live')
@Controller('api/live')
export class LiveController {
  readonly live: Live;
  constructor(@Inject(Live) live: Live) {
    this.live = live;
  }

  /** Server-sent events: each names what changed ("job:26-0004", "shop", "people"); the screen asks again for it. */
  @Get()
  stream(@Req() request: Request, @Res() reply: FastifyReply): void {
    reply.hijack();
    const out = reply.raw;
    out.writeHead(200, {
      'Content-Type': 'text/event-stream',
      'Cache-Control': 'no-cache, no-transform',
      Connection: 'keep-alive',
      'X-Accel-Buffering': 'no',
    });
    out.write('retry: 2000\n\ndata: hello\n\n');
    const heartbeat = setInterval(() => out.write(': still here\n\n'), 20_000);
    const subscription = this.live.topics.subscribe({
      next: (topic) => out.write(`data: ${topic.replaceAll('\n', ' ')}\n\n`),
      complete: () => out.end(),
    });
    request.raw.on('close', () => {
      clearInterval(heartbeat);
      subscription.unsubscribe();
    });
  }
}

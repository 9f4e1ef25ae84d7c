import {
  commandAnswerBody,
  commandBody,
  HEARD_EVERY_MS,
  instrumentStateBody,
  type CommandSent,
} from '@norther/contracts';
import { Controller, Get, Headers, HttpCode, Inject, Param, ParseIntPipe, Post, Req, Res } from '@nestjs/common';
import { ApiBearerAuth, ApiTags } from '@nestjs/swagger';
import type { FastifyReply } from 'fastify';
import type { z } from 'zod';
import { Acting, Needs, type Request } from '../auth/guard.ts';
import type { Act } from '../database/writes.ts';
import { ByKey } from '../http/routeFacts.ts';
import { whenGone } from '../http/whenGone.ts';
import { Live } from '../live/live.ts';
import { Read, Takes } from '../problem/body.ts';
import { CommandRepository } from './commandRepository.ts';
import { Commands } from './commands.ts';
import { sender } from './instrumentController.ts';

/** How often it is noted that a stream is open. */
const NOTED_MS = 4000;

@ApiTags('instruments')
@Controller('api/instruments')
export class CommandController {
  readonly commands: Commands;
  readonly repository: CommandRepository;
  readonly live: Live;
  constructor(
    @Inject(Commands) commands: Commands,
    @Inject(CommandRepository) repository: CommandRepository,
    @Inject(Live) live: Live,
  ) {
    this.commands = commands;
    this.repository = repository;
    this.live = live;
  }

  /** Tells an instrument something; what is not done in time is not done any more. */
  @Needs('tester')
  @Post(':id/commands')
  @Takes(commandBody)
  give(
    @Param('id') id: string,
    @Read(commandBody) body: z.output<typeof commandBody>,
    @Acting() act: Act,
  ): Promise<{ id: number }> {
    return this.commands.give(act, id, body);
  }

  /**
   * The instrument's own stream of commands, by its key: `curl -N -H "Authorization: Bearer $KEY" …/api/instruments/me/commands`.
   * Server-sent events: `command` with id, command, value and the seconds left; a comment every half second says that the line is
   * up. Hearing nothing for two seconds the instrument goes to its safe state by itself. Resumed after `Last-Event-ID`.
   */
  @ByKey()
  @ApiBearerAuth()
  @Get('me/commands')
  stream(
    @Req() request: Request,
    @Headers('last-event-id') last: string | undefined,
    @Res() reply: FastifyReply,
  ): void {
    const who = sender(request);
    reply.hijack();
    const out = reply.raw;
    out.writeHead(200, {
      'Content-Type': 'text/event-stream',
      'Cache-Control': 'no-cache, no-transform',
      'X-Accel-Buffering': 'no',
    });
    out.write('retry: 500\n\n');
    let sent = /^\d{1,15}$/.test(last ?? '') ? Number(last) : 0;
    let asking: Promise<void> = Promise.resolve();
    let stopped = false;
    const send = (c: CommandSent) => out.write(`id: ${c.id}\nevent: command\ndata: ${JSON.stringify(c)}\n\n`);
    // one after the other, so that nothing is sent twice
    const ask = () => {
      asking = asking.then(async () => {
        if (stopped) return;
        for (const c of await this.commands.waiting(who, sent).catch(() => [])) {
          send(c);
          sent = c.id;
        }
      });
    };
    const note = (open: boolean) => void this.repository.hears(who.id, open).catch(() => undefined);
    const subscription = this.live.topics.subscribe({
      next: (topic) => {
        if (topic === `command:${who.id}` || topic === 'all') ask();
      },
      complete: () => out.end(),
    });
    const beat = setInterval(() => out.write(': here\n\n'), HEARD_EVERY_MS);
    const noted = setInterval(() => note(true), NOTED_MS);
    note(true);
    ask();
    whenGone(request.raw, out, () => {
      stopped = true;
      clearInterval(beat);
      clearInterval(noted);
      subscription.unsubscribe();
      note(false);
    });
  }

  @ByKey()
  @ApiBearerAuth()
  @Post('me/commands/:command/answer')
  @HttpCode(200)
  @Takes(commandAnswerBody)
  answer(
    @Param('command', ParseIntPipe) command: number,
    @Read(commandAnswerBody) body: z.output<typeof commandAnswerBody>,
    @Req() request: Request,
  ): Promise<null> {
    return this.commands.answer(sender(request), command, body);
  }

  /** How the instrument stands: ready, stopped on the spot, or gone to its safe state. */
  @ByKey()
  @ApiBearerAuth()
  @Post('me/state')
  @HttpCode(200)
  @Takes(instrumentStateBody)
  state(@Read(instrumentStateBody) body: z.output<typeof instrumentStateBody>, @Req() request: Request): Promise<null> {
    return this.commands.state(sender(request), body);
  }
}

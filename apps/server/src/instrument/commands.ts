import {
  takesOf,
  type commandAnswerBody,
  type commandBody,
  type CommandSent,
  type instrumentStateBody,
} from '@norther/contracts';
import type { AnalyserOrder, LoadOrder, SpinOrder } from '@norther/core';
import { Inject, Injectable } from '@nestjs/common';
import type { z } from 'zod';
import { now } from '../clock/clock.ts';
import type { Transaction } from '../database/database.ts';
import { type Act, type WriteUnit, Writes } from '../database/writes.ts';
import { badField, notFound, Problem } from '../problem/problem.ts';
import { CommandRepository, type CommandRow } from './commandRepository.ts';
import { InstrumentRepository, type InstrumentRow } from './instrumentRepository.ts';

/** What a simulated instrument is told counts for so long, s. */
const SIMULATED_S = 20;
const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i;

/** What instruments are told: each command expires, is answered once, and a stop on the spot wins over all of them. */
@Injectable()
export class Commands {
  readonly writes: Writes;
  readonly instruments: InstrumentRepository;
  readonly commands: CommandRepository;
  constructor(
    @Inject(Writes) writes: Writes,
    @Inject(InstrumentRepository) instruments: InstrumentRepository,
    @Inject(CommandRepository) commands: CommandRepository,
  ) {
    this.writes = writes;
    this.instruments = instruments;
    this.commands = commands;
  }

  async give(act: Act, id: string, body: z.output<typeof commandBody>): Promise<{ id: number }> {
    return this.writes.run(act, (unit) => this.giveWithin(act, unit, id, body));
  }

  /** The same inside the caller's own change. */
  async giveWithin(
    act: Act,
    { tx, audit, tell }: WriteUnit,
    id: string,
    body: z.output<typeof commandBody>,
  ): Promise<{ id: number }> {
    const to = UUID.test(id) ? await this.instruments.one(tx, id) : undefined;
    if (!to) throw notFound('such instrument');
    const takes = takesOf(to);
    if (!takes.includes(body.command))
      throw badField(
        'command',
        takes.length > 0
          ? `${to.name} can be told ${takes.join(', ')}, not "${body.command}".`
          : `${to.name} only sends; it cannot be told anything.`,
      );
    const command = await this.add(act, tx, to, body);
    await audit({ action: 'instrument.command', summary: `${to.name} told: ${say(body)}`, after: body });
    await tell(`command:${to.id}`);
    await tell('instruments');
    return { id: command };
  }

  /** Tells a simulated instrument of a kind what is on it and what to do, inside the caller's own change. */
  async simulate(
    act: Act,
    { tx, tell }: Pick<WriteUnit, 'tx' | 'tell'>,
    id: string,
    order:
      | { kind: 'balancing stand'; command: 'spin'; detail: SpinOrder }
      | { kind: 'winding analyser'; command: 'measure'; detail: AnalyserOrder }
      | { kind: 'dynamometer'; command: 'load'; detail: LoadOrder; withinS?: number | undefined },
  ): Promise<string> {
    const to = await this.instruments.one(tx, id);
    if (!to || to.kind !== order.kind) throw badField('instrument', `There is no such ${order.kind}.`);
    if (!to.simulated)
      throw badField('instrument', `${to.name} is started where it stands; only a simulated one is told from here.`);
    const withinS = ('withinS' in order ? order.withinS : undefined) ?? SIMULATED_S;
    await this.add(act, tx, to, { command: order.command, withinS }, order.detail);
    await tell(`command:${to.id}`);
    await tell('instruments');
    return to.name;
  }

  private async add(
    act: Act,
    tx: Transaction,
    to: InstrumentRow,
    body: z.output<typeof commandBody>,
    detail: SpinOrder | AnalyserOrder | LoadOrder | null = null,
  ): Promise<number> {
    if (!to.active) throw new Problem(409, 'Not in use', `${to.name} is not in use.`);
    if (to.state === 'stopped here' && body.command !== 'stop')
      throw new Problem(
        409,
        'Stopped',
        `${to.name} was stopped on the spot; whoever stands there lets it go on, nobody else.`,
      );
    return this.commands.add(tx, {
      instrumentId: to.id,
      command: body.command,
      value: body.value ?? null,
      detail,
      personName: act.actor.name,
      at: act.at,
      expiresAt: new Date(act.at.getTime() + body.withinS * 1000),
    });
  }

  /** What it has still to do, after the last it has had. */
  async waiting(who: InstrumentRow, after: number): Promise<CommandSent[]> {
    const at = now();
    return (await this.commands.waiting(who.id, after, at)).map((c) => ({
      id: c.id,
      command: c.command,
      value: c.value,
      detail: c.detail,
      leftS: (c.expiresAt.getTime() - at.getTime()) / 1000,
    }));
  }

  /** The instrument says what became of a command, once; too late is told back. */
  async answer(who: InstrumentRow, id: number, body: z.output<typeof commandAnswerBody>): Promise<null> {
    return this.writes.database.transaction(async (tx) => {
      const command: CommandRow | undefined = Number.isSafeInteger(id)
        ? await this.commands.locked(tx, who.id, id)
        : undefined;
      if (!command) throw notFound(`command ${id} of ${who.name}`);
      // a repeated answer is one
      if (command.answer === body.answer) return null;
      if (command.answer !== null)
        throw new Problem(409, 'Answered already', `Command ${id} was answered: ${command.answer}.`);
      const at = now();
      if (body.answer === 'done' && command.expiresAt <= at)
        throw new Problem(409, 'Expired', `Command ${id} was to be done until ${command.expiresAt.toISOString()}.`);
      await this.commands.answer(tx, id, { ...body, answeredAt: at });
      await this.writes.tell(tx, 'instruments');
      return null;
    });
  }

  async state(who: InstrumentRow, body: z.output<typeof instrumentStateBody>): Promise<null> {
    return this.writes.database.transaction(async (tx) => {
      await this.commands.setState(tx, who.id, body.state);
      await this.writes.tell(tx, 'instruments');
      return null;
    });
  }
}

const say = (body: z.output<typeof commandBody>): string =>
  body.value === undefined ? body.command : `${body.command} ${body.value}`;

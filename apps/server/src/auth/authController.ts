import {
  changePersonBody,
  newPersonBody,
  ownPasswordBody,
  pinBody,
  setPinBody,
  setupBody,
  signInBody,
  type PersonView,
  type SessionView,
  type SetupView,
} from '@norther/contracts';
import { Controller, Delete, Get, HttpCode, Inject, Param, ParseUUIDPipe, Post, Put, Req, Res } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { FastifyReply } from 'fastify';
import type { z } from 'zod';
import type { Act } from '../database/writes.ts';
import { Problem } from '../problem/problem.ts';
import { Read, Takes } from '../problem/body.ts';
import { clearCookie, setCookie } from './cookies.ts';
import { Acting, cookiesOf, DEVICE_COOKIE, Needs, Open, type Request, SESSION_COOKIE } from './guard.ts';
import { People } from './people.ts';
import { Sessions } from './sessions.ts';

const DEVICE_SECONDS = 180 * 86_400;

@ApiTags('people')
@Controller('api')
export class AuthController {
  readonly sessions: Sessions;
  readonly people: People;
  constructor(@Inject(Sessions) sessions: Sessions, @Inject(People) people: People) {
    this.sessions = sessions;
    this.people = people;
  }

  @Open()
  @Get('setup')
  setup(): Promise<SetupView> {
    return this.people.setup();
  }

  /** The first visitor of an empty Norther becomes its admin. */
  @Open()
  @Post('setup')
  @Takes(setupBody)
  async firstAdmin(
    @Read(setupBody) body: z.output<typeof setupBody>,
    @Req() request: Request,
    @Res({ passthrough: true }) reply: FastifyReply,
  ): Promise<SessionView> {
    await this.people.createFirstAdmin(body);
    return this.signIn({ signIn: body.signIn, password: body.password }, request, reply);
  }

  @Open()
  @Post('session')
  @HttpCode(200)
  @Takes(signInBody)
  async signIn(
    @Read(signInBody) body: z.output<typeof signInBody>,
    @Req() request: Request,
    @Res({ passthrough: true }) reply: FastifyReply,
  ): Promise<SessionView> {
    const { token, device, person } = await this.sessions.signIn(
      body.signIn,
      body.password,
      request.ip,
      cookiesOf(request)[DEVICE_COOKIE],
    );
    setCookie(reply, SESSION_COOKIE, token);
    setCookie(reply, DEVICE_COOKIE, device, DEVICE_SECONDS);
    return this.sessions.view(person, device);
  }

  @Open()
  @Post('session/pin')
  @HttpCode(200)
  @Takes(pinBody)
  async switchPerson(
    @Read(pinBody) body: z.output<typeof pinBody>,
    @Req() request: Request,
    @Res({ passthrough: true }) reply: FastifyReply,
  ): Promise<SessionView> {
    const cookies = cookiesOf(request);
    const { token, person } = await this.sessions.switchByPin(
      body.personId,
      body.pin,
      request.ip,
      cookies[DEVICE_COOKIE],
    );
    await this.sessions.close(cookies[SESSION_COOKIE]);
    setCookie(reply, SESSION_COOKIE, token);
    return this.sessions.view(person, cookies[DEVICE_COOKIE]);
  }

  /** Who may switch by PIN on this device; asked by the sign-in page too. */
  @Open()
  @Get('session/known')
  async known(@Req() request: Request): Promise<SessionView['known']> {
    return this.sessions.knownOn(cookiesOf(request)[DEVICE_COOKIE]);
  }

  @Get('session')
  async current(@Req() request: Request): Promise<SessionView> {
    if (!request.person) throw new Problem(401, 'Not signed in', 'Sign in first.');
    return this.sessions.view(request.person, cookiesOf(request)[DEVICE_COOKIE]);
  }

  @Open()
  @Delete('session')
  @HttpCode(204)
  async signOut(@Req() request: Request, @Res({ passthrough: true }) reply: FastifyReply): Promise<void> {
    await this.sessions.close(cookiesOf(request)[SESSION_COOKIE]);
    clearCookie(reply, SESSION_COOKIE);
  }

  @Needs('viewer')
  @Put('session/pin')
  @HttpCode(204)
  @Takes(setPinBody)
  async setPin(@Read(setPinBody) body: z.output<typeof setPinBody>, @Acting() act: Act): Promise<void> {
    await this.people.setPin(act, body.pin);
  }

  @Needs('viewer')
  @Put('session/password')
  @HttpCode(204)
  @Takes(ownPasswordBody)
  async changePassword(
    @Read(ownPasswordBody) body: z.output<typeof ownPasswordBody>,
    @Acting() act: Act,
  ): Promise<void> {
    await this.people.changeOwnPassword(act, body);
  }

  /** Ends the person's other sessions, PIN entry on every device and open streams. */
  @Needs('viewer')
  @Delete('session/everywhere')
  @HttpCode(204)
  async signOutEverywhere(@Acting() act: Act): Promise<void> {
    await this.people.signOutEverywhere(act, act.actor.id);
  }

  @Needs('admin')
  @Delete('people/:id/sessions')
  @HttpCode(204)
  async signOutPerson(@Param('id', ParseUUIDPipe) id: string, @Acting() act: Act): Promise<void> {
    await this.people.signOutEverywhere(act, id);
  }

  @Get('people')
  list(): Promise<PersonView[]> {
    return this.people.list();
  }

  @Needs('admin')
  @Post('people')
  @Takes(newPersonBody)
  create(@Read(newPersonBody) body: z.output<typeof newPersonBody>, @Acting() act: Act): Promise<PersonView> {
    return this.people.create(act, body);
  }

  @Needs('admin')
  @Put('people/:id')
  @Takes(changePersonBody)
  change(
    @Param('id') id: string,
    @Read(changePersonBody) body: z.output<typeof changePersonBody>,
    @Acting() act: Act,
  ): Promise<PersonView> {
    return this.people.change(act, id, body);
  }
}

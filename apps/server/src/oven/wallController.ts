import { wallBody, type WallLoad, type WallView } from '@norther/contracts';
import { Controller, Delete, Get, Header, Inject, Param, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { z } from 'zod';
import { tokenHash } from '../auth/secrets.ts';
import { Acting, Needs, Open } from '../auth/guard.ts';
import { type Act, Writes } from '../database/writes.ts';
import { Read, Takes } from '../problem/body.ts';
import { notFound } from '../problem/problem.ts';
import { Ovens } from './ovens.ts';
import { WallRepository } from './wallRepository.ts';
import { newWallSecret, onTheWall } from './walls.ts';

const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i;
const SECRET = /^[\w-]{32}$/;

/** Secret addresses for a screen on the wall: an admin makes and revokes them; nothing can be written there. */
@ApiTags('ovens')
@Controller('api')
export class WallController {
  readonly walls: WallRepository;
  readonly ovens: Ovens;
  readonly writes: Writes;
  constructor(
    @Inject(WallRepository) walls: WallRepository,
    @Inject(Ovens) ovens: Ovens,
    @Inject(Writes) writes: Writes,
  ) {
    this.walls = walls;
    this.ovens = ovens;
    this.writes = writes;
  }

  @Get('walls')
  all(): Promise<WallView[]> {
    return this.walls.all();
  }

  /** Makes an address; the secret is in this answer and nowhere else. */
  @Needs('admin')
  @Post('walls')
  @Takes(wallBody)
  add(@Read(wallBody) body: z.output<typeof wallBody>, @Acting() act: Act): Promise<{ id: string; secret: string }> {
    const secret = newWallSecret();
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      const id = await this.walls.add(tx, {
        name: body.name,
        secretHash: tokenHash(secret),
        personName: act.actor.name,
        at: act.at,
      });
      await audit({ action: 'wall.add', summary: `Wall address made: ${body.name}` });
      await tell('ovens');
      return { id, secret };
    });
  }

  @Needs('admin')
  @Delete('walls/:id')
  revoke(@Param('id') id: string, @Acting() act: Act): Promise<{ done: true }> {
    if (!UUID.test(id)) throw notFound('such wall address');
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      const name = await this.walls.revoke(tx, id, act.at);
      if (name === undefined) throw notFound('such wall address that is open');
      await audit({ action: 'wall.revoke', summary: `Wall address revoked: ${name}` });
      await tell('ovens');
      return { done: true as const };
    });
  }

  /** What hangs on the wall: job number and title, no customer, no person. */
  @Open()
  @Get('wall/:secret')
  @Header('Cache-Control', 'no-store')
  async show(@Param('secret') secret: string): Promise<WallLoad[]> {
    if (!SECRET.test(secret) || !(await this.walls.isOpen(secret))) throw notFound('such wall');
    return onTheWall(await this.ovens.view());
  }
}

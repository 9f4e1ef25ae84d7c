import { Global, Module } from '@nestjs/common';
import { Database } from './database.ts';
import { Writes } from './writes.ts';

/** The connection pool, and the one way to change anything. Everybody has them. */
@Global()
@Module({ providers: [Database, Writes], exports: [Database, Writes] })
export class DatabaseModule {}

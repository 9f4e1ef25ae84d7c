import { CalculationInputError } from '@norther/core';
import type { ProblemDetail } from '@norther/contracts';
import { type ArgumentsHost, Catch, type ExceptionFilter, HttpException, Logger } from '@nestjs/common';
import type { FastifyReply, FastifyRequest } from 'fastify';
import { TooManyWaiting } from '../database/database.ts';
import { TooMuchWork } from '../thread/workThread.ts';
import { Problem } from './problem.ts';

const log = new Logger('problem');

/** Answers every error as application/problem+json. */
@Catch()
export class ProblemFilter implements ExceptionFilter {
  catch(error: unknown, host: ArgumentsHost): void {
    const http = host.switchToHttp();
    answerProblem(http.getResponse<FastifyReply>(), error, http.getRequest<FastifyRequest>());
  }
}

/** Answers one error; what broke on the server is logged without the values that were sent. */
export function answerProblem(reply: FastifyReply, error: unknown, request: FastifyRequest): void {
  const answer = describe(error, request);
  if (answer.status === 500) log.error(withoutValues(error));
  if (answer.status === 503) {
    if (!(error instanceof Problem)) log.warn(withoutValues(error));
    void reply.header('Retry-After', '2');
  }
  void reply.status(answer.status).type('application/problem+json').send(JSON.stringify(answer));
}

/** A failed statement names what was stored in it: only its text, code and place are logged. */
export function withoutValues(error: unknown): string {
  if (!(error instanceof Error)) return String(error);
  if ('query' in error) {
    const cause = (error.cause ?? error) as { code?: string; table?: string; constraint?: string; routine?: string };
    const { query } = error as { query?: unknown };
    const place = [cause.code, cause.table, cause.constraint, cause.routine].filter(Boolean).join(' ');
    const stack = (error.stack ?? '')
      .split('\n')
      .filter((line) => /^\s+at /.test(line))
      .slice(0, 12)
      .join('\n');
    return `a statement failed (${place || 'no code'}): ${String(query).slice(0, 400)}\n${stack}`;
  }
  return error.stack ?? error.message;
}

function describe(error: unknown, request: FastifyRequest): ProblemDetail {
  const type = 'about:blank';
  if (error instanceof Problem)
    return { type, title: error.title, status: error.status, detail: error.message, ...error.more };
  if (error instanceof CalculationInputError) {
    return {
      type,
      title: 'Not taken',
      status: 422,
      detail: error.message,
      field: error.field,
      problems: error.problems,
    };
  }
  if (error instanceof HttpException) {
    const status = error.getStatus();
    const detail =
      status === 404
        ? `There is no ${request.url.split('?')[0]?.slice(0, 200) ?? 'such page'}.`
        : status === 413
          ? tooLarge(request)
          : sentence(error.message);
    return { type, title: status === 404 ? 'Not found' : 'Not taken', status, detail };
  }
  if (error instanceof TooManyWaiting || error instanceof TooMuchWork)
    return {
      type,
      title: 'Too busy',
      status: 503,
      detail: 'Norther is too busy just now; nothing was stored. Try again in a moment.',
    };
  const code = (error as { code?: string } | null)?.code ?? '';
  const status = (error as { statusCode?: number } | null)?.statusCode;
  if (status !== undefined && status >= 400 && status < 500) {
    const detail =
      status === 413
        ? tooLarge(request)
        : code === 'FST_ERR_CTP_INVALID_MEDIA_TYPE'
          ? 'This kind of content is not taken here.'
          : sentence((error as Error).message);
    return { type, title: 'Not taken', status, detail };
  }
  const pgCode = (error as { cause?: { code?: string } } | null)?.cause?.code ?? code;
  if (isUnreachable(error, pgCode))
    return {
      type,
      title: 'Not reachable',
      status: 503,
      detail: 'The database cannot be reached just now. Try again in a moment: what is sent again is stored once.',
    };
  if (pgCode === '23505')
    return {
      type,
      title: 'Exists already',
      status: 409,
      detail: 'This exists already; it was stored before or by someone else just now.',
    };
  if (pgCode === '23514' || pgCode.startsWith('22'))
    return { type, title: 'Not taken', status: 422, detail: 'A value is outside what can be stored.' };
  return {
    type,
    title: 'Something broke',
    status: 500,
    detail:
      'Something broke on the server; nothing was stored. Try again, and tell the person who looks after Norther.',
  };
}

function sentence(text: string): string {
  return /[.?!]$/.test(text) ? text : `${text}.`;
}

/** The line to the database dropped, or it starts, stops, or lets nobody in for now. */
function isUnreachable(error: unknown, code: string): boolean {
  const { message, cause } = (error ?? {}) as { message?: string; cause?: { message?: string } };
  const text = `${message ?? ''} ${cause?.message ?? ''}`;
  return (
    code.startsWith('08') ||
    ['57P01', '57P02', '57P03', '57P05', '55P03', '25P03', '40P01', '53300', '57014'].includes(code) ||
    ['ECONNREFUSED', 'ECONNRESET', 'EPIPE', 'ETIMEDOUT', 'ENOTFOUND'].includes(code) ||
    /Connection terminated|connection error and is not queryable|timeout exceeded when trying to connect|Client was closed/i.test(
      text,
    )
  );
}

const sayBytes = (n: number): string =>
  n >= 1024 * 1024 ? `${Math.round(n / 1024 / 1024)} MB` : `${Math.round(n / 1024)} kB`;
const tooLarge = (request: FastifyRequest): string =>
  `This is too large; at most ${sayBytes(request.routeOptions.bodyLimit)} are taken here.`;

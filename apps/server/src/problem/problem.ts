import { CalculationInputError } from '@norther/core';
import type { ProblemDetail } from '@norther/contracts';
import { type ArgumentsHost, Catch, type ExceptionFilter, HttpException, Logger } from '@nestjs/common';
import type { FastifyReply } from 'fastify';

/** An error as a winder should read it: a sentence, the field at fault, a 4xx status. */
export class Problem extends Error {
  readonly status: number;
  readonly title: string;
  readonly more: Partial<Pick<ProblemDetail, 'field' | 'problems' | 'current' | 'sent'>>;
  constructor(status: number, title: string, detail: string, more: Problem['more'] = {}) {
    super(detail);
    this.name = 'Problem';
    this.status = status;
    this.title = title;
    this.more = more;
  }
}

export const notFound = (what: string): Problem => new Problem(404, 'Not found', `There is no ${what}.`);
export const badField = (field: string, message: string): Problem =>
  new Problem(422, 'Not taken', message, { field, problems: [{ field, message }] });
export const conflict = (detail: string, current: unknown, sent: unknown): Problem =>
  new Problem(409, 'Changed meanwhile', detail, { current, sent });

/** Problems of a typed form, as one answer naming every field. */
export function badForm(problems: readonly { field: string; message: string }[]): Problem {
  const first = problems[0];
  return new Problem(422, 'Not taken', problems.map((p) => p.message).join(' '), {
    ...(first ? { field: first.field } : {}),
    problems: problems.map(({ field, message }) => ({ field, message })),
  });
}

const log = new Logger('problem');

/** Answers every error as application/problem+json. */
@Catch()
export class ProblemFilter implements ExceptionFilter {
  catch(error: unknown, host: ArgumentsHost): void {
    const reply = host.switchToHttp().getResponse<FastifyReply>();
    const answer = describe(error);
    if (answer.status >= 500) log.error(error instanceof Error ? (error.stack ?? error.message) : String(error));
    void reply.status(answer.status).type('application/problem+json').send(JSON.stringify(answer));
  }
}

function describe(error: unknown): ProblemDetail {
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
    return { type, title: status === 404 ? 'Not found' : 'Not taken', status, detail: sentence(error.message) };
  }
  const code = (error as { code?: string } | null)?.code ?? '';
  const status = (error as { statusCode?: number } | null)?.statusCode;
  if (status !== undefined && status >= 400 && status < 500) {
    const detail =
      status === 413
        ? 'This is too large; a file may have at most 15 MB.'
        : code === 'FST_ERR_CTP_INVALID_MEDIA_TYPE'
          ? 'This kind of content is not taken here.'
          : sentence((error as Error).message);
    return { type, title: 'Not taken', status, detail };
  }
  const pgCode = (error as { cause?: { code?: string } } | null)?.cause?.code ?? code;
  if (pgCode === '23505')
    return {
      type,
      title: 'Exists already',
      status: 409,
      detail: 'This exists already; it was stored before or by someone else just now.',
    };
  if (pgCode === '23514' || ['22P02', '22P05', '22021'].includes(pgCode))
    return { type, title: 'Not taken', status: 422, detail: 'A value is outside what can be stored.' };
  if (pgCode.startsWith('08') || pgCode === '57P01' || pgCode === 'ECONNREFUSED') {
    return {
      type,
      title: 'Not reachable',
      status: 503,
      detail: 'The database cannot be reached just now; nothing was stored. Try again in a moment.',
    };
  }
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

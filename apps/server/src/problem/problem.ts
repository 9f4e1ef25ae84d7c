import type { ProblemDetail } from '@norther/contracts';

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

import { sentenceOfIssue } from '@norther/core';
import { applyDecorators, Body, type PipeTransform } from '@nestjs/common';
import { ApiBody } from '@nestjs/swagger';
import { z } from 'zod';
import { badForm } from './problem.ts';

class SchemaPipe<S extends z.ZodType> implements PipeTransform {
  readonly schema: S;
  constructor(schema: S) {
    this.schema = schema;
  }
  transform(value: unknown): z.output<S> {
    return read(this.schema, value);
  }
}

/** Reads a value by a schema of the contracts; what does not fit is answered with a sentence per field. */
export function read<S extends z.ZodType>(schema: S, value: unknown): z.output<S> {
  const parsed = schema.safeParse(value ?? {});
  if (parsed.success) return parsed.data;
  throw badForm(
    parsed.error.issues.map((issue) => {
      const field = issue.path.join('.');
      const message = sentenceOfIssue(issue);
      return { field, message: field === '' || message.includes(field) ? message : `${field}: ${message}` };
    }),
  );
}

/** The request body, checked by a schema of the contracts. */
export const Read = (schema: z.ZodType): ParameterDecorator => Body(new SchemaPipe(schema));

/** Puts a body's schema into the OpenAPI document. */
export const Takes = (schema: z.ZodType): MethodDecorator =>
  applyDecorators(
    ApiBody({
      schema: z.toJSONSchema(schema, { target: 'openapi-3.0', io: 'input', unrepresentable: 'any' }) as never,
    }),
  );

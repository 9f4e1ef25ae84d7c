import type { z } from 'zod';

type Issue = z.core.$ZodIssue;

/** Turns a schema issue into a sentence that says what was wrong and what would be right. */
export function sentenceOfIssue(issue: Issue): string {
  switch (issue.code) {
    case 'invalid_type':
      return issue.message.includes('received undefined')
        ? `This is missing; ${kindOf(issue.expected)} is needed.`
        : `This must be ${kindOf(issue.expected)}.`;
    case 'too_small':
      if (issue.origin === 'string') return 'This must not be empty.';
      if (issue.origin === 'array') return `At least ${String(issue.minimum)} entries are needed.`;
      return `This must be ${issue.inclusive === false ? 'more than' : 'at least'} ${String(issue.minimum)}.`;
    case 'too_big':
      if (issue.origin === 'string') return `This may have at most ${String(issue.maximum)} characters.`;
      if (issue.origin === 'array') return `At most ${String(issue.maximum)} entries are taken.`;
      return `This must be ${issue.inclusive === false ? 'less than' : 'at most'} ${String(issue.maximum)}.`;
    case 'not_multiple_of':
      return `This must be a multiple of ${String(issue.divisor)}.`;
    case 'invalid_value':
      return `This must be one of: ${issue.values.map(String).join(', ')}.`;
    case 'unrecognized_keys':
      return `There is no field named ${issue.keys.join(', ')}.`;
    case 'invalid_union':
      return 'This does not fit any of the forms it may take.';
    default:
      return issue.message.endsWith('.') ? issue.message : `${issue.message}.`;
  }
}

function kindOf(expected: string): string {
  switch (expected) {
    case 'number':
      return 'a number';
    case 'int':
      return 'a whole number';
    case 'string':
      return 'text';
    case 'boolean':
      return 'yes or no';
    case 'array':
      return 'a list';
    case 'object':
    case 'record':
      return 'a set of fields';
    default:
      return expected;
  }
}

import { readFileSync } from 'node:fs';
import { calculationOf, CATALOGUE, CalculationInputError, runCalculation } from '@norther/core';
import { z } from 'zod';

const [id, flag] = process.argv.slice(2);
const print = (value: unknown): void => {
  process.stdout.write(`${JSON.stringify(value, null, 2)}\n`);
};

function fail(message: string): never {
  process.stderr.write(`${message}\n`);
  process.exit(2);
}

if (id === undefined) fail('Name a calculation, or --list for all of them: npm run --silent calc -- --list');
if (id === '--list') {
  for (const c of CATALOGUE) process.stdout.write(`${c.id}\t${c.title}\n`);
} else {
  const calculation = calculationOf(id);
  if (!calculation) fail(`There is no calculation "${id}". See: npm run --silent calc -- --list`);
  if (flag === '--schema') {
    print({
      id: calculation.id,
      version: calculation.version,
      title: calculation.title,
      sources: calculation.sources,
      input: z.toJSONSchema(calculation.input, { io: 'input', unrepresentable: 'any' }),
      output: z.toJSONSchema(calculation.output, { unrepresentable: 'any' }),
    });
  } else if (flag === '--example') print(calculation.example);
  else if (flag !== undefined)
    fail(`"${flag}" is not known; use --schema or --example, or give JSON on standard input.`);
  else {
    let input: unknown;
    try {
      input = JSON.parse(readFileSync(0, 'utf8'));
    } catch {
      fail(`Standard input is not JSON. For a start: npm run --silent calc -- ${id} --example`);
    }
    try {
      print(runCalculation(calculation, input));
    } catch (error) {
      if (error instanceof CalculationInputError) fail(error.message);
      throw error;
    }
  }
}

import { parentPort } from 'node:worker_threads';
import { CalculationInputError } from '@norther/core';
import { type Done, type Order, WORK } from './work.ts';

/** The thread's side of the door: one order after the other. */
async function answer(order: Order): Promise<Done> {
  try {
    const value = await (WORK[order.name] as (input: unknown) => unknown)(order.input);
    return { id: order.id, value };
  } catch (error) {
    return error instanceof CalculationInputError
      ? { id: order.id, problems: error.problems }
      : { id: order.id, broke: error instanceof Error ? (error.stack ?? error.message) : String(error) };
  }
}

let last = Promise.resolve();
parentPort?.on('message', (order: Order) => {
  last = last.then(async () => parentPort?.postMessage(await answer(order)));
});

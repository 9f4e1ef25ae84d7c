/** One plain line about what is being done. */
export function say(text) {
  process.stderr.write(`norther: ${text}\n`);
}

/** Stops with one clear sentence and what to do. */
export class SetupError extends Error {}

export function stopWith(error) {
  process.stderr.write(`\nnorther: ${error instanceof SetupError ? error.message : (error?.stack ?? String(error))}\n`);
  process.exitCode = 1;
}

import { joined, samplesOf, type Samples } from '@norther/core';

/** Doubles as the database keeps them: little-endian. */
export const toBytes = (numbers: Float64Array): Buffer =>
  Buffer.from(numbers.buffer, numbers.byteOffset, numbers.byteLength);

/** Doubles as they were kept; copied, since a buffer of the driver need not begin at a multiple of eight. */
export function fromBytes(bytes: Buffer): Float64Array {
  const out = new Float64Array(bytes.length / 8);
  Buffer.from(out.buffer).set(bytes);
  return out;
}

/** A column of numbers, null where a value was lost, as samples keep it. */
export const column = (values: readonly (number | null)[]): Float64Array => Float64Array.from(values, (v) => v ?? NaN);

/** Samples of chunks in rising order. */
export const unpack = (chunks: readonly { packed: Buffer; count: number }[], channels: number): Samples =>
  joined(
    chunks.map((c) => samplesOf(fromBytes(c.packed), c.count, channels)),
    channels,
  );

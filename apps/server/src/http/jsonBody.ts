import secureJson from 'secure-json-parse';
import { Problem } from '../problem/problem.ts';

/** Lists and objects inside one another at most; the deepest the interface sends is a dozen. */
export const MOST_DEPTH = 64;

const [QUOTE, BACKSLASH, OPEN_LIST, OPEN_OBJECT, CLOSE_LIST, CLOSE_OBJECT] = [0x22, 0x5c, 0x5b, 0x7b, 0x5d, 0x7d];
/** Lists and objects at most in one body: parsing is dear by their number, not by bytes. */
const MOST_NODES = 3_000_000;

/** Refuses a body that is nested too deep or in too many pieces, by one look over its bytes before anything is parsed. */
export function refuseTangled(body: Uint8Array): void {
  let depth = 0;
  let nodes = 0;
  for (let i = 0; i < body.length; i++) {
    const byte = body[i];
    if (byte === QUOTE) {
      for (i += 1; i < body.length && body[i] !== QUOTE; i++) if (body[i] === BACKSLASH) i += 1;
    } else if (byte === OPEN_LIST || byte === OPEN_OBJECT) {
      nodes += 1;
      depth += 1;
      if (depth > MOST_DEPTH)
        throw new Problem(
          422,
          'Not taken',
          `This is nested more than ${MOST_DEPTH} lists and objects deep; nothing Norther takes is.`,
        );
      if (nodes > MOST_NODES) throw new Problem(413, 'Too large', 'This holds too many lists and objects.');
    } else if (byte === CLOSE_LIST || byte === CLOSE_OBJECT) depth -= 1;
  }
}

/** Reads a JSON body; an empty one is no body. */
export function readJson(body: Buffer): unknown {
  if (body.length === 0) return undefined;
  refuseTangled(body);
  try {
    return secureJson.parse(body.toString('utf8'), undefined, { protoAction: 'error', constructorAction: 'error' });
  } catch {
    throw new Problem(
      400,
      'Not taken',
      'This is not JSON that can be read; check commas, quotation marks and brackets.',
    );
  }
}

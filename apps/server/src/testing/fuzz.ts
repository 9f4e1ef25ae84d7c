/** Seeded numbers, so that a run can be repeated (mulberry32). */
export function seeded(seed: number): () => number {
  let a = seed >>> 0;
  return () => {
    a = (a + 0x6d2b79f5) >>> 0;
    let t = a;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

interface Schema {
  type?: string | string[];
  enum?: unknown[];
  const?: unknown;
  properties?: Record<string, Schema>;
  required?: string[];
  items?: Schema;
  additionalProperties?: boolean | Schema;
  anyOf?: Schema[];
  oneOf?: Schema[];
  allOf?: Schema[];
  minimum?: number;
  maximum?: number;
  pattern?: string;
  format?: string;
}
interface Operation {
  parameters?: { name: string; in: string }[];
  requestBody?: { content?: Record<string, { schema?: Schema }> };
}
export interface OpenApi {
  paths: Record<string, Record<string, Operation>>;
}
export interface FuzzRequest {
  method: string;
  path: string;
  body: string | undefined;
  headers: Record<string, string>;
}

const ODD_TEXT = [
  '',
  ' ',
  '0',
  '-1',
  '1e999',
  'NaN',
  'null',
  '__proto__',
  'constructor',
  "'; drop table job; --",
  '\u0000',
  'a\r\nb: c',
  '%00',
  '../../etc/passwd',
  'ﷺ'.repeat(50),
  '\ud800',
  'x'.repeat(5000),
  '26-0001',
  '2026-02-30',
  'yesterday',
  '=1+1',
  '<script>',
  '1-9',
  '2x18+1x17',
  '5/8 in',
  '\u202e',
];
const ODD = [null, true, false, 0, -1, 1.5, 1e308, -0, 9007199254740992, [], {}, [[]], { a: null }, ['x'], 'x'];

/** Requests made from the API's own description: some right, most of them wrong in one or several ways. */
export function makeRequests(
  api: OpenApi,
  many: number,
  seed: number,
  known: Record<string, readonly string[]>,
): FuzzRequest[] {
  const random = seeded(seed);
  const pick = <T>(from: readonly T[]): T => from[Math.floor(random() * from.length)] as T;
  const chance = (p: number) => random() < p;
  const operations = Object.entries(api.paths).flatMap(([path, methods]) =>
    Object.entries(methods).map(([method, operation]) => ({ path, method: method.toUpperCase(), operation })),
  );

  function right(schema: Schema | undefined, depth: number): unknown {
    if (!schema || depth > 8) return 'x';
    const choice = schema.anyOf ?? schema.oneOf;
    if (choice) return right(pick(choice), depth + 1);
    if (schema.const !== undefined) return schema.const;
    if (schema.enum) return pick(schema.enum);
    const type = Array.isArray(schema.type) ? pick(schema.type) : schema.type;
    switch (type) {
      case 'object': {
        const out: Record<string, unknown> = {};
        for (const [name, s] of Object.entries(schema.properties ?? {}))
          if (schema.required?.includes(name) || chance(0.6)) out[name] = value(s, depth + 1);
        if (typeof schema.additionalProperties === 'object')
          for (let i = 0; i < 2; i++)
            out[pick(['slots', 'poles', 'outputW', 'serial', pick(ODD_TEXT)])] = value(
              schema.additionalProperties,
              depth + 1,
            );
        return out;
      }
      case 'array':
        return Array.from({ length: Math.floor(random() * 4) }, () => value(schema.items, depth + 1));
      case 'number':
      case 'integer':
        return pick([schema.minimum ?? 0, schema.maximum ?? 10, 1, 2, 36, 0.5, -3]);
      case 'boolean':
        return chance(0.5);
      case 'null':
        return null;
      default:
        return schema.format === 'uuid'
          ? pick(known['id'] ?? ['x'])
          : pick(['36', '4', '1-9', 'a word', ...(known['number'] ?? []), '2026-11-30']);
    }
  }
  const value = (schema: Schema | undefined, depth: number): unknown =>
    chance(0.12) ? (chance(0.5) ? pick(ODD) : pick(ODD_TEXT)) : right(schema, depth);

  return Array.from({ length: many }, () => {
    const { path, method, operation } = pick(operations);
    const filled = path.replaceAll(/\{(\w+)\}/g, (_, name: string) =>
      encodeURIComponent(chance(0.75) ? pick(known[name] ?? ['1']) : pick(ODD_TEXT).replaceAll('\ud800', '')),
    );
    const query = (operation.parameters ?? [])
      .filter((p) => p.in === 'query' && chance(0.6))
      .flatMap((p) => (chance(0.2) ? [p, p] : [p]))
      .map(
        (p) => `${p.name}=${encodeURIComponent(pick([...ODD_TEXT.filter((t) => t !== '\ud800'), 'yes', 'stator']))}`,
      );
    const schema = operation.requestBody?.content?.['application/json']?.schema;
    const has = method !== 'GET' && method !== 'HEAD' && method !== 'DELETE';
    const text = chance(0.04)
      ? pick(['', '{', '[[[[', '"x"', 'null', '1', `${'['.repeat(80)}${']'.repeat(80)}`])
      : JSON.stringify(schema ? value(schema, 0) : pick([...ODD, ...ODD_TEXT]));
    return {
      method,
      path: filled + (query.length > 0 ? `?${query.join('&')}` : ''),
      body: has ? text : undefined,
      headers: {
        ...(has ? { 'Content-Type': chance(0.95) ? 'application/json' : pick(['text/plain', 'image/png', '']) } : {}),
        ...(chance(0.3) ? { 'Idempotency-Key': pick(['k1', 'k2', 'x'.repeat(300)]) } : {}),
      },
    };
  });
}

type Json = unknown;

/** Changes a right body in one or two places: another type, an odd text, a field left out or named otherwise. */
export function bend(body: Json, random: () => number): Json {
  const copy = structuredClone(body);
  const places: { at: Record<string, Json> | Json[]; key: string | number }[] = [];
  const walk = (x: Json): void => {
    if (Array.isArray(x)) x.slice(0, 6).forEach((v, i) => (places.push({ at: x, key: i }), walk(v)));
    else if (x && typeof x === 'object')
      for (const [key, v] of Object.entries(x)) {
        places.push({ at: x as Record<string, Json>, key });
        walk(v);
      }
  };
  walk(copy);
  const pick = <T>(from: readonly T[]): T => from[Math.floor(random() * from.length)] as T;
  for (let n = random() < 0.7 ? 1 : 2; n > 0 && places.length > 0; n--) {
    const { at, key } = pick(places);
    const holder = at as Record<string | number, Json>;
    if (random() < 0.15 && !Array.isArray(at)) Reflect.deleteProperty(holder, key);
    else holder[key] = random() < 0.5 ? pick(ODD) : pick(ODD_TEXT);
  }
  return copy;
}

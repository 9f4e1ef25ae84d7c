import { DEMO_PASSWORD } from '../demo/demoPeople.ts';

export interface Answer {
  status: number;
  // answers are looked into by the tests field by field
  // eslint-disable-next-line @typescript-eslint/no-explicit-any
  body: any;
  headers: Headers;
}
export type Client = (
  method: string,
  path: string,
  body?: unknown,
  headers?: Record<string, string>,
) => Promise<Answer>;

/** One browser's door: every request with its cookie, JSON in and out. */
export function client(base: string, cookie = ''): Client {
  return async (method, path, body, headers = {}) => {
    const raw = body instanceof Uint8Array;
    const response = await fetch(`${base}/${path}`, {
      method,
      headers: {
        ...(cookie ? { Cookie: cookie } : {}),
        ...(body === undefined || raw ? {} : { 'Content-Type': 'application/json' }),
        ...headers,
      },
      ...(body === undefined ? {} : { body: raw ? Buffer.from(body) : JSON.stringify(body) }),
    });
    const text = await response.text();
    let parsed: unknown = text;
    try {
      parsed = JSON.parse(text);
    } catch {
      // not JSON: PDF, CSV or empty
    }
    return { status: response.status, body: parsed, headers: response.headers };
  };
}

/** A person of the demo shop, signed in at a server. */
export async function signedIn(base: string, signIn: string): Promise<Client> {
  const signed = await fetch(`${base}/session`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ signIn, password: DEMO_PASSWORD }),
  });
  if (!signed.ok) throw new Error(`${signIn} could not sign in: ${await signed.text()}`);
  return client(
    base,
    signed.headers
      .getSetCookie()
      .map((c) => c.split(';')[0])
      .join('; '),
  );
}

import { isIP } from 'node:net';

/**
 * Reads TRUST_PROXY: addresses or networks of proxies whose `X-Forwarded-For` is believed, separated by commas. Nothing named: nobody
 * is believed.
 */
export function trustedProxies(said: string | undefined): string[] | false {
  const named = (said ?? '')
    .split(',')
    .map((p) => p.trim())
    .filter(Boolean);
  for (const one of named) {
    const [address = '', bits] = one.split('/');
    const kind = isIP(address);
    const most = kind === 4 ? 32 : 128;
    if (kind === 0 || (bits !== undefined && !(/^\d{1,3}$/.test(bits) && Number(bits) <= most)))
      throw new Error(`TRUST_PROXY: "${one}" is no address or network; say for example 127.0.0.1 or 10.1.0.0/16.`);
  }
  return named.length > 0 ? named : false;
}

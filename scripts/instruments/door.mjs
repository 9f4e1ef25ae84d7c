const wait = (ms) => new Promise((r) => setTimeout(r, Math.max(0, ms)));

/** Who a key belongs to; asked until the server answers. `undefined`: it does not know the key. */
async function whoAmI({ api, headers }) {
  for (;;) {
    try {
      const answer = await fetch(`${api}/instruments/me`, { headers });
      if (answer.ok) return await answer.json();
      if (answer.status === 401) return undefined;
    } catch {
      // not there yet
    }
    await wait(2000);
  }
}

/** Sends a batch until it is taken; the line may drop, a repeat is stored once. False: it is not wanted any more. */
async function send({ api, headers }, id, body) {
  for (;;) {
    try {
      const answer = await fetch(`${api}/instruments/${id}/samples`, {
        method: 'POST',
        headers,
        body: JSON.stringify(body),
      });
      if (answer.ok) return true;
      const problem = await answer.json().catch(() => ({}));
      if (answer.status < 500) {
        process.stderr.write(`norther instruments: ${problem.detail ?? answer.status}\n`);
        return answer.status !== 401 && answer.status !== 403;
      }
    } catch {
      // the server is away: what was read is kept and sent when it is back
    }
    await wait(2000);
  }
}

/** The documented door of the server, as any instrument uses it. */
export const samplesTo = { wait, whoAmI, send };

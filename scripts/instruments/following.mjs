/** Nothing heard for so long: the instrument goes to its safe state by itself. */
export const SAFE_AFTER_MS = 2000;
const wait = (ms) => new Promise((r) => setTimeout(r, ms));

/**
 * Follows the command stream of an instrument until `close()`.
 * - `on(command)` does one command and says what became of it: `{ answer: 'done' | 'refused', said }`
 * - `safe()` is called when nothing was heard for two seconds, `ready()` when the line is up again
 * A command that expired on its way is not done; after `stopHere()` everything is refused until `letGoOn()`.
 */
export function follow({ api, headers, on, safe, ready }) {
  let closed = false;
  let heardAt = Date.now();
  let isSafe = false;
  let isStopped = false;
  let lastId = 0;
  let abort = new AbortController();
  const post = (path, body) =>
    fetch(`${api}/instruments/me/${path}`, { method: 'POST', headers, body: JSON.stringify(body) }).catch(
      () => undefined,
    );
  const watch = setInterval(() => {
    if (closed || isSafe || Date.now() - heardAt < SAFE_AFTER_MS) return;
    isSafe = true;
    safe();
    abort.abort();
    void post('state', { state: 'safe' });
  }, 100);

  async function take(command, arrived) {
    const late = Date.now() - arrived > command.leftS * 1000;
    const became = isStopped
      ? { answer: 'refused', said: 'stopped on the spot' }
      : late
        ? { answer: 'refused', said: 'too late' }
        : await on(command);
    await post(`commands/${command.id}/answer`, became);
  }

  async function read() {
    abort = new AbortController();
    const answer = await fetch(`${api}/instruments/me/commands`, {
      headers: { ...headers, ...(lastId > 0 ? { 'Last-Event-ID': String(lastId) } : {}) },
      signal: abort.signal,
    });
    if (!answer.ok || !answer.body) throw new Error(String(answer.status));
    const decoder = new TextDecoder();
    let text = '';
    for await (const piece of answer.body) {
      heardAt = Date.now();
      if (isSafe) {
        isSafe = false;
        ready();
        void post('state', { state: isStopped ? 'stopped here' : 'ready' });
      }
      text += decoder.decode(piece, { stream: true });
      for (let end = text.indexOf('\n\n'); end >= 0; end = text.indexOf('\n\n')) {
        const event = text.slice(0, end);
        text = text.slice(end + 2);
        const data = /^data: (.*)$/m.exec(event)?.[1];
        if (!data || !/^event: command$/m.test(event)) continue;
        const command = JSON.parse(data);
        if (command.id <= lastId) continue;
        lastId = command.id;
        await take(command, Date.now());
      }
    }
  }

  const running = (async () => {
    await post('state', { state: 'ready' });
    while (!closed) {
      await read().catch(() => undefined);
      if (!closed) await wait(300);
    }
  })();

  return {
    /** somebody presses stop on the instrument: nothing from afar is done until it is let go on there */
    async stopHere() {
      isStopped = true;
      await post('state', { state: 'stopped here' });
    },
    async letGoOn() {
      isStopped = false;
      await post('state', { state: 'ready' });
    },
    async close() {
      closed = true;
      clearInterval(watch);
      abort.abort();
      await running;
    },
  };
}

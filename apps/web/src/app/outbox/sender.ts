import type { ProblemDetail } from '@norther/contracts';
import type { Kept, NewWaiting, Waiting } from './kept.ts';

/** What came of one that was sent: taken with an answer, not taken with a reason, or nobody answered. */
export type Sent =
  { outcome: 'taken'; data: unknown } | { outcome: 'refused'; problem: ProblemDetail } | { outcome: 'nobody' };
export type Outcome = Exclude<Sent, { outcome: 'nobody' }> | { outcome: 'waits' };

/** How the sender reaches what is round it; tests put their own there. */
export interface Round {
  kept: () => Promise<Kept>;
  send: (w: Waiting) => Promise<Sent>;
  /** the person who is signed in; what others did here waits until they are */
  person: () => string;
  now: () => number;
  newKey: () => string;
  /** only one tab of the browser sends at a time */
  alone: <T>(work: () => Promise<T>) => Promise<T>;
  /** something changed in what waits; `number` = a job the server knows more of now */
  changed: (number?: string) => void;
}

/**
 * Sends what was done at steps: once, and of a motor in the order in which it was done. What the server does not take stays, with its
 * reason, and what follows of that motor waits behind it.
 */
export class Sender {
  readonly round: Round;
  constructor(round: Round) {
    this.round = round;
  }

  /** Keeps what was done and sends it, if the server is there. */
  async act(done: NewWaiting): Promise<Outcome> {
    const store = await this.round.kept();
    const waiting = { ...done, key: this.round.newKey(), at: this.round.now(), refused: '' };
    const id = await store.add(waiting);
    this.round.changed();
    const came = await this.sendAll(id);
    if (came?.outcome === 'refused') {
      // the person is here and sees why: the form still holds it
      await store.remove(id);
      this.round.changed();
    }
    return came ?? { outcome: 'waits' };
  }

  /** Sends until something is not answered; gives what came of one of them. */
  sendAll(asked?: number): Promise<Exclude<Sent, { outcome: 'nobody' }> | undefined> {
    return this.round.alone(async () => {
      const store = await this.round.kept();
      const held = new Set<string>();
      let own: Exclude<Sent, { outcome: 'nobody' }> | undefined;
      // what another tab added meanwhile comes too
      for (let w = await this.next(store, held); w; w = await this.next(store, held)) {
        const came = await this.round.send(w);
        if (came.outcome === 'nobody') break;
        if (w.id === asked) own = came;
        if (came.outcome === 'taken') await store.remove(w.id);
        else {
          await store.put({ ...w, refused: came.problem.detail });
          held.add(w.number);
        }
        this.round.changed(w.number);
      }
      return own;
    });
  }

  private async next(store: Kept, held: ReadonlySet<string>): Promise<Waiting | undefined> {
    const all = (await store.all()).sort((a, b) => a.id - b.id);
    const stopped = new Set([...held, ...all.filter((w) => w.refused !== '').map((w) => w.number)]);
    return all.find((w) => w.person === this.round.person() && !stopped.has(w.number));
  }

  /** Asks again for one that was not taken. */
  async again(w: Waiting): Promise<void> {
    await (await this.round.kept()).put({ ...w, refused: '', key: this.round.newKey() });
    this.round.changed();
    await this.sendAll();
  }

  /** Takes one out that shall not be sent. */
  async drop(w: Waiting): Promise<void> {
    await (await this.round.kept()).remove(w.id);
    this.round.changed(w.number);
    await this.sendAll();
  }
}

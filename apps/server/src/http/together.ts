/**
 * One reading for all who ask at once: who asks while a reading is under way waits for the next, which begins after they asked, and
 * shares it. So nobody gets anything older than their question, and sixty who ask together cost two readings.
 */
export class Together<T> {
  private readonly read: () => Promise<T>;
  private running: Promise<T> | undefined;
  private next: Promise<T> | undefined;
  constructor(read: () => Promise<T>) {
    this.read = read;
  }

  ask(): Promise<T> {
    if (!this.running) return this.begin();
    this.next ??= this.running
      .catch(() => undefined)
      .then(() => {
        this.next = undefined;
        return this.begin();
      });
    return this.next;
  }

  /** Nobody waits and nothing is read. */
  get isIdle(): boolean {
    return this.running === undefined && this.next === undefined;
  }

  private begin(): Promise<T> {
    const reading = this.read().finally(() => {
      if (this.running === reading) this.running = undefined;
    });
    this.running = reading;
    return reading;
  }
}

/** The same for readings that have a key each. */
export class TogetherBy<T> {
  private readonly read: (key: string) => Promise<T>;
  private readonly readings = new Map<string, Together<T>>();
  constructor(read: (key: string) => Promise<T>) {
    this.read = read;
  }

  async ask(key: string): Promise<T> {
    let one = this.readings.get(key);
    if (!one) this.readings.set(key, (one = new Together(() => this.read(key))));
    const mine = one;
    try {
      return await mine.ask();
    } finally {
      if (mine.isIdle && this.readings.get(key) === mine) this.readings.delete(key);
    }
  }

  /** Keys of which something is read now. */
  get size(): number {
    return this.readings.size;
  }
}

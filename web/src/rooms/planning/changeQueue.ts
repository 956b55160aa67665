/** Changes of one thing, sent one after another: what comes in meanwhile waits and is sent in one. */
export class ChangeQueue<T extends object> {
  private pending: Partial<T> = {};
  private running = false;

  add(change: Partial<T>): void {
    this.pending = { ...this.pending, ...change };
  }

  waiting(): Partial<T> {
    return this.pending;
  }

  clear(): void {
    this.pending = {};
  }

  /** Sends until nothing waits. A second caller returns at once: the first one sends its change too. */
  async run(send: (change: Partial<T>) => Promise<void>): Promise<void> {
    if (this.running) return;
    this.running = true;
    try {
      while (Object.keys(this.pending).length) {
        const change = this.pending;
        this.pending = {};
        await send(change);
      }
    } finally {
      this.running = false;
    }
  }
}

const queues = new Map<string, ChangeQueue<object>>();

export function queueOf<T extends object>(id: string): ChangeQueue<T> {
  if (!queues.has(id)) queues.set(id, new ChangeQueue<object>());
  return queues.get(id) as ChangeQueue<T>;
}

/** Work on several things by their keys: one piece after another on each, and looks that come once it is quiet. */
export class Turns {
  private readonly timers = new Map<string, NodeJS.Timeout>();
  private readonly turns = new Map<string, Promise<void>>();
  private stopped = false;

  /** `onTrouble`: told what went wrong in work that nobody waits for. */
  constructor(private readonly onTrouble: (error: unknown) => void) {}

  get isStopped(): boolean {
    return this.stopped;
  }

  /** Does work after whatever is under way on the same thing, unless all was stopped. Rejects with the work's own error. */
  take(key: string, work: () => Promise<void>): Promise<void> {
    const turn = (this.turns.get(key) ?? Promise.resolve()).then(() => (this.stopped ? undefined : work()));
    this.turns.set(
      key,
      turn.catch(() => undefined),
    );
    return turn;
  }

  /** Does work in so many milliseconds; asked again before that, it is put off. */
  soon(key: string, wait: number, work: () => Promise<void>): void {
    if (this.stopped) return;
    const before = this.timers.get(key);
    if (before) clearTimeout(before);
    const timer = setTimeout(() => {
      this.timers.delete(key);
      void this.take(key, work).catch(this.onTrouble);
    }, wait);
    this.timers.set(key, timer.unref());
  }

  /** Nothing begins any more; returns when what is under way has ended. */
  async stop(): Promise<void> {
    this.stopped = true;
    for (const timer of this.timers.values()) clearTimeout(timer);
    await Promise.all(this.turns.values());
  }
}

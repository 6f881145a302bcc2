import { foreseen, type Now, type Saying } from './state';

interface Problem {
  message: string;
  next: string;
}

/** Speaks to the server, in order, and keeps what is known to be so. */
export class Talk {
  now: Now;
  private sure: Now;
  private waiting = 0;
  private last: Promise<unknown> = Promise.resolve();

  /** `changed`: something is otherwise by now; `trouble`: what was said was not heard. */
  constructor(
    private readonly base: string,
    first: Now,
    private readonly changed: () => void,
    private readonly trouble: (words: string) => void,
  ) {
    this.now = first;
    this.sure = first;
  }

  /** Shows at once what will be so, and takes it back where the server does not hear it. Whether it did. */
  say(saying: Saying): Promise<boolean> {
    this.show(foreseen(this.now, saying));
    this.waiting += 1;
    const said = this.last.then(() => this.send(saying));
    this.last = said;
    return said;
  }

  /** What others said meanwhile. */
  async look(): Promise<void> {
    if (this.waiting > 0) return;
    const response = await fetch(`${this.base}/state`).catch(() => null);
    if (!response?.ok || this.waiting > 0) return;
    this.sure = (await response.json()) as Now;
    this.show(this.sure);
  }

  private async send(saying: Saying): Promise<boolean> {
    const response = await fetch(`${this.base}/say`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(saying),
    }).catch(() => null);
    this.waiting -= 1;
    if (response?.ok) {
      this.sure = (await response.json()) as Now;
      // What was said after this is on its way still, and stays shown.
      if (this.waiting === 0) this.show(this.sure);
      return true;
    }
    const problem = (await response?.json().catch(() => null)) as Problem | null | undefined;
    this.trouble(
      problem
        ? `${problem.message} ${problem.next}`
        : 'This was not saved: there is no connection. Try again when there is one.',
    );
    this.show(this.sure);
    if (response) void this.look();
    return false;
  }

  private show(now: Now): void {
    this.now = now;
    this.changed();
  }
}

import { ArkivError } from '@arkiv/core';

/** Wrong guesses from one address before it has to wait; then twice as long each time, up to the longest. */
const FREE_GUESSES = 5;
const LONGEST_WAIT = 15 * 60 * 1000;
/** Addresses remembered, and guesses under way at once: neither may fill the memory. */
const MOST_ADDRESSES = 10_000;
const MOST_AT_ONCE = 4;

interface Wrong {
  times: number;
  /** when the next guess is looked at */
  from: number;
}

/** Slows down who guesses a secret word. */
export class Guesses {
  private readonly wrong = new Map<string, Wrong>();
  private underWay = 0;
  private checking: Promise<unknown> = Promise.resolve();

  /** `now`: milliseconds since 1970 UTC. */
  constructor(private readonly now: () => number) {}

  /**
   * Whether a guess is right, by `isRight`. One after another: each takes much memory, and guessing in parallel must not be quicker.
   * Throws `access.slow` where `from`, whoever guesses, has to wait.
   */
  async check(from: string, isRight: () => Promise<boolean>): Promise<boolean> {
    this.refuseEarly(from);
    if (this.underWay >= MOST_AT_ONCE) throw new ArkivError('access.slow', { seconds: 1 });
    this.underWay += 1;
    const checked = this.checking.then(() => this.checkOne(from, isRight));
    this.checking = checked.catch(() => undefined);
    return checked.finally(() => (this.underWay -= 1));
  }

  private async checkOne(from: string, isRight: () => Promise<boolean>): Promise<boolean> {
    this.refuseEarly(from);
    if (await isRight()) {
      this.wrong.delete(from);
      return true;
    }
    const times = (this.wrong.get(from)?.times ?? 0) + 1;
    const wait = times < FREE_GUESSES ? 0 : Math.min(1000 * 2 ** (times - FREE_GUESSES), LONGEST_WAIT);
    if (this.wrong.size >= MOST_ADDRESSES) this.wrong.clear();
    this.wrong.set(from, { times, from: this.now() + wait });
    return false;
  }

  private refuseEarly(from: string): void {
    const rest = (this.wrong.get(from)?.from ?? 0) - this.now();
    if (rest > 0) throw new ArkivError('access.slow', { seconds: Math.ceil(rest / 1000) });
  }
}

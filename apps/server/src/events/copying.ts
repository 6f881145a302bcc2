import { Injectable } from '@nestjs/common';
import { Happenings } from './domainEvents';

/** Whether a card is being copied: proof comes first, and whatever nobody has asked for yet waits until it is over. */
@Injectable()
export class Copying {
  private readonly running = new Set<string>();
  private readonly waiting: (() => void)[] = [];

  constructor(happenings: Happenings) {
    happenings.on('job', ({ id, first, state }) => {
      if (first && state === 'running') this.running.add(id);
      else if (this.running.delete(id)) for (const goOn of this.waiting) goOn();
    });
  }

  get isUnderWay(): boolean {
    return this.running.size > 0;
  }

  /** Calls `goOn` whenever a copying has ended; another one may be under way. */
  after(goOn: () => void): void {
    this.waiting.push(goOn);
  }
}

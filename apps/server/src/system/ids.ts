import { Injectable } from '@nestjs/common';
import { monotonicFactory } from 'ulid';
import { Clock } from './clock';

/** The only place that makes ids: ULIDs, so that they sort by the time they were made. */
@Injectable()
export class Ids {
  private readonly next = monotonicFactory();

  constructor(private readonly clock: Clock) {}

  newId(): string {
    return this.next(this.clock.now());
  }
}

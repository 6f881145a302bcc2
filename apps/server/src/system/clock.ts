import { Injectable } from '@nestjs/common';

/** The only place that asks for the time. */
@Injectable()
export class Clock {
  /** milliseconds since 1970 UTC */
  now(): number {
    // eslint-disable-next-line no-restricted-syntax -- this is the clock that all others inject
    return Date.now();
  }
}

import { Injectable } from '@nestjs/common';

/** The only place that asks for the time. */
@Injectable()
export class Clock {
  /** milliseconds since 1970 UTC */
  now(): number {
    return Date.now();
  }
}

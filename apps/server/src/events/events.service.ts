import { Injectable } from '@nestjs/common';
import { Subject } from 'rxjs';
import { Ids } from '../system/ids';

export interface ServerEvent {
  /** `<start of this server>-<running number>` */
  id: string;
  type: string;
  data: unknown;
}

/** Events kept for windows that come back: some minutes of a busy intake at five events a second. */
const KEPT = 2000;

/** Numbered events. Numbers begin anew with each start of the server, and their prefix says which start it was. */
@Injectable()
export class EventsService {
  readonly stream = new Subject<ServerEvent>();
  private readonly start: string;
  private readonly kept: ServerEvent[] = [];
  private number = 0;

  constructor(ids: Ids) {
    this.start = ids.newId();
  }

  publish(type: string, data: unknown): void {
    const event = { id: `${this.start}-${++this.number}`, type, data };
    this.kept.push(event);
    if (this.kept.length > KEPT) this.kept.shift();
    this.stream.next(event);
  }

  /** What came after `lastId`, or null when that cannot be told any more: the window must load anew. */
  since(lastId: string): ServerEvent[] | null {
    const cut = lastId.lastIndexOf('-');
    const seen = Number(lastId.slice(cut + 1));
    if (lastId.slice(0, cut) !== this.start || !Number.isInteger(seen) || seen > this.number) return null;
    const missing = this.number - seen;
    return missing > this.kept.length ? null : this.kept.slice(this.kept.length - missing);
  }

  /** The number of the newest event, for a window that begins now. */
  get latestId(): string {
    return `${this.start}-${this.number}`;
  }
}

import { Controller, Headers, Sse, type MessageEvent } from '@nestjs/common';
import { ApiExcludeController } from '@nestjs/swagger';
import { concat, defer, from, interval, map, merge, Observable } from 'rxjs';
import { EventsService, type ServerEvent } from './events.service';

/** Silence is cut by proxies and sleeping computers after a minute or so. */
const HEARTBEAT_MILLIS = 20_000;

@ApiExcludeController()
@Controller('api/events')
export class EventsController {
  constructor(private readonly events: EventsService) {}

  /** The stream. A window that names the last event it saw gets what it missed, or `reset` when that is gone. */
  @Sse()
  open(@Headers('last-event-id') lastId?: string): Observable<MessageEvent> {
    // Deferred, so that nothing is published between the look back and the subscription.
    const all = merge(
      defer(() => concat(from(this.beginning(lastId)), this.events.stream)),
      interval(HEARTBEAT_MILLIS).pipe(map(() => null)),
    );
    return all.pipe(
      map((event) =>
        event ? { id: event.id, type: event.type, data: event.data as object } : { type: 'beat', data: {} },
      ),
    );
  }

  private beginning(lastId?: string): ServerEvent[] {
    const missed = lastId ? this.events.since(lastId) : [];
    if (missed === null) return [{ id: this.events.latestId, type: 'reset', data: {} }];
    return [...missed, { id: this.events.latestId, type: 'hello', data: {} }];
  }
}

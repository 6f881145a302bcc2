import { Injectable } from '@nestjs/common';
import { Happenings, type DomainEvent } from './domainEvents';
import { EventsService } from './events.service';

/** What windows hear of. The rest is the server's own. */
const SHOWN: readonly DomainEvent[] = [
  'frames',
  'marks',
  'measured',
  'compared',
  'sidecars',
  'sidecar',
  'shoots',
  'job',
  'volumes',
  'readers',
  'uploads',
  'settings',
  'piles',
  'albums',
  'vocabulary',
  'bin',
  'passes',
  'heard',
  'returns',
  'posted',
  'sent',
  'destinations',
  'gallery',
  'mail',
  'watch',
  'adopted',
];

/** The windows' stream is one listener among others. */
@Injectable()
export class BrowserEvents {
  constructor(happenings: Happenings, stream: EventsService) {
    for (const type of SHOWN) happenings.on(type, (data) => stream.publish(type, data));
  }
}

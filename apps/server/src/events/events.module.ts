import { Global, Module } from '@nestjs/common';
import { BrowserEvents } from './browserEvents';
import { Happenings } from './domainEvents';
import { EventsController } from './events.controller';
import { EventsService } from './events.service';

@Global()
@Module({
  controllers: [EventsController],
  providers: [Happenings, EventsService, BrowserEvents],
  exports: [Happenings, EventsService],
})
export class EventsModule {}

import { Global, Module } from '@nestjs/common';
import { BrowserEvents } from './browserEvents';
import { Copying } from './copying';
import { Happenings } from './domainEvents';
import { EventsController } from './events.controller';
import { EventsService } from './events.service';

@Global()
@Module({
  controllers: [EventsController],
  providers: [Happenings, Copying, EventsService, BrowserEvents],
  exports: [Happenings, Copying, EventsService],
})
export class EventsModule {}

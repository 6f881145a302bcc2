import { Module } from '@nestjs/common';
import { AccessModule } from '../access/access.module';
import { JobsModule } from '../jobs/jobs.module';
import { LedgerModule } from '../ledger/ledger.module';
import { VolumesModule } from '../volumes/volumes.module';
import { DestinationsController } from './destinations.controller';
import { DestinationsService } from './destinations.service';
import { Remotes } from './remotes';
import { SendHandler } from './send.handler';
import { SendingService } from './sending.service';

@Module({
  imports: [AccessModule, VolumesModule, JobsModule, LedgerModule],
  controllers: [DestinationsController],
  providers: [DestinationsService, SendingService, SendHandler, Remotes],
})
export class DestinationsModule {}

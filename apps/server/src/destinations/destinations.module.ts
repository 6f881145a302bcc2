import { Module } from '@nestjs/common';
import { JobsModule } from '../jobs/jobs.module';
import { LedgerModule } from '../ledger/ledger.module';
import { VolumesModule } from '../volumes/volumes.module';
import { DestinationsController } from './destinations.controller';
import { DestinationsService } from './destinations.service';
import { Remotes } from './remotes';
import { SecretBox } from './secretBox';
import { SendHandler } from './send.handler';
import { SendingService } from './sending.service';

@Module({
  imports: [VolumesModule, JobsModule, LedgerModule],
  controllers: [DestinationsController],
  providers: [DestinationsService, SendingService, SendHandler, Remotes, SecretBox],
})
export class DestinationsModule {}

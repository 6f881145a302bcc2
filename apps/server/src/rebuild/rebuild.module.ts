import { Module } from '@nestjs/common';
import { FramesModule } from '../frames/frames.module';
import { JobsModule } from '../jobs/jobs.module';
import { VolumesModule } from '../volumes/volumes.module';
import { FoundRecords } from './foundRecords.service';
import { RebuildController } from './rebuild.controller';
import { RebuildHandler } from './rebuild.handler';
import { RebuildService } from './rebuild.service';
import { RebuildSteps } from './rebuildSteps';
import { RebuildStore } from './rebuildStore';

@Module({
  imports: [FramesModule, JobsModule, VolumesModule],
  controllers: [RebuildController],
  providers: [FoundRecords, RebuildService, RebuildHandler, RebuildSteps, RebuildStore],
  exports: [FoundRecords, RebuildSteps, RebuildStore],
})
export class RebuildModule {}

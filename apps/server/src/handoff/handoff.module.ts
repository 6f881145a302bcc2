import { Module } from '@nestjs/common';
import { FramesModule } from '../frames/frames.module';
import { LedgerModule } from '../ledger/ledger.module';
import { JobsModule } from '../jobs/jobs.module';
import { MarksModule } from '../marks/marks.module';
import { SidecarsModule } from '../sidecars/sidecars.module';
import { ShootsModule } from '../shoots/shoots.module';
import { VolumesModule } from '../volumes/volumes.module';
import { HandoffController } from './handoff.controller';
import { HandoffService } from './handoff.service';

@Module({
  imports: [VolumesModule, ShootsModule, FramesModule, JobsModule, LedgerModule, MarksModule, SidecarsModule],
  controllers: [HandoffController],
  providers: [HandoffService],
})
export class HandoffModule {}

import { Module } from '@nestjs/common';
import { FramesModule } from '../frames/frames.module';
import { LedgerModule } from '../ledger/ledger.module';
import { JobsModule } from '../jobs/jobs.module';
import { MarksModule } from '../marks/marks.module';
import { MovesModule } from '../moves/moves.module';
import { SidecarsModule } from '../sidecars/sidecars.module';
import { ShootsModule } from '../shoots/shoots.module';
import { VolumesModule } from '../volumes/volumes.module';
import { CopiesWatch } from './copiesWatch.service';
import { HandoffController } from './handoff.controller';
import { HandoffService } from './handoff.service';
import { InsideCopies } from './insideCopies';
import { TakeBackHandler } from './takeBack.handler';
import { WithEditing } from './withEditing';

@Module({
  imports: [
    VolumesModule,
    ShootsModule,
    FramesModule,
    JobsModule,
    LedgerModule,
    MarksModule,
    MovesModule,
    SidecarsModule,
  ],
  controllers: [HandoffController],
  providers: [HandoffService, WithEditing, InsideCopies, TakeBackHandler, CopiesWatch],
})
export class HandoffModule {}

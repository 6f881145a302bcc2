import { Module } from '@nestjs/common';
import { CopiesModule } from '../copies/copies.module';
import { FramesModule } from '../frames/frames.module';
import { JobsModule } from '../jobs/jobs.module';
import { LedgerModule } from '../ledger/ledger.module';
import { ReadersModule } from '../readers/readers.module';
import { ShootsModule } from '../shoots/shoots.module';
import { VolumesModule } from '../volumes/volumes.module';
import { ArrivalsService } from './arrivals.service';
import { ClearanceService } from './clearance.service';
import { ClearHandler } from './clear.handler';
import { IntakeController } from './intake.controller';
import { IntakeHandler } from './intake.handler';
import { IntakeFrames } from './intakeFrames.service';
import { IntakePlansService } from './intakePlans.service';
import { IntakeService } from './intake.service';
import { ReceiptsService } from './receipts.service';

@Module({
  imports: [VolumesModule, ReadersModule, ShootsModule, FramesModule, JobsModule, LedgerModule, CopiesModule],
  controllers: [IntakeController],
  providers: [
    IntakeService,
    IntakePlansService,
    ClearanceService,
    IntakeHandler,
    IntakeFrames,
    ReceiptsService,
    ClearHandler,
    ArrivalsService,
  ],
  exports: [IntakeService, IntakePlansService],
})
export class IntakeModule {}

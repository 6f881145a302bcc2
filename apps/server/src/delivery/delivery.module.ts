import { Module } from '@nestjs/common';
import { FindModule } from '../find/find.module';
import { FramesModule } from '../frames/frames.module';
import { LedgerModule } from '../ledger/ledger.module';
import { JobsModule } from '../jobs/jobs.module';
import { PicturesModule } from '../pictures/pictures.module';
import { PreviewsModule } from '../previews/previews.module';
import { ShootsModule } from '../shoots/shoots.module';
import { SidecarsModule } from '../sidecars/sidecars.module';
import { VolumesModule } from '../volumes/volumes.module';
import { DeliveryController } from './delivery.controller';
import { DeliveryHandler } from './delivery.handler';
import { DeliveryService } from './delivery.service';
import { DeliveryLedger } from './deliveryLedger.service';
import { FinishedFiles } from './finishedFiles.service';
import { LedgerController } from './ledger.controller';
import { SetPlanner } from './setPlanner.service';
import { Watermarks } from './watermarks.service';
import { WholeSet } from './wholeSet.service';
import { ZipMaker } from './zip';

@Module({
  imports: [
    VolumesModule,
    ShootsModule,
    FramesModule,
    JobsModule,
    LedgerModule,
    PreviewsModule,
    PicturesModule,
    SidecarsModule,
    FindModule,
  ],
  controllers: [DeliveryController, LedgerController],
  providers: [
    DeliveryService,
    DeliveryHandler,
    SetPlanner,
    FinishedFiles,
    WholeSet,
    ZipMaker,
    DeliveryLedger,
    Watermarks,
  ],
  exports: [SetPlanner, FinishedFiles],
})
export class DeliveryModule {}

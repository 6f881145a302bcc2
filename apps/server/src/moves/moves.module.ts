import { Module } from '@nestjs/common';
import { FramesModule } from '../frames/frames.module';
import { JobsModule } from '../jobs/jobs.module';
import { LedgerModule } from '../ledger/ledger.module';
import { PassesModule } from '../passes/passes.module';
import { SidecarsModule } from '../sidecars/sidecars.module';
import { ShootsModule } from '../shoots/shoots.module';
import { VocabularyModule } from '../vocabulary/vocabulary.module';
import { VolumesModule } from '../volumes/volumes.module';
import { Arrangements } from './arrangements';
import { Companions } from './companions';
import { DeriveHandler } from './derive.handler';
import { DerivingService } from './deriving.service';
import { FileWays } from './fileWays';
import { LatePlaces } from './latePlaces.service';
import { MoveHandler } from './move.handler';
import { MoveFrames } from './moveFrames';
import { MovesController } from './moves.controller';
import { MovesService } from './moves.service';
import { Rejects } from './rejects';
import { TakeIn } from './takeIn.service';
import { TakenPlaces } from './takenPlaces';
import { Touches } from './touches';

@Module({
  imports: [
    VolumesModule,
    ShootsModule,
    FramesModule,
    JobsModule,
    LedgerModule,
    PassesModule,
    VocabularyModule,
    SidecarsModule,
  ],
  controllers: [MovesController],
  providers: [
    ...[MovesService, MoveHandler, MoveFrames, Arrangements, DerivingService, DeriveHandler],
    ...[Companions, FileWays, LatePlaces, TakeIn, TakenPlaces, Touches, Rejects],
  ],
  exports: [Companions, FileWays, MovesService, TakenPlaces, Touches, Rejects],
})
export class MovesModule {}

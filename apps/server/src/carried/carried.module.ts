import { Module } from '@nestjs/common';
import { BinModule } from '../bin/bin.module';
import { FramesModule } from '../frames/frames.module';
import { JobsModule } from '../jobs/jobs.module';
import { JournalModule } from '../journal/journal.module';
import { MarksModule } from '../marks/marks.module';
import { MovesModule } from '../moves/moves.module';
import { PreviewsModule } from '../previews/previews.module';
import { RebuildModule } from '../rebuild/rebuild.module';
import { VocabularyModule } from '../vocabulary/vocabulary.module';
import { VolumesModule } from '../volumes/volumes.module';
import { CarriedController } from './carried.controller';
import { CarriedService } from './carried.service';
import { CarryHandler } from './carry.handler';

@Module({
  imports: [
    BinModule,
    FramesModule,
    JobsModule,
    JournalModule,
    MarksModule,
    MovesModule,
    PreviewsModule,
    RebuildModule,
    VocabularyModule,
    VolumesModule,
  ],
  controllers: [CarriedController],
  providers: [CarriedService, CarryHandler],
})
export class CarriedModule {}

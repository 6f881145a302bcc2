import { Module } from '@nestjs/common';
import { JobsModule } from '../jobs/jobs.module';
import { JournalModule } from '../journal/journal.module';
import { MarksModule } from '../marks/marks.module';
import { PreviewsModule } from '../previews/previews.module';
import { RebuildModule } from '../rebuild/rebuild.module';
import { VocabularyModule } from '../vocabulary/vocabulary.module';
import { VolumesModule } from '../volumes/volumes.module';
import { CarriedController } from './carried.controller';
import { CarriedService } from './carried.service';
import { CarryHandler } from './carry.handler';

@Module({
  imports: [
    JobsModule,
    JournalModule,
    MarksModule,
    PreviewsModule,
    RebuildModule,
    VocabularyModule,
    VolumesModule,
  ],
  controllers: [CarriedController],
  providers: [CarriedService, CarryHandler],
})
export class CarriedModule {}

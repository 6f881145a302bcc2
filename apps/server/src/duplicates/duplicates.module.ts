import { Module } from '@nestjs/common';
import { BinModule } from '../bin/bin.module';
import { FeaturesModule } from '../features/features.module';
import { JobsModule } from '../jobs/jobs.module';
import { MarksModule } from '../marks/marks.module';
import { PicturesModule } from '../pictures/pictures.module';
import { DuplicatesController } from './duplicates.controller';
import { DuplicatesService } from './duplicates.service';
import { SharedContents } from './sharedContents.service';
import { UsedFrames } from './usedFrames.service';
import { VariantsService } from './variants.service';

@Module({
  imports: [BinModule, FeaturesModule, JobsModule, MarksModule, PicturesModule],
  controllers: [DuplicatesController],
  providers: [DuplicatesService, SharedContents, UsedFrames, VariantsService],
})
export class DuplicatesModule {}

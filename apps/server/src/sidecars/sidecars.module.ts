import { Module } from '@nestjs/common';
import { FramesModule } from '../frames/frames.module';
import { MarksModule } from '../marks/marks.module';
import { MetadataModule } from '../metadata/metadata.module';
import { VocabularyModule } from '../vocabulary/vocabulary.module';
import { VolumesModule } from '../volumes/volumes.module';
import { OtherSidecars } from './otherSidecars.service';
import { SidecarsController } from './sidecars.controller';
import { SidecarsService } from './sidecars.service';
import { SidecarWords } from './sidecarWords.service';
import { SidecarWatch } from './sidecarWatch.service';

/** What marks and words become beside the pictures, and what other programs write there. */
@Module({
  imports: [FramesModule, MarksModule, MetadataModule, VocabularyModule, VolumesModule],
  controllers: [SidecarsController],
  providers: [SidecarsService, SidecarWords, OtherSidecars, SidecarWatch],
  exports: [SidecarsService, SidecarWords, OtherSidecars],
})
export class SidecarsModule {}

import { Module } from '@nestjs/common';
import { MetadataModule } from '../metadata/metadata.module';
import { VolumesModule } from '../volumes/volumes.module';
import { ArchiveTexts } from './archiveTexts.service';
import { DueTexts } from './dueTexts.service';
import { FoundFrames } from './foundFrames';
import { FramesController } from './frames.controller';
import { FramesService } from './frames.service';
import { FrameStore } from './frameStore';
import { OwnTextsService } from './ownTexts.service';
import { Recounts } from './recounts.service';
import { ShootCounts } from './shootCounts';
import { TrailController } from './trail.controller';
import { TrailStore } from './trailStore';

@Module({
  imports: [MetadataModule, VolumesModule],
  controllers: [FramesController, TrailController],
  providers: [
    ArchiveTexts,
    DueTexts,
    FramesService,
    FoundFrames,
    FrameStore,
    OwnTextsService,
    Recounts,
    ShootCounts,
    TrailStore,
  ],
  exports: [
    ArchiveTexts,
    DueTexts,
    FramesService,
    FoundFrames,
    FrameStore,
    OwnTextsService,
    Recounts,
    ShootCounts,
    TrailStore,
  ],
})
export class FramesModule {}

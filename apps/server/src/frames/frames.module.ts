import { Module } from '@nestjs/common';
import { MetadataModule } from '../metadata/metadata.module';
import { VolumesModule } from '../volumes/volumes.module';
import { ArchiveTexts } from './archiveTexts.service';
import { CopyStore } from './copyStore';
import { DueTexts } from './dueTexts.service';
import { FoundFrames } from './foundFrames';
import { FramesController } from './frames.controller';
import { FramesService } from './frames.service';
import { FrameStore } from './frameStore';
import { LeavingFrames } from './leavingFrames';
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
    CopyStore,
    DueTexts,
    FramesService,
    FoundFrames,
    FrameStore,
    LeavingFrames,
    OwnTextsService,
    Recounts,
    ShootCounts,
    TrailStore,
  ],
  exports: [
    ArchiveTexts,
    CopyStore,
    DueTexts,
    FramesService,
    FoundFrames,
    FrameStore,
    LeavingFrames,
    OwnTextsService,
    Recounts,
    ShootCounts,
    TrailStore,
  ],
})
export class FramesModule {}

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

@Module({
  imports: [MetadataModule, VolumesModule],
  controllers: [FramesController],
  providers: [
    ArchiveTexts,
    DueTexts,
    FramesService,
    FoundFrames,
    FrameStore,
    OwnTextsService,
    Recounts,
    ShootCounts,
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
  ],
})
export class FramesModule {}

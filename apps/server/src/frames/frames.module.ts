import { Module } from '@nestjs/common';
import { VolumesModule } from '../volumes/volumes.module';
import { ArchiveTexts } from './archiveTexts.service';
import { DueTexts } from './dueTexts.service';
import { FramesService } from './frames.service';
import { FrameStore } from './frameStore';
import { OwnTextsService } from './ownTexts.service';
import { Recounts } from './recounts.service';
import { ShootCounts } from './shootCounts';

@Module({
  imports: [VolumesModule],
  providers: [ArchiveTexts, DueTexts, FramesService, FrameStore, OwnTextsService, Recounts, ShootCounts],
  exports: [DueTexts, FramesService, FrameStore, OwnTextsService, Recounts, ShootCounts],
})
export class FramesModule {}

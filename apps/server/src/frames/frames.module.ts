import { Module } from '@nestjs/common';
import { VolumesModule } from '../volumes/volumes.module';
import { FramesService } from './frames.service';
import { OwnTextsService } from './ownTexts.service';

@Module({
  imports: [VolumesModule],
  providers: [FramesService, OwnTextsService],
  exports: [FramesService, OwnTextsService],
})
export class FramesModule {}

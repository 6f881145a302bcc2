import { Module } from '@nestjs/common';
import { FeaturesModule } from '../features/features.module';
import { FramesModule } from '../frames/frames.module';
import { MarksModule } from '../marks/marks.module';
import { PicturesModule } from '../pictures/pictures.module';
import { VolumesModule } from '../volumes/volumes.module';
import { DroppedPictures } from './dropped.service';
import { FindController } from './find.controller';
import { FindService } from './find.service';

@Module({
  imports: [FeaturesModule, FramesModule, MarksModule, PicturesModule, VolumesModule],
  controllers: [FindController],
  providers: [DroppedPictures, FindService],
  exports: [FindService],
})
export class FindModule {}

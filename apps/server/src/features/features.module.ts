import { Module } from '@nestjs/common';
import { FramesModule } from '../frames/frames.module';
import { PicturesModule } from '../pictures/pictures.module';
import { PreviewsModule } from '../previews/previews.module';
import { FeaturesController } from './features.controller';
import { FeaturesService } from './features.service';
import { Originals } from './originals.service';
import { PictureHashes } from './pictureHashes.service';

@Module({
  imports: [FramesModule, PicturesModule, PreviewsModule],
  controllers: [FeaturesController],
  providers: [FeaturesService, Originals, PictureHashes],
  exports: [FeaturesService, Originals, PictureHashes],
})
export class FeaturesModule {}

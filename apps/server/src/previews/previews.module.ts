import { Module } from '@nestjs/common';
import { FramesModule } from '../frames/frames.module';
import { MetadataModule } from '../metadata/metadata.module';
import { PicturesModule } from '../pictures/pictures.module';
import { PreviewsController } from './previews.controller';
import { PreviewsService } from './previews.service';

@Module({
  imports: [FramesModule, MetadataModule, PicturesModule],
  controllers: [PreviewsController],
  providers: [PreviewsService],
  exports: [PreviewsService],
})
export class PreviewsModule {}

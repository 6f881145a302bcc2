import { Module } from '@nestjs/common';
import { FramesModule } from '../frames/frames.module';
import { PictureMaker } from './pictureMaker';
import { PreviewsController } from './previews.controller';
import { PreviewsService } from './previews.service';

@Module({
  imports: [FramesModule],
  controllers: [PreviewsController],
  providers: [PreviewsService, PictureMaker],
  exports: [PreviewsService, PictureMaker],
})
export class PreviewsModule {}

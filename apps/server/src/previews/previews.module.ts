import { Module } from '@nestjs/common';
import { FramesModule } from '../frames/frames.module';
import { MetadataModule } from '../metadata/metadata.module';
import { PicturesModule } from '../pictures/pictures.module';
import { PreviewsController } from './previews.controller';
import { ShootsModule } from '../shoots/shoots.module';
import { VolumesModule } from '../volumes/volumes.module';
import { PreviewsService } from './previews.service';
import { PreviewStore } from './previewStore';
import { TravellingPreviews } from './travellingPreviews.service';

@Module({
  imports: [FramesModule, MetadataModule, PicturesModule, ShootsModule, VolumesModule],
  controllers: [PreviewsController],
  providers: [PreviewsService, PreviewStore, TravellingPreviews],
  exports: [PreviewsService, PreviewStore, TravellingPreviews],
})
export class PreviewsModule {}

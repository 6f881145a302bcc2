import { Module } from '@nestjs/common';
import { PicturesModule } from '../pictures/pictures.module';
import { PreviewsModule } from '../previews/previews.module';
import { FeaturesService } from './features.service';

@Module({
  imports: [PicturesModule, PreviewsModule],
  providers: [FeaturesService],
  exports: [FeaturesService],
})
export class FeaturesModule {}

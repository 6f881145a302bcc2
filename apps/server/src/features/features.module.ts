import { Module } from '@nestjs/common';
import { PicturesModule } from '../pictures/pictures.module';
import { PreviewsModule } from '../previews/previews.module';
import { FeaturesController } from './features.controller';
import { FeaturesService } from './features.service';

@Module({
  imports: [PicturesModule, PreviewsModule],
  controllers: [FeaturesController],
  providers: [FeaturesService],
  exports: [FeaturesService],
})
export class FeaturesModule {}

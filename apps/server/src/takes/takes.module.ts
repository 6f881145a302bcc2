import { Module } from '@nestjs/common';
import { FeaturesModule } from '../features/features.module';
import { FramesModule } from '../frames/frames.module';
import { PicturesModule } from '../pictures/pictures.module';
import { ClocksService } from './clocks.service';
import { ClosenessService } from './closeness.service';
import { TakesController } from './takes.controller';

@Module({
  imports: [FeaturesModule, FramesModule, PicturesModule],
  controllers: [TakesController],
  providers: [ClocksService, ClosenessService],
})
export class TakesModule {}

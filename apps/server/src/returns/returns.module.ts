import { Module } from '@nestjs/common';
import { FeaturesModule } from '../features/features.module';
import { FramesModule } from '../frames/frames.module';
import { JobsModule } from '../jobs/jobs.module';
import { MarksModule } from '../marks/marks.module';
import { MetadataModule } from '../metadata/metadata.module';
import { MovesModule } from '../moves/moves.module';
import { PicturesModule } from '../pictures/pictures.module';
import { PreviewsModule } from '../previews/previews.module';
import { ShootsModule } from '../shoots/shoots.module';
import { VolumesModule } from '../volumes/volumes.module';
import { Looks } from './looks';
import { ReturnHandler } from './return.handler';
import { ReturnPlaces } from './returnPlaces';
import { ReturnsController } from './returns.controller';
import { ReturnsService } from './returns.service';
import { ReturnStore } from './returnStore';
import { ReturnsWatch } from './returnsWatch.service';

@Module({
  imports: [
    ...[VolumesModule, ShootsModule, FramesModule, JobsModule, MarksModule, MetadataModule],
    ...[MovesModule, PicturesModule, PreviewsModule, FeaturesModule],
  ],
  controllers: [ReturnsController],
  providers: [ReturnStore, ReturnPlaces, ReturnsService, ReturnHandler, ReturnsWatch, Looks],
})
export class ReturnsModule {}

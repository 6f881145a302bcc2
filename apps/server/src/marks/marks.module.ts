import { Module } from '@nestjs/common';
import { FramesModule } from '../frames/frames.module';
import { MetadataModule } from '../metadata/metadata.module';
import { ShootsModule } from '../shoots/shoots.module';
import { VolumesModule } from '../volumes/volumes.module';
import { MarksController } from './marks.controller';
import { MarksService } from './marks.service';
import { SidecarsService } from './sidecars.service';
import { SidecarWatch } from './sidecarWatch.service';

@Module({
  imports: [FramesModule, MetadataModule, ShootsModule, VolumesModule],
  controllers: [MarksController],
  providers: [MarksService, SidecarsService, SidecarWatch],
  exports: [MarksService, SidecarsService],
})
export class MarksModule {}

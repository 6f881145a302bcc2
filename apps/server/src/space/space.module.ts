import { Module } from '@nestjs/common';
import { BinModule } from '../bin/bin.module';
import { FramesModule } from '../frames/frames.module';
import { PreviewsModule } from '../previews/previews.module';
import { VolumesModule } from '../volumes/volumes.module';
import { KeptSpace } from './keptSpace.service';
import { SpaceController } from './space.controller';
import { SpaceService } from './space.service';

@Module({
  imports: [BinModule, FramesModule, PreviewsModule, VolumesModule],
  controllers: [SpaceController],
  providers: [KeptSpace, SpaceService],
})
export class SpaceModule {}

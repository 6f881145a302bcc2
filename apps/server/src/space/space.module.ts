import { Module } from '@nestjs/common';
import { BinModule } from '../bin/bin.module';
import { PreviewsModule } from '../previews/previews.module';
import { VolumesModule } from '../volumes/volumes.module';
import { SpaceController } from './space.controller';
import { SpaceService } from './space.service';

@Module({
  imports: [BinModule, PreviewsModule, VolumesModule],
  controllers: [SpaceController],
  providers: [SpaceService],
})
export class SpaceModule {}

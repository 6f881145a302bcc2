import { Module } from '@nestjs/common';
import { FramesModule } from '../frames/frames.module';
import { VolumesModule } from '../volumes/volumes.module';
import { ShootsController } from './shoots.controller';
import { ShootsService } from './shoots.service';
import { ShootTextsService } from './shootTexts.service';

@Module({
  imports: [FramesModule, VolumesModule],
  controllers: [ShootsController],
  providers: [ShootsService, ShootTextsService],
  exports: [ShootsService, ShootTextsService],
})
export class ShootsModule {}

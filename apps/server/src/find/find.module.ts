import { Module } from '@nestjs/common';
import { FramesModule } from '../frames/frames.module';
import { VolumesModule } from '../volumes/volumes.module';
import { FindController } from './find.controller';
import { FindService } from './find.service';

@Module({
  imports: [FramesModule, VolumesModule],
  controllers: [FindController],
  providers: [FindService],
  exports: [FindService],
})
export class FindModule {}

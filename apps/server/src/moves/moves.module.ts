import { Module } from '@nestjs/common';
import { FramesModule } from '../frames/frames.module';
import { JobsModule } from '../jobs/jobs.module';
import { MarksModule } from '../marks/marks.module';
import { ShootsModule } from '../shoots/shoots.module';
import { VolumesModule } from '../volumes/volumes.module';
import { MoveHandler } from './move.handler';
import { MovesController } from './moves.controller';
import { MovesService } from './moves.service';

@Module({
  imports: [VolumesModule, ShootsModule, FramesModule, JobsModule, MarksModule],
  controllers: [MovesController],
  providers: [MovesService, MoveHandler],
})
export class MovesModule {}

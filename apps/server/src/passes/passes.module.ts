import { Module } from '@nestjs/common';
import { FramesModule } from '../frames/frames.module';
import { JournalModule } from '../journal/journal.module';
import { MarksModule } from '../marks/marks.module';
import { ShootsModule } from '../shoots/shoots.module';
import { FollowingPasses } from './followingPasses';
import { PassesController } from './passes.controller';
import { PassesService } from './passes.service';

@Module({
  imports: [FramesModule, JournalModule, MarksModule, ShootsModule],
  controllers: [PassesController],
  providers: [PassesService, FollowingPasses],
  exports: [FollowingPasses],
})
export class PassesModule {}

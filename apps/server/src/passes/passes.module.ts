import { Module } from '@nestjs/common';
import { FramesModule } from '../frames/frames.module';
import { JournalModule } from '../journal/journal.module';
import { MarksModule } from '../marks/marks.module';
import { ShootsModule } from '../shoots/shoots.module';
import { PassesController } from './passes.controller';
import { PassesService } from './passes.service';

@Module({
  imports: [FramesModule, JournalModule, MarksModule, ShootsModule],
  controllers: [PassesController],
  providers: [PassesService],
})
export class PassesModule {}

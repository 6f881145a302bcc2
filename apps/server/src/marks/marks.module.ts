import { Module } from '@nestjs/common';
import { FramesModule } from '../frames/frames.module';
import { JournalModule } from '../journal/journal.module';
import { PilesModule } from '../piles/piles.module';
import { ShootsModule } from '../shoots/shoots.module';
import { HistoryController } from './history.controller';
import { MarksController } from './marks.controller';
import { MarksService } from './marks.service';

@Module({
  imports: [FramesModule, JournalModule, PilesModule, ShootsModule],
  controllers: [HistoryController, MarksController],
  providers: [MarksService],
  exports: [MarksService],
})
export class MarksModule {}

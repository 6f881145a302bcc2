import { Module } from '@nestjs/common';
import { FramesModule } from '../frames/frames.module';
import { JournalModule } from '../journal/journal.module';
import { ShootsModule } from '../shoots/shoots.module';
import { Decisions } from './decisions.service';
import { HistoryController } from './history.controller';
import { MarksController } from './marks.controller';
import { MarksService } from './marks.service';
import { AlbumStore } from './albumStore';
import { PileStore } from './pileStore';

@Module({
  imports: [FramesModule, JournalModule, ShootsModule],
  controllers: [HistoryController, MarksController],
  providers: [AlbumStore, Decisions, MarksService, PileStore],
  exports: [AlbumStore, MarksService, PileStore],
})
export class MarksModule {}

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
import { ShootFactsController } from './shootFacts.controller';
import { ShootFactsService } from './shootFacts.service';

@Module({
  imports: [FramesModule, JournalModule, ShootsModule],
  controllers: [HistoryController, MarksController, ShootFactsController],
  providers: [AlbumStore, Decisions, MarksService, PileStore, ShootFactsService],
  exports: [AlbumStore, MarksService, PileStore, ShootFactsService],
})
export class MarksModule {}

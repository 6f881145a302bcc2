import { Module } from '@nestjs/common';
import { FramesModule } from '../frames/frames.module';
import { JournalModule } from '../journal/journal.module';
import { MarksModule } from '../marks/marks.module';
import { RostersService } from './rosters.service';
import { TermFrames } from './termFrames.service';
import { VocabularyController } from './vocabulary.controller';
import { VocabularyService } from './vocabulary.service';

@Module({
  imports: [FramesModule, JournalModule, MarksModule],
  controllers: [VocabularyController],
  providers: [RostersService, TermFrames, VocabularyService],
  exports: [RostersService, VocabularyService],
})
export class VocabularyModule {}

import { Module } from '@nestjs/common';
import { FramesModule } from '../frames/frames.module';
import { JournalModule } from '../journal/journal.module';
import { VolumesModule } from '../volumes/volumes.module';
import { RecordTexts } from './recordTexts.service';

@Module({ imports: [FramesModule, JournalModule, VolumesModule], providers: [RecordTexts] })
export class RecordModule {}

import { Module } from '@nestjs/common';
import { FramesModule } from '../frames/frames.module';
import { JobsModule } from '../jobs/jobs.module';
import { JournalModule } from '../journal/journal.module';
import { ShootsModule } from '../shoots/shoots.module';
import { VolumesModule } from '../volumes/volumes.module';
import { RecordTexts } from './recordTexts.service';

@Module({
  imports: [JobsModule, FramesModule, JournalModule, VolumesModule, ShootsModule],
  providers: [RecordTexts],
})
export class RecordModule {}

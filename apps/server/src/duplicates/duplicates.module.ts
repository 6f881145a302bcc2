import { Module } from '@nestjs/common';
import { BinModule } from '../bin/bin.module';
import { JobsModule } from '../jobs/jobs.module';
import { MarksModule } from '../marks/marks.module';
import { DuplicatesController } from './duplicates.controller';
import { DuplicatesService } from './duplicates.service';

@Module({
  imports: [BinModule, JobsModule, MarksModule],
  controllers: [DuplicatesController],
  providers: [DuplicatesService],
})
export class DuplicatesModule {}

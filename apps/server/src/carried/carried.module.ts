import { Module } from '@nestjs/common';
import { JobsModule } from '../jobs/jobs.module';
import { JournalModule } from '../journal/journal.module';
import { MarksModule } from '../marks/marks.module';
import { RebuildModule } from '../rebuild/rebuild.module';
import { VolumesModule } from '../volumes/volumes.module';
import { CarriedController } from './carried.controller';
import { CarriedService } from './carried.service';
import { CarryHandler } from './carry.handler';

@Module({
  imports: [JobsModule, JournalModule, MarksModule, RebuildModule, VolumesModule],
  controllers: [CarriedController],
  providers: [CarriedService, CarryHandler],
})
export class CarriedModule {}

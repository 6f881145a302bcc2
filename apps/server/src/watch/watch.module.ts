import { Module } from '@nestjs/common';
import { AlbumsModule } from '../albums/albums.module';
import { IntakeModule } from '../intake/intake.module';
import { JobsModule } from '../jobs/jobs.module';
import { MetadataModule } from '../metadata/metadata.module';
import { ReadersModule } from '../readers/readers.module';
import { VolumesModule } from '../volumes/volumes.module';
import { Cleaning } from './cleaning.service';
import { WatchController } from './watch.controller';
import { WatchPlans } from './watchPlans.service';
import { WatchService } from './watch.service';
import { WatchStore } from './watchStore';

@Module({
  imports: [AlbumsModule, IntakeModule, JobsModule, MetadataModule, ReadersModule, VolumesModule],
  controllers: [WatchController],
  providers: [WatchStore, WatchPlans, Cleaning, WatchService],
})
export class WatchModule {}

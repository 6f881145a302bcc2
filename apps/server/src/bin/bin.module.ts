import { Module } from '@nestjs/common';
import { FramesModule } from '../frames/frames.module';
import { JobsModule } from '../jobs/jobs.module';
import { MovesModule } from '../moves/moves.module';
import { ShootsModule } from '../shoots/shoots.module';
import { SidecarsModule } from '../sidecars/sidecars.module';
import { VolumesModule } from '../volumes/volumes.module';
import { BinAway } from './binAway.service';
import { BinController } from './bin.controller';
import { BinHandler } from './bin.handler';
import { BinService } from './bin.service';
import { BinStore } from './binStore';
import { BinTexts } from './binTexts.service';
import { Strayed } from './strayed.service';

@Module({
  imports: [FramesModule, JobsModule, MovesModule, ShootsModule, SidecarsModule, VolumesModule],
  controllers: [BinController],
  providers: [BinAway, BinHandler, BinService, BinStore, BinTexts, Strayed],
  exports: [BinService, BinStore, Strayed],
})
export class BinModule {}

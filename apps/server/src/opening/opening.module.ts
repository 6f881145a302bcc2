import { Module } from '@nestjs/common';
import { FramesModule } from '../frames/frames.module';
import { LedgerModule } from '../ledger/ledger.module';
import { VolumesModule } from '../volumes/volumes.module';
import { Launcher } from './launcher';
import { OpeningController } from './opening.controller';
import { OpeningService } from './opening.service';

@Module({
  imports: [FramesModule, LedgerModule, VolumesModule],
  controllers: [OpeningController],
  providers: [Launcher, OpeningService],
})
export class OpeningModule {}

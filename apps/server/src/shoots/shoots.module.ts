import { Module } from '@nestjs/common';
import { FramesModule } from '../frames/frames.module';
import { JournalModule } from '../journal/journal.module';
import { LedgerModule } from '../ledger/ledger.module';
import { VolumesModule } from '../volumes/volumes.module';
import { ShootsController } from './shoots.controller';
import { ShootsService } from './shoots.service';
import { ShootTextsService } from './shootTexts.service';

@Module({
  imports: [FramesModule, JournalModule, LedgerModule, VolumesModule],
  controllers: [ShootsController],
  providers: [ShootsService, ShootTextsService],
  exports: [ShootsService, ShootTextsService],
})
export class ShootsModule {}

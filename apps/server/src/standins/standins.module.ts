import { Module } from '@nestjs/common';
import { ReadersModule } from '../readers/readers.module';
import { VolumesModule } from '../volumes/volumes.module';
import { StandInsController } from './standins.controller';
import { StandInsService } from './standins.service';

@Module({
  imports: [ReadersModule, VolumesModule],
  controllers: [StandInsController],
  providers: [StandInsService],
})
export class StandInsModule {}

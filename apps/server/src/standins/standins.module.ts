import { Module } from '@nestjs/common';
import { VolumesModule } from '../volumes/volumes.module';
import { StandInsController } from './standins.controller';
import { StandInServers } from './servers/standInServers';
import { StandInsService } from './standins.service';

@Module({
  imports: [VolumesModule],
  controllers: [StandInsController],
  providers: [StandInsService, StandInServers],
})
export class StandInsModule {}

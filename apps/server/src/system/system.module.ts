import { Global, Module } from '@nestjs/common';
import { VolumesModule } from '../volumes/volumes.module';
import { Clock } from './clock';
import { Ids } from './ids';
import { SettingsService } from './settings.service';
import { SystemController } from './system.controller';

@Global()
@Module({
  imports: [VolumesModule],
  controllers: [SystemController],
  providers: [Clock, Ids, SettingsService],
  exports: [Clock, Ids, SettingsService],
})
export class SystemModule {}

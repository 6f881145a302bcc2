import { Module } from '@nestjs/common';
import { PlacesService } from './places.service';
import { VolumesController } from './volumes.controller';
import { VolumesService } from './volumes.service';

@Module({
  controllers: [VolumesController],
  providers: [VolumesService, PlacesService],
  exports: [VolumesService],
})
export class VolumesModule {}

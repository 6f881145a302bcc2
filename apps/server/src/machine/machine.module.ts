import { Module } from '@nestjs/common';
import { AccessModule } from '../access/access.module';
import { PreviewsModule } from '../previews/previews.module';
import { VolumesModule } from '../volumes/volumes.module';
import { MachineController } from './machine.controller';

@Module({ imports: [AccessModule, PreviewsModule, VolumesModule], controllers: [MachineController] })
export class MachineModule {}

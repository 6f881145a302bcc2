import { Module } from '@nestjs/common';
import { AccessModule } from '../access/access.module';
import { PreviewsModule } from '../previews/previews.module';
import { MachineController } from './machine.controller';

@Module({ imports: [AccessModule, PreviewsModule], controllers: [MachineController] })
export class MachineModule {}

import { Module } from '@nestjs/common';
import { MarksModule } from '../marks/marks.module';
import { PilesController } from './piles.controller';
import { PilesService } from './piles.service';

@Module({ imports: [MarksModule], controllers: [PilesController], providers: [PilesService] })
export class PilesModule {}

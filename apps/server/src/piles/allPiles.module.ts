import { Module } from '@nestjs/common';
import { MarksModule } from '../marks/marks.module';
import { PilesController } from './piles.controller';
import { PilesModule } from './piles.module';
import { PilesService } from './piles.service';

/** What is done with piles as a whole, which stands on marks; these stand on the piles alone. */
@Module({ imports: [MarksModule, PilesModule], controllers: [PilesController], providers: [PilesService] })
export class AllPilesModule {}

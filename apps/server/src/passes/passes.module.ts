import { Module } from '@nestjs/common';
import { JournalModule } from '../journal/journal.module';
import { MarksModule } from '../marks/marks.module';
import { ShootsModule } from '../shoots/shoots.module';
import { PassesController } from './passes.controller';
import { PassesService } from './passes.service';

@Module({
  imports: [JournalModule, MarksModule, ShootsModule],
  controllers: [PassesController],
  providers: [PassesService],
})
export class PassesModule {}

import { Module } from '@nestjs/common';
import { ArchivesController } from './archives.controller';
import { ArchivesService } from './archives.service';
import { Starter } from './starter';

@Module({
  controllers: [ArchivesController],
  providers: [ArchivesService, Starter],
})
export class ArchivesModule {}

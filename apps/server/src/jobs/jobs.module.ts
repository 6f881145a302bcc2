import { Module } from '@nestjs/common';
import { JobsController } from './jobs.controller';
import { OpenJobs } from './openJobs.service';
import { JobsService } from './jobs.service';

@Module({
  controllers: [JobsController],
  providers: [JobsService, OpenJobs],
  exports: [JobsService, OpenJobs],
})
export class JobsModule {}

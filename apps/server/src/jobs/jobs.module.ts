import { Module } from '@nestjs/common';
import { JobsController } from './jobs.controller';
import { OpenJobs } from './openJobs.service';
import { JobStore } from './jobStore';
import { JobsService } from './jobs.service';

@Module({
  controllers: [JobsController],
  providers: [JobStore, JobsService, OpenJobs],
  exports: [JobStore, JobsService, OpenJobs],
})
export class JobsModule {}

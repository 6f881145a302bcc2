import { Module } from '@nestjs/common';
import { FramesModule } from '../frames/frames.module';
import { JobsModule } from '../jobs/jobs.module';
import { PreviewsModule } from '../previews/previews.module';
import { ShootsModule } from '../shoots/shoots.module';
import { VolumesModule } from '../volumes/volumes.module';
import { CopiesController } from './copies.controller';
import { CopiesService } from './copies.service';
import { CopyHandler } from './copy.handler';
import { MissingCopies } from './missingCopies.service';
import { PreviewsAlong } from './previewsAlong.service';
import { ProofSchedule } from './proofSchedule.service';
import { ReleaseHandler } from './release.handler';
import { VerifyHandler } from './verify.handler';

@Module({
  imports: [VolumesModule, ShootsModule, FramesModule, PreviewsModule, JobsModule],
  controllers: [CopiesController],
  providers: [
    CopiesService,
    MissingCopies,
    PreviewsAlong,
    CopyHandler,
    ReleaseHandler,
    VerifyHandler,
    ProofSchedule,
  ],
  exports: [CopiesService, VerifyHandler],
})
export class CopiesModule {}

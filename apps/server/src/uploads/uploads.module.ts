import { Module } from '@nestjs/common';
import { ReadersModule } from '../readers/readers.module';
import { UploadsController } from './uploads.controller';
import { UploadsService } from './uploads.service';
import { UploadStore } from './uploadStore';
import { UploadStreams } from './uploadStreams';

@Module({
  imports: [ReadersModule],
  controllers: [UploadsController],
  providers: [UploadStore, UploadStreams, UploadsService],
})
export class UploadsModule {}

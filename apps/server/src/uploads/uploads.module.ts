import { Module } from '@nestjs/common';
import { AccessModule } from '../access/access.module';
import { OutsideModule } from '../outside/outside.module';
import { ReadersModule } from '../readers/readers.module';
import { UploadDoor } from './public/uploadDoor';
import { UploadLinksService } from './uploadLinks.service';
import { UploadsController } from './uploads.controller';
import { UploadsService } from './uploads.service';
import { UploadStore } from './uploadStore';
import { UploadStreams } from './uploadStreams';

@Module({
  imports: [AccessModule, OutsideModule, ReadersModule],
  controllers: [UploadsController],
  providers: [UploadStore, UploadStreams, UploadLinksService, UploadsService, UploadDoor],
})
export class UploadsModule {}

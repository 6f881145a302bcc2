import { Module } from '@nestjs/common';
import { DeliveryModule } from '../delivery/delivery.module';
import { FramesModule } from '../frames/frames.module';
import { JobsModule } from '../jobs/jobs.module';
import { LedgerModule } from '../ledger/ledger.module';
import { MarksModule } from '../marks/marks.module';
import { OutsideModule } from '../outside/outside.module';
import { ShootsModule } from '../shoots/shoots.module';
import { VolumesModule } from '../volumes/volumes.module';
import { GalleriesService } from './galleries.service';
import { GalleryController } from './gallery.controller';
import { GalleryHandler } from './gallery.handler';
import { GalleryDoors } from './galleryDoors.service';
import { GalleryDownloads } from './galleryDownloads.service';
import { GalleryFiles } from './galleryFiles';
import { GalleryApp } from './public/galleryApp';
import { SayingService } from './saying.service';

@Module({
  imports: [
    OutsideModule,
    VolumesModule,
    ShootsModule,
    FramesModule,
    MarksModule,
    JobsModule,
    LedgerModule,
    DeliveryModule,
  ],
  controllers: [GalleryController],
  providers: [
    GalleriesService,
    GalleryHandler,
    GalleryDoors,
    GalleryDownloads,
    GalleryFiles,
    SayingService,
    GalleryApp,
  ],
  exports: [GalleryDoors],
})
export class GalleryModule {}

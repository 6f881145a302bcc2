import { Module } from '@nestjs/common';
import { AccessModule } from '../access/access.module';
import { DeliveryModule } from '../delivery/delivery.module';
import { FramesModule } from '../frames/frames.module';
import { JobsModule } from '../jobs/jobs.module';
import { LedgerModule } from '../ledger/ledger.module';
import { MarksModule } from '../marks/marks.module';
import { ShootsModule } from '../shoots/shoots.module';
import { VolumesModule } from '../volumes/volumes.module';
import { GalleriesService } from './galleries.service';
import { GalleryController } from './gallery.controller';
import { GalleryHandler } from './gallery.handler';
import { GalleryDoors } from './galleryDoors.service';
import { GalleryDownloads } from './galleryDownloads.service';
import { GalleryFiles } from './galleryFiles';
import { GalleryApp } from './public/galleryApp';
import { GalleryListener } from './public/galleryListener';
import { PageAssets } from './public/pageAssets';
import { SayingService } from './saying.service';

@Module({
  imports: [
    AccessModule,
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
    GalleryListener,
    PageAssets,
  ],
  exports: [GalleryDoors],
})
export class GalleryModule {}

import { Module } from '@nestjs/common';
import { ArrivalLedger } from './arrivalLedger';
import { GalleryLedger } from './galleryLedger';
import { OutLedger } from './outLedger';

/** What happened to which content, for ever. */
@Module({
  providers: [ArrivalLedger, OutLedger, GalleryLedger],
  exports: [ArrivalLedger, OutLedger, GalleryLedger],
})
export class LedgerModule {}

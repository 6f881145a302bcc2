import { Module } from '@nestjs/common';
import { ArrivalLedger } from './arrivalLedger';
import { FollowFrames } from './followFrames';
import { GalleryLedger } from './galleryLedger';
import { MessageLedger } from './messageLedger';
import { OutLedger } from './outLedger';

/** What happened to which content, for ever. */
@Module({
  providers: [ArrivalLedger, OutLedger, GalleryLedger, MessageLedger, FollowFrames],
  exports: [ArrivalLedger, OutLedger, GalleryLedger, MessageLedger, FollowFrames],
})
export class LedgerModule {}

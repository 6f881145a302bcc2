import { Module } from '@nestjs/common';
import { AccessModule } from '../access/access.module';
import { DeliveryModule } from '../delivery/delivery.module';
import { FramesModule } from '../frames/frames.module';
import { GalleryModule } from '../gallery/gallery.module';
import { LedgerModule } from '../ledger/ledger.module';
import { ShootsModule } from '../shoots/shoots.module';
import { MailAccounts } from './mailAccounts.service';
import { Mailer } from './mailer';
import { MessagesController } from './messages.controller';
import { MessagesService } from './messages.service';

@Module({
  imports: [AccessModule, ShootsModule, FramesModule, LedgerModule, DeliveryModule, GalleryModule],
  controllers: [MessagesController],
  providers: [MailAccounts, Mailer, MessagesService],
})
export class MessagesModule {}

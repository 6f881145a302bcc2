import { Module } from '@nestjs/common';
import { AccessModule } from '../access/access.module';
import { OutsideApp } from './outsideApp';
import { OutsideListener } from './outsideListener';
import { PageAssets } from './pageAssets';
import { SecretLinks } from './secretLinks';

@Module({
  imports: [AccessModule],
  providers: [OutsideApp, OutsideListener, PageAssets, SecretLinks],
  exports: [OutsideApp, OutsideListener, PageAssets, SecretLinks],
})
export class OutsideModule {}

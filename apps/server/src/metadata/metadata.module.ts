import { Module } from '@nestjs/common';
import { Contents } from './contents.service';
import { MetadataTool } from './metadataTool';
import { Parser } from './parser';

@Module({
  providers: [Contents, MetadataTool, Parser],
  exports: [Contents, Parser, MetadataTool],
})
export class MetadataModule {}

import { Module } from '@nestjs/common';
import { MetadataModule } from '../metadata/metadata.module';
import { PicturesModule } from '../pictures/pictures.module';
import { ReadersController } from './readers.controller';
import { ReadersService } from './readers.service';

@Module({
  imports: [MetadataModule, PicturesModule],
  controllers: [ReadersController],
  providers: [ReadersService],
  exports: [ReadersService],
})
export class ReadersModule {}

import { Module } from '@nestjs/common';
import { FindModule } from '../find/find.module';
import { FramesModule } from '../frames/frames.module';
import { MarksModule } from '../marks/marks.module';
import { AlbumsController } from './albums.controller';
import { AlbumsService } from './albums.service';
import { AlbumTexts } from './albumTexts.service';

@Module({
  imports: [FindModule, FramesModule, MarksModule],
  controllers: [AlbumsController],
  providers: [AlbumsService, AlbumTexts],
  exports: [AlbumsService],
})
export class AlbumsModule {}

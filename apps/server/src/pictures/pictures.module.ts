import { Module } from '@nestjs/common';
import { PictureMaker } from './pictureMaker';
import { Posters } from './posters';

@Module({ providers: [PictureMaker, Posters], exports: [PictureMaker, Posters] })
export class PicturesModule {}

import { Controller, Get, Param, Res, StreamableFile } from '@nestjs/common';
import { ApiProduces, ApiTags } from '@nestjs/swagger';
import { ArkivError, type PreviewSize } from '@arkiv/core';
import type { Response } from 'express';
import { PREVIEW_TYPE, PreviewsService } from './previews.service';

/** Seconds that a sheet scrolls back and forth over what is there; then it is asked for once more. */
const STANDS_IN = 'private, max-age=60';

@ApiTags('previews')
@Controller('api/previews')
export class PreviewsController {
  constructor(private readonly previews: PreviewsService) {}

  @Get('v:version/:picture/:size')
  @ApiProduces('image/jpeg', 'image/webp')
  async get(
    @Param('picture') picture: string,
    @Param('size') size: string,
    @Res({ passthrough: true }) response: Response,
  ): Promise<StreamableFile> {
    if (!(size in PREVIEW_TYPE)) throw new ArkivError('not-found', { what: 'size', id: size });
    const { bytes, last } = await this.previews.find(picture, size as PreviewSize);
    // Named by content and maker version, it never changes under this address; what stands in for it does.
    response.setHeader('Cache-Control', last ? 'private, max-age=31536000, immutable' : STANDS_IN);
    return new StreamableFile(bytes, { type: PREVIEW_TYPE[size as PreviewSize] });
  }
}

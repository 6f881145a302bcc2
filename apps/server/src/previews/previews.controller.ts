import { Controller, Get, Param, Res, StreamableFile } from '@nestjs/common';
import { ApiProduces, ApiTags } from '@nestjs/swagger';
import { ArkivError, type PreviewSize } from '@arkiv/core';
import type { Response } from 'express';
import { PREVIEW_TYPE, PreviewsService } from './previews.service';

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
    const bytes = await this.previews.get(picture, size as PreviewSize);
    // Named by content and maker version: it never changes under this address.
    response.setHeader('Cache-Control', 'private, max-age=31536000, immutable');
    return new StreamableFile(bytes, { type: PREVIEW_TYPE[size as PreviewSize] });
  }
}

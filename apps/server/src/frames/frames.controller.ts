import path from 'node:path';
import { Controller, Get, Param } from '@nestjs/common';
import { ApiOkResponse, ApiProperty, ApiTags } from '@nestjs/swagger';
import { ArkivError, type FactGroup } from '@arkiv/core';
import { Contents } from '../metadata/contents.service';
import { FramesService } from './frames.service';

export class CameraFactDto {
  @ApiProperty() name: string;
  @ApiProperty() value: string;
}

export class FactGroupDto implements FactGroup {
  @ApiProperty() name: string;
  @ApiProperty({ type: [CameraFactDto] }) facts: CameraFactDto[];
}

export class CameraFactsDto {
  @ApiProperty({ description: 'name of the file that says so' }) file: string;
  @ApiProperty({ description: 'its place below the drive' }) path: string;
  @ApiProperty({ type: [FactGroupDto] }) groups: FactGroupDto[];
}

@ApiTags('frames')
@Controller('api/frames')
export class FramesController {
  constructor(
    private readonly frames: FramesService,
    private readonly contents: Contents,
  ) {}

  /** Everything the camera wrote into a frame's files, read from them now. */
  @Get(':id/camera')
  @ApiOkResponse({ type: [CameraFactsDto] })
  async camera(@Param('id') id: string): Promise<CameraFactsDto[]> {
    const frame = await this.frames.frame(id);
    if (!frame) throw new ArkivError('not-found', { what: 'frame', id });
    const said: CameraFactsDto[] = [];
    for (const { id: assetId, at } of await this.frames.originals([id])) {
      const { file } = await this.frames.locate(assetId);
      const groups = await this.contents.everything(file);
      said.push({ file: path.posix.basename(at), path: at, groups: groups ?? [] });
    }
    return said;
  }
}

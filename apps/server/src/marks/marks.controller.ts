import { Body, Controller, HttpCode, Post } from '@nestjs/common';
import { ApiOkResponse, ApiTags } from '@nestjs/swagger';
import { ArkivError, STUDIO, type MarkOperation } from '@arkiv/core';
import { SettingsService } from '../settings/settings.service';
import { AppliedMarksDto, FramesAskedDto, MarksDto, MarksNowDto } from './marks.dto';
import { MarksService } from './marks.service';

@ApiTags('marks')
@Controller('api/marks')
export class MarksController {
  constructor(
    private readonly marks: MarksService,
    private readonly settings: SettingsService,
  ) {}

  @Post()
  @HttpCode(200)
  @ApiOkResponse({ type: AppliedMarksDto })
  async apply(@Body() body: MarksDto): Promise<AppliedMarksDto> {
    const { id, name } = await this.settings.archive();
    if (body.archive !== undefined && body.archive !== id)
      throw new ArkivError('archive.other', { archive: name });
    const operations = body.operations.map((operation): MarkOperation => {
      const { pass = null, undoes = null } = operation;
      return { ...operation, by: STUDIO, pass, undoes };
    });
    return this.marks.apply(operations);
  }

  /** The marks of frames by id, in whatever shoot they are: what a window asks before it takes marks back there. */
  @Post('now')
  @HttpCode(200)
  @ApiOkResponse({ type: MarksNowDto })
  async now(@Body() { frameIds }: FramesAskedDto): Promise<MarksNowDto> {
    return { frames: await this.marks.now(frameIds) };
  }
}

import { Body, Controller, HttpCode, Post } from '@nestjs/common';
import { ApiBody, ApiOkResponse, ApiTags } from '@nestjs/swagger';
import { ArkivError } from '@arkiv/core';
import { SettingsService } from '../settings/settings.service';
import { AppliedMarksDto, FramesAskedDto, MarksDto, MarksNowDto } from './marks.dto';
import { Sent, type SentMarks } from './sent';
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
  @ApiBody({ type: MarksDto })
  @ApiOkResponse({ type: AppliedMarksDto })
  async apply(@Sent() { operations, archive }: SentMarks): Promise<AppliedMarksDto> {
    const { id, name } = await this.settings.archive();
    if (archive !== undefined && archive !== id) throw new ArkivError('archive.other', { archive: name });
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

import { Body, Controller, Get, HttpCode, Post } from '@nestjs/common';
import { ApiOkResponse, ApiTags } from '@nestjs/swagger';
import { ArkivError } from '@arkiv/core';
import { SettingsService } from '../system/settings.service';
import { AppliedMarksDto, FramesAskedDto, MarksDto, MarksNowDto, WaitingSidecarsDto } from './marks.dto';
import { MarksService } from './marks.service';
import { SidecarsService } from './sidecars.service';

@ApiTags('marks')
@Controller('api/marks')
export class MarksController {
  constructor(
    private readonly marks: MarksService,
    private readonly settings: SettingsService,
    private readonly sidecars: SidecarsService,
  ) {}

  @Post()
  @HttpCode(200)
  @ApiOkResponse({ type: AppliedMarksDto })
  async apply(@Body() body: MarksDto): Promise<AppliedMarksDto> {
    const { id, name } = await this.settings.archive();
    if (body.archive !== undefined && body.archive !== id)
      throw new ArkivError('archive.other', { archive: name });
    return this.marks.apply(body.operations);
  }

  /** The marks of frames by id, in whatever shoot they are: what a window asks before it takes marks back there. */
  @Post('now')
  @HttpCode(200)
  @ApiOkResponse({ type: MarksNowDto })
  async now(@Body() { frameIds }: FramesAskedDto): Promise<MarksNowDto> {
    return { frames: await this.marks.now(frameIds) };
  }

  /** Sidecars that are not written yet, drive by drive, and why. */
  @Get('sidecars')
  @ApiOkResponse({ type: [WaitingSidecarsDto] })
  waiting(): Promise<WaitingSidecarsDto[]> {
    return this.sidecars.waiting();
  }

  /** Tries them now instead of with the next mark. */
  @Post('sidecars')
  @HttpCode(204)
  async tryNow(): Promise<void> {
    await this.sidecars.flush();
  }
}

import { Body, Controller, HttpCode, Post } from '@nestjs/common';
import { ApiOkResponse, ApiTags } from '@nestjs/swagger';
import { ArkivError } from '@arkiv/core';
import { SettingsService } from '../system/settings.service';
import { AppliedMarksDto, MarksDto } from './marks.dto';
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
    return this.marks.apply(body.operations);
  }
}

import { Controller, Get, Param, Query } from '@nestjs/common';
import { ApiOkResponse, ApiTags } from '@nestjs/swagger';
import { Journal } from '../journal/journal';
import { HistoryAskedDto, HistoryDto } from './marks.dto';

/** Operations in one answer: about 250 kB, and more steps than anybody takes back one by one. */
const PAGE = 1000;

@ApiTags('marks')
@Controller('api')
export class HistoryController {
  constructor(private readonly journal: Journal) {}

  /** What was decided in a shoot, the newest page, or the one before a number. */
  @Get('shoots/:id/history')
  @ApiOkResponse({ type: HistoryDto })
  async page(@Param('id') id: string, @Query() { before }: HistoryAskedDto): Promise<HistoryDto> {
    return (await this.journal.page(id, PAGE, before ?? null)) as HistoryDto;
  }

  /** What was decided anywhere in the archive, the newest page, or the one before a number. */
  @Get('history')
  @ApiOkResponse({ type: HistoryDto })
  async everywhere(@Query() { before }: HistoryAskedDto): Promise<HistoryDto> {
    return (await this.journal.page(null, PAGE, before ?? null)) as HistoryDto;
  }
}

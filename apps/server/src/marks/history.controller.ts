import { Body, Controller, Get, HttpCode, Param, Post, Query } from '@nestjs/common';
import { ApiOkResponse, ApiTags } from '@nestjs/swagger';
import { Journal } from '../journal/journal';
import { DecidedStepsAskedDto, DecidedStepsDto, TurnDto, TurnedDto } from './decisions.dto';
import { Decisions } from './decisions.service';
import { HistoryAskedDto, HistoryDto } from './marks.dto';

/** Operations in one answer: about 250 kB, and more steps than anybody takes back one by one. */
const PAGE = 1000;

@ApiTags('marks')
@Controller('api')
export class HistoryController {
  constructor(
    private readonly journal: Journal,
    private readonly decided: Decisions,
  ) {}

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

  /** What was decided in a shoot, step by step, the newest first. */
  @Get('shoots/:id/decisions')
  @ApiOkResponse({ type: DecidedStepsDto })
  decisions(@Param('id') id: string, @Query() asked: DecidedStepsAskedDto): Promise<DecidedStepsDto> {
    return this.decided.page(id, asked);
  }

  /** Takes one step back, or does it again; what was changed since stays. */
  @Post('shoots/:id/decisions/:group')
  @HttpCode(200)
  @ApiOkResponse({ type: TurnedDto })
  turn(@Param('id') id: string, @Param('group') group: string, @Body() { to }: TurnDto): Promise<TurnedDto> {
    return this.decided.turn(id, group, to === 'back');
  }
}

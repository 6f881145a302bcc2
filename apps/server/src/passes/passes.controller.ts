import { Body, Controller, Get, HttpCode, Param, Post, Put } from '@nestjs/common';
import { ApiCreatedResponse, ApiNoContentResponse, ApiOkResponse, ApiTags } from '@nestjs/swagger';
import {
  ComparedPassesDto,
  DecisionDto,
  NewPassDto,
  PassChoicesAskedDto,
  PassChoicesDto,
  PassDto,
  PassProgressDto,
  UndonePassDto,
  WholePassDto,
} from './passes.dto';
import { PassesService } from './passes.service';

@ApiTags('passes')
@Controller('api')
export class PassesController {
  constructor(private readonly passes: PassesService) {}

  @Get('shoots/:id/passes')
  @ApiOkResponse({ type: [PassDto], description: 'the newest first' })
  list(@Param('id') id: string): Promise<PassDto[]> {
    return this.passes.list(id);
  }

  /** Begins a pass over frames of one shoot or several; sent twice it is one. */
  @Post('passes')
  @ApiCreatedResponse({ type: WholePassDto })
  begin(@Body() asked: NewPassDto): Promise<WholePassDto> {
    return this.passes.begin(asked);
  }

  /** How many frames a pass could be about. */
  @Post('passes/choices')
  @HttpCode(200)
  @ApiOkResponse({ type: PassChoicesDto })
  choices(@Body() { over }: PassChoicesAskedDto): Promise<PassChoicesDto> {
    return this.passes.choices(over);
  }

  @Get('passes/:id')
  @ApiOkResponse({ type: WholePassDto })
  get(@Param('id') id: string): Promise<WholePassDto> {
    return this.passes.get(id);
  }

  /** How far it came. */
  @Put('passes/:id')
  @HttpCode(204)
  @ApiNoContentResponse()
  async progress(@Param('id') id: string, @Body() asked: PassProgressDto): Promise<void> {
    await this.passes.progress(id, asked);
  }

  /** What was decided in it, and when. */
  @Get('passes/:id/decisions')
  @ApiOkResponse({ type: [DecisionDto] })
  async decisions(@Param('id') id: string): Promise<DecisionDto[]> {
    return (await this.passes.decisions(id)).map(({ subject, kind, at }) => ({ subject, kind, at }));
  }

  /** What both kept, and what only one did, of the frames that both have seen. */
  @Get('passes/:id/compare/:other')
  @ApiOkResponse({ type: ComparedPassesDto })
  compare(@Param('id') id: string, @Param('other') other: string): Promise<ComparedPassesDto> {
    return this.passes.compare(id, other);
  }

  /** Takes back all marks that were made in it, but those that were changed since. */
  @Post('passes/:id/undo')
  @HttpCode(200)
  @ApiOkResponse({ type: UndonePassDto })
  undo(@Param('id') id: string): Promise<UndonePassDto> {
    return this.passes.undo(id);
  }
}

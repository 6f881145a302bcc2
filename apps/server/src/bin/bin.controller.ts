import { Body, Controller, Get, HttpCode, Param, Post } from '@nestjs/common';
import { ApiCreatedResponse, ApiOkResponse, ApiTags } from '@nestjs/swagger';
import { PlacedFrameDto } from '../frames/placedFrame.dto';
import { BinDto, BinPlanDto, BinRequestDto, BringBackDto, EmptyBinDto, StartedBinDto } from './bin.dto';
import { BinService } from './bin.service';

@ApiTags('bin')
@Controller('api/bin')
export class BinController {
  constructor(private readonly bin: BinService) {}

  /** What is in the bin, and what was forgotten with its files left. */
  @Get()
  @ApiOkResponse({ type: BinDto })
  list(): Promise<BinDto> {
    return this.bin.list();
  }

  /** What would be done away with; nothing is touched. */
  @Post('plan')
  @HttpCode(200)
  @ApiOkResponse({ type: BinPlanDto })
  plan(@Body() asked: BinRequestDto): Promise<BinPlanDto> {
    return this.bin.plan(asked);
  }

  /** Puts frames into the bin of each drive, forgets them with their files left, or deletes them. */
  @Post()
  @ApiCreatedResponse({ type: StartedBinDto })
  start(@Body() asked: BinRequestDto): Promise<StartedBinDto> {
    return this.bin.start(asked);
  }

  @Post('back')
  @ApiCreatedResponse({ type: StartedBinDto })
  back(@Body() { binId, frameIds }: BringBackDto): Promise<StartedBinDto> {
    return this.bin.back(binId, frameIds ?? null);
  }

  /** Takes back what a job put into the bin or forgot. */
  @Post('jobs/:id/undo')
  @ApiCreatedResponse({ type: StartedBinDto })
  undo(@Param('id') id: string): Promise<StartedBinDto> {
    return this.bin.undo(id);
  }

  /** Deletes what lies in the bin. There is no way back. */
  @Post('empty')
  @ApiCreatedResponse({ type: StartedBinDto })
  empty(@Body() { binIds, olderThanDays = 0, typed }: EmptyBinDto): Promise<StartedBinDto> {
    return this.bin.empty(binIds ?? null, olderThanDays, typed);
  }

  @Get(':id/frames')
  @ApiOkResponse({ type: [PlacedFrameDto] })
  frames(@Param('id') id: string): Promise<PlacedFrameDto[]> {
    return this.bin.frames(id);
  }
}

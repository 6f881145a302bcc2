import { Body, Controller, HttpCode, Param, Post } from '@nestjs/common';
import { ApiCreatedResponse, ApiOkResponse, ApiTags } from '@nestjs/swagger';
import { DerivingService } from './deriving.service';
import { MovePlanDto, MoveRequestDto, StartedMoveDto } from './moves.dto';
import { MovesService } from './moves.service';

@ApiTags('moves')
@Controller('api/moves')
export class MovesController {
  constructor(
    private readonly moves: MovesService,
    private readonly deriving: DerivingService,
  ) {}

  /** What splitting, merging, renaming, arranging, copying or setting aside would do; nothing is touched. */
  @Post('plan')
  @HttpCode(200)
  @ApiOkResponse({ type: MovePlanDto })
  async plan(@Body() asked: MoveRequestDto): Promise<MovePlanDto> {
    const plan = await (asked.copies ? this.deriving : this.moves).plan(asked);
    return MovePlanDto.of(plan, await this.moves.touched(plan));
  }

  @Post()
  @ApiCreatedResponse({ type: StartedMoveDto })
  start(@Body() asked: MoveRequestDto): Promise<StartedMoveDto> {
    return (asked.copies ? this.deriving : this.moves).start(asked);
  }

  /** Takes a finished move back. */
  @Post(':jobId/undo')
  @ApiCreatedResponse({ type: StartedMoveDto })
  undo(@Param('jobId') jobId: string): Promise<StartedMoveDto> {
    return this.moves.undo(jobId);
  }
}

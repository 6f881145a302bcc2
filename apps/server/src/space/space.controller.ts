import { Body, Controller, Get, Post, Query } from '@nestjs/common';
import { ApiCreatedResponse, ApiOkResponse, ApiTags } from '@nestjs/swagger';
import { BegunRejectsDto, BinRejectsDto, OldRejectsAskedDto, OldRejectsDto, SpaceDto } from './space.dto';
import { SpaceService } from './space.service';

@ApiTags('space')
@Controller('api/space')
export class SpaceController {
  constructor(private readonly space: SpaceService) {}

  /** What takes how much, and what could go. */
  @Get()
  @ApiOkResponse({ type: SpaceDto })
  taken(): Promise<SpaceDto> {
    return this.space.taken();
  }

  /** Rejects that could go, of shoots that are old enough. */
  @Get('rejects')
  @ApiOkResponse({ type: OldRejectsDto })
  old(@Query() { until }: OldRejectsAskedDto): Promise<OldRejectsDto> {
    return this.space.rejects(until);
  }

  /** Puts the rejects of shoots into the bin. */
  @Post('rejects')
  @ApiCreatedResponse({ type: BegunRejectsDto })
  rejects(@Body() { shootIds }: BinRejectsDto): Promise<BegunRejectsDto> {
    return this.space.binRejects(shootIds);
  }
}

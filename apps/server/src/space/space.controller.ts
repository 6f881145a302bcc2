import { Body, Controller, Get, Post, Query } from '@nestjs/common';
import { ApiCreatedResponse, ApiOkResponse, ApiTags } from '@nestjs/swagger';
import {
  BegunRejectsDto,
  BinRejectsDto,
  OldRejectsAskedDto,
  OldRejectsDto,
  SpaceCountingDto,
  SpaceDto,
} from './space.dto';
import { KeptSpace } from './keptSpace.service';
import { SpaceService } from './space.service';

@ApiTags('space')
@Controller('api/space')
export class SpaceController {
  constructor(
    private readonly space: SpaceService,
    private readonly kept: KeptSpace,
  ) {}

  /** What takes how much, and what could go. */
  @Get()
  @ApiOkResponse({ type: SpaceDto })
  taken(): Promise<SpaceDto> {
    return this.space.taken();
  }

  /** How far the counting is, for whoever waits for it. */
  @Get('counting')
  @ApiOkResponse({ type: SpaceCountingDto })
  counting(): SpaceCountingDto {
    return this.kept.progress();
  }

  /** Rejects that could go, of shoots that are old enough. */
  @Get('rejects')
  @ApiOkResponse({ type: OldRejectsDto })
  old(@Query() asked: OldRejectsAskedDto): Promise<OldRejectsDto> {
    return this.space.rejects(asked);
  }

  /** Puts the rejects of shoots into the bin. */
  @Post('rejects')
  @ApiCreatedResponse({ type: BegunRejectsDto })
  rejects(@Body() { shootIds }: BinRejectsDto): Promise<BegunRejectsDto> {
    return this.space.binRejects(shootIds);
  }
}

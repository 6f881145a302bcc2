import { Body, Controller, Get, Post } from '@nestjs/common';
import { ApiCreatedResponse, ApiOkResponse, ApiTags } from '@nestjs/swagger';
import { BegunRejectsDto, BinRejectsDto, SpaceDto } from './space.dto';
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

  /** Puts the rejects of shoots into the bin. */
  @Post('rejects')
  @ApiCreatedResponse({ type: BegunRejectsDto })
  rejects(@Body() { shootIds }: BinRejectsDto): Promise<BegunRejectsDto> {
    return this.space.binRejects(shootIds);
  }
}

import { Body, Controller, Delete, Get, HttpCode, Param, Patch, Post } from '@nestjs/common';
import { ApiCreatedResponse, ApiNoContentResponse, ApiOkResponse, ApiTags } from '@nestjs/swagger';
import { EmptiedPileDto, PileDto, PiledFramesDto, PileNameDto } from './piles.dto';
import { PilesService } from './piles.service';
import { PileStore } from '../marks/pileStore';

@ApiTags('piles')
@Controller('api/piles')
export class PilesController {
  constructor(
    private readonly store: PileStore,
    private readonly piles: PilesService,
  ) {}

  @Get()
  @ApiOkResponse({ type: [PileDto] })
  list(): Promise<PileDto[]> {
    return this.store.list();
  }

  @Post()
  @ApiCreatedResponse({ type: PileDto })
  async create(@Body() { name }: PileNameDto): Promise<PileDto> {
    const { id, number } = await this.store.create(name);
    return { id, name, number, frames: 0 };
  }

  /** A pile with its frames in all shoots. */
  @Get(':id')
  @ApiOkResponse({ type: PiledFramesDto })
  shown(@Param('id') id: string): Promise<PiledFramesDto> {
    return this.piles.shown(id);
  }

  @Patch(':id')
  @HttpCode(204)
  @ApiNoContentResponse()
  async rename(@Param('id') id: string, @Body() { name }: PileNameDto): Promise<void> {
    await this.store.rename(id, name);
  }

  /** Takes all frames out of it; no file is touched. */
  @Delete(':id/frames')
  @ApiOkResponse({ type: EmptiedPileDto })
  empty(@Param('id') id: string): Promise<EmptiedPileDto> {
    return this.piles.empty(id);
  }

  /** Takes all frames out of it, and the pile away; no file is touched. */
  @Delete(':id')
  @HttpCode(204)
  @ApiNoContentResponse()
  async remove(@Param('id') id: string): Promise<void> {
    await this.piles.remove(id);
  }
}

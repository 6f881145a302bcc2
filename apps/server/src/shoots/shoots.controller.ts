import { Body, Controller, Get, HttpCode, Param, Put } from '@nestjs/common';
import { ApiOkResponse, ApiTags } from '@nestjs/swagger';
import { CorrectClocksDto, FrameColumnsDto, ShootDto } from './shoots.dto';
import { ShootsService } from './shoots.service';

@ApiTags('shoots')
@Controller('api/shoots')
export class ShootsController {
  constructor(private readonly shoots: ShootsService) {}

  @Get()
  @ApiOkResponse({ type: [ShootDto] })
  async list(): Promise<ShootDto[]> {
    return (await this.shoots.list()).map(ShootDto.of);
  }

  @Get(':id')
  @ApiOkResponse({ type: ShootDto })
  async get(@Param('id') id: string): Promise<ShootDto> {
    return ShootDto.of(await this.shoots.summary(await this.shoots.get(id)));
  }

  /** Corrects clocks of bodies; the camera's own times and the files' names stay. */
  @Put(':id/clocks')
  @HttpCode(204)
  clocks(@Param('id') id: string, @Body() body: CorrectClocksDto): Promise<void> {
    return this.shoots.correctClocks(id, body.corrections);
  }

  @Get(':id/frames')
  @ApiOkResponse({ type: FrameColumnsDto })
  async frames(@Param('id') id: string): Promise<FrameColumnsDto> {
    const columns = FrameColumnsDto.of(await this.shoots.columns(id));
    this.shoots.opened.next(id);
    return columns;
  }
}

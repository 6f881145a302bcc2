import { Controller, Get, HttpCode, Post } from '@nestjs/common';
import { ApiOkResponse, ApiProperty, ApiTags } from '@nestjs/swagger';
import { SidecarsService, type WaitingSidecars } from './sidecars.service';

export class WaitingSidecarsDto implements WaitingSidecars {
  @ApiProperty() volumeId: string;
  @ApiProperty({ description: 'the drive’s name' }) volume: string;
  @ApiProperty() frames: number;
  @ApiProperty() reason: string;
}

@ApiTags('sidecars')
@Controller('api/marks')
export class SidecarsController {
  constructor(private readonly sidecars: SidecarsService) {}

  /** Sidecars that are not written yet, drive by drive, and why. */
  @Get('sidecars')
  @ApiOkResponse({ type: [WaitingSidecarsDto] })
  waiting(): Promise<WaitingSidecarsDto[]> {
    return this.sidecars.waiting();
  }

  /** Tries them now instead of with the next mark. */
  @Post('sidecars')
  @HttpCode(204)
  async tryNow(): Promise<void> {
    await this.sidecars.flush();
  }
}

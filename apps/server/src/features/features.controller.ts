import { Controller, Get, Param } from '@nestjs/common';
import { ApiOkResponse, ApiProperty, ApiTags } from '@nestjs/swagger';
import { sharpestSpot } from '@arkiv/core';
import { FeaturesService } from './features.service';

export class SpotDto {
  @ApiProperty({ description: 'share of the width' }) x: number;
  @ApiProperty({ description: 'share of the height' }) y: number;
}

@ApiTags('features')
@Controller('api/features')
export class FeaturesController {
  constructor(private readonly features: FeaturesService) {}

  /** Where a picture is sharpest. */
  @Get(':picture/sharpest')
  @ApiOkResponse({ type: SpotDto })
  async sharpest(@Param('picture') picture: string): Promise<SpotDto> {
    return sharpestSpot(await this.features.sharpness(picture));
  }
}

import { Controller, Get, HttpCode, Param, Post } from '@nestjs/common';
import { ApiOkResponse, ApiProperty, ApiTags } from '@nestjs/swagger';
import { sharpestSpot } from '@arkiv/core';
import { FeaturesService } from './features.service';

export class SpotDto {
  @ApiProperty({ description: 'share of the width' }) x: number;
  @ApiProperty({ description: 'share of the height' }) y: number;
}

export class MeasuringDto {
  @ApiProperty({ description: 'pictures that are measured now' }) pictures: number;
}

@ApiTags('features')
@Controller('api/features')
export class FeaturesController {
  constructor(private readonly features: FeaturesService) {}

  /** Where a picture is sharpest. */
  @Get(':picture/sharpest')
  @ApiOkResponse({ type: SpotDto })
  async sharpest(@Param('picture') picture: string): Promise<SpotDto> {
    return sharpestSpot((await this.features.measures(picture)).sharpness);
  }

  /** Measures what was not measured yet of a shoot, in the background; windows hear of it. */
  @Post('shoots/:id')
  @HttpCode(200)
  @ApiOkResponse({ type: MeasuringDto })
  async measure(@Param('id') id: string): Promise<MeasuringDto> {
    return { pictures: await this.features.measureShoot(id) };
  }
}

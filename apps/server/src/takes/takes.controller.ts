import { Controller, Get, HttpCode, Param, Post } from '@nestjs/common';
import { ApiOkResponse, ApiProperty, ApiTags } from '@nestjs/swagger';
import { ClocksService } from './clocks.service';
import { ClosenessService } from './closeness.service';

export class ComparingDto {
  @ApiProperty({ description: 'pictures that are looked at first' }) pictures: number;
}

export class ClockProposalDto {
  @ApiProperty({ description: 'the body whose clock seems to be off' }) body: string;
  @ApiProperty({ description: 'the body beside which it is off' }) beside: string;
  @ApiProperty({ description: 'milliseconds to be added to its times as they are now' }) millis: number;
  @ApiProperty({ description: 'its whole correction then, milliseconds beside the camera’s own clock' })
  correction: number;
  @ApiProperty({ description: 'moments of both that agree in time and in what they show' }) agree: number;
  @ApiProperty({
    description: 'two frames of each such moment, that body’s second',
    type: 'array',
    items: { type: 'array', items: { type: 'string' } },
  })
  pairs: readonly (readonly [string, string])[];
}

@ApiTags('takes')
@Controller('api/takes')
export class TakesController {
  constructor(
    private readonly closeness: ClosenessService,
    private readonly clocks: ClocksService,
  ) {}

  /** Clocks that seem to be off, from what several bodies saw at the same moments. Nothing is changed. */
  @Get('shoots/:id/clocks')
  @ApiOkResponse({ type: [ClockProposalDto] })
  proposals(@Param('id') id: string): Promise<ClockProposalDto[]> {
    return this.clocks.proposals(id);
  }

  /** Compares what was not compared yet of a shoot, in the background; windows hear of it. */
  @Post('shoots/:id')
  @HttpCode(200)
  @ApiOkResponse({ type: ComparingDto })
  async compare(@Param('id') id: string): Promise<ComparingDto> {
    return { pictures: await this.closeness.compareAll(id) };
  }
}

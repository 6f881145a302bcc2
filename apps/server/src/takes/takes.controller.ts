import { Controller, HttpCode, Param, Post } from '@nestjs/common';
import { ApiOkResponse, ApiProperty, ApiTags } from '@nestjs/swagger';
import { ClosenessService } from './closeness.service';

export class ComparingDto {
  @ApiProperty({ description: 'pictures that are looked at first' }) pictures: number;
}

@ApiTags('takes')
@Controller('api/takes')
export class TakesController {
  constructor(private readonly closeness: ClosenessService) {}

  /** Compares what was not compared yet of a shoot, in the background; windows hear of it. */
  @Post('shoots/:id')
  @HttpCode(200)
  @ApiOkResponse({ type: ComparingDto })
  async compare(@Param('id') id: string): Promise<ComparingDto> {
    return { pictures: await this.closeness.compareAll(id) };
  }
}

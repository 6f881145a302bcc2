import { Body, Controller, Get, HttpCode, Param, Post } from '@nestjs/common';
import { ApiOkResponse, ApiProperty, ApiTags } from '@nestjs/swagger';
import { IsString } from 'class-validator';
import { StandInsService } from './standins.service';

export class InsertDto {
  @ApiProperty()
  @IsString()
  card: string;
}

@ApiTags('stand-ins')
@Controller('api/stand-ins')
export class StandInsController {
  constructor(private readonly standIns: StandInsService) {}

  @Get('cards')
  @ApiOkResponse({ type: [String] })
  cards(): Promise<string[]> {
    return this.standIns.cards();
  }

  @Post('slots/:id/insert')
  @HttpCode(204)
  async insert(@Param('id') id: string, @Body() body: InsertDto): Promise<void> {
    await this.standIns.insert(id, body.card);
  }
}

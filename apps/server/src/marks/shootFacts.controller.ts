import { Body, Controller, HttpCode, Param, Patch } from '@nestjs/common';
import { ApiNoContentResponse, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import { IsOptional, IsString, MaxLength } from 'class-validator';
import { LONGEST_SHOOT_FACT, type ShootFacts } from '@arkiv/core';
import { ShootFactsService } from './shootFacts.service';

export class ShootFactsDto implements Partial<ShootFacts> {
  @ApiPropertyOptional({ minLength: 1, maxLength: LONGEST_SHOOT_FACT })
  @IsOptional()
  @IsString()
  @MaxLength(LONGEST_SHOOT_FACT)
  title?: string;
  @ApiPropertyOptional({ maxLength: LONGEST_SHOOT_FACT, description: 'empty: none' })
  @IsOptional()
  @IsString()
  @MaxLength(LONGEST_SHOOT_FACT)
  client?: string;
  @ApiPropertyOptional({ maxLength: LONGEST_SHOOT_FACT, description: 'empty: none' })
  @IsOptional()
  @IsString()
  @MaxLength(LONGEST_SHOOT_FACT)
  place?: string;
}

@ApiTags('shoots')
@Controller('api/shoots')
export class ShootFactsController {
  constructor(private readonly facts: ShootFactsService) {}

  /** Says title, client or place of a shoot otherwise. Its folders and files keep their names. */
  @Patch(':id')
  @HttpCode(204)
  @ApiNoContentResponse()
  change(@Param('id') id: string, @Body() facts: ShootFactsDto): Promise<void> {
    return this.facts.change(id, facts);
  }
}

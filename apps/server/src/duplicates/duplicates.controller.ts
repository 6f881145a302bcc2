import { Controller, Get, Query } from '@nestjs/common';
import { ApiOkResponse, ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import { IsOptional, Matches } from 'class-validator';
import { PlacedFrameDto } from '../frames/placedFrame.dto';
import {
  DuplicatesService,
  type Duplicate,
  type DuplicateFrame,
  type Duplicates,
} from './duplicates.service';

export class DuplicatesAskedDto {
  @ApiPropertyOptional({ description: 'where the last page ended' })
  @IsOptional()
  @Matches(/^[0-9a-f]{64}$/)
  after?: string;
}

export class DuplicateFrameDto extends PlacedFrameDto implements DuplicateFrame {
  @ApiProperty({ type: String, nullable: true }) note: string | null;
  @ApiProperty({ type: [String], description: 'ids of the piles that it is in' }) piles: string[];
  @ApiProperty({ description: 'hand-offs that it was in' }) handedOff: number;
  @ApiProperty({ description: 'deliveries that it was in' }) delivered: number;
  @ApiProperty() files: number;
  @ApiProperty({ description: 'of all copies of its files, on all drives' }) bytes: number;
  @ApiProperty({ type: [String], description: 'the others that hold all its files as well' })
  within: string[];
}

export class DuplicateDto implements Duplicate {
  @ApiProperty({ description: 'SHA-256 of a file that they share' }) id: string;
  @ApiProperty({ type: [DuplicateFrameDto] }) frames: DuplicateFrameDto[];
}

export class DuplicatesDto implements Duplicates {
  @ApiProperty({ type: [DuplicateDto] }) groups: DuplicateDto[];
  @ApiProperty({ type: String, nullable: true, description: 'what to ask for next; null: that was all' })
  next: string | null;
}

@ApiTags('duplicates')
@Controller('api/duplicates')
export class DuplicatesController {
  constructor(private readonly duplicates: DuplicatesService) {}

  /** Frames that hold equal content, anywhere in the archive. */
  @Get()
  @ApiOkResponse({ type: DuplicatesDto })
  page(@Query() { after }: DuplicatesAskedDto): Promise<Duplicates> {
    return this.duplicates.page(after ?? null);
  }
}

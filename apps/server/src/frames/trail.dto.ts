import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import { Type } from 'class-transformer';
import { IsInt, IsOptional, IsString, Length, Matches, MaxLength, Min } from 'class-validator';
import { TRAIL_KINDS, type TrailKind } from './trail.entity';

export class TrailAskedDto {
  @ApiPropertyOptional({ description: 'only what became of files of this shoot' })
  @IsOptional()
  @IsString()
  @Length(26, 26)
  shoot?: string;
  @ApiPropertyOptional({ description: 'only what became of this frame' })
  @IsOptional()
  @IsString()
  @Length(26, 26)
  frame?: string;
  @ApiPropertyOptional({
    description: 'only of this day, YYYY-MM-DD, as days are counted where the server stands',
  })
  @IsOptional()
  @Matches(/^\d{4}-\d{2}-\d{2}$/)
  day?: string;
  @ApiPropertyOptional({
    description: 'words that must all stand in its paths, its shoot’s title or its reason',
  })
  @IsOptional()
  @IsString()
  @MaxLength(200)
  find?: string;
  @ApiPropertyOptional({ description: 'only what happened before this line' })
  @IsOptional()
  @Type(() => Number)
  @IsInt()
  @Min(1)
  before?: number;
}

export class TrailLineDto {
  @ApiProperty() seq: number;
  @ApiProperty() at: number;
  @ApiProperty({ enum: TRAIL_KINDS }) kind: TrailKind;
  @ApiProperty() shootId: string;
  @ApiProperty({ description: 'the shoot’s title' }) shoot: string;
  @ApiProperty({ type: String, nullable: true }) frameId: string | null;
  @ApiProperty({ type: String, nullable: true, description: 'name of the drive whose copy it was' })
  drive: string | null;
  @ApiProperty({ type: String, nullable: true }) from: string | null;
  @ApiProperty({ type: String, nullable: true }) to: string | null;
  @ApiProperty({ type: String, nullable: true }) reason: string | null;
}

export class TrailPageDto {
  @ApiProperty({ type: [TrailLineDto], description: 'the newest first' }) lines: TrailLineDto[];
  @ApiProperty({ description: 'others come after these' }) more: boolean;
}

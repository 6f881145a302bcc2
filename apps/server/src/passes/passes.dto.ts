import { ApiProperty, ApiPropertyOptional, OmitType } from '@nestjs/swagger';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsInt,
  IsOptional,
  IsString,
  Length,
  Matches,
  MaxLength,
  Min,
} from 'class-validator';
import type { Pass } from './pass.entity';

/** Twice the largest shoot that the archive is measured with; of more, the ids would not fit into a request of 4 MB. */
const MOST_FRAMES = 100_000;
/** Every second frame of that many, as text. */
const MOST_TEXT = 2_000_000;

export class NewPassDto {
  @ApiProperty() @IsString() @Length(26, 26) id: string;
  @ApiProperty() @IsString() @Length(1, 200) name: string;
  @ApiProperty({ type: [String], description: 'ids of its frames, in their order' })
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(MOST_FRAMES)
  @IsString({ each: true })
  frames: string[];
}

export class PassProgressDto {
  @ApiProperty({ description: 'places of the seen ones among its frames: 0-33,40' })
  @IsString()
  @MaxLength(MOST_TEXT)
  @Matches(/^[\d,-]*$/)
  seen: string;
  @ApiProperty() @IsInt() @Min(0) seenCount: number;
  @ApiPropertyOptional({ type: String, nullable: true, description: 'the frame where it goes on' })
  @IsOptional()
  @IsString()
  @Length(26, 26)
  at?: string | null;
  @ApiProperty() @IsInt() @Min(0) kept: number;
  @ApiProperty() @IsInt() @Min(0) rejected: number;
  @ApiProperty({ description: 'milliseconds in which somebody was at it' })
  @IsInt()
  @Min(0)
  activeMillis: number;
  @ApiProperty({ description: 'it is stopped; it can go on later' }) @IsBoolean() ended: boolean;
}

export class WholePassDto implements Omit<Pass, 'shootId'> {
  @ApiProperty() id: string;
  @ApiProperty() name: string;
  @ApiProperty({ type: [String] }) frames: string[];
  @ApiProperty() total: number;
  @ApiProperty() seen: string;
  @ApiProperty() seenCount: number;
  @ApiProperty({ type: String, nullable: true }) at: string | null;
  @ApiProperty() kept: number;
  @ApiProperty() rejected: number;
  @ApiProperty() activeMillis: number;
  @ApiProperty() begunAt: number;
  @ApiProperty() changedAt: number;
  @ApiProperty({ type: Number, nullable: true }) endedAt: number | null;
  @ApiProperty({ type: Number, nullable: true }) undoneAt: number | null;
}

export class PassDto extends OmitType(WholePassDto, ['frames', 'seen'] as const) {}

export class DecisionDto {
  @ApiProperty({ description: 'id of the frame' }) subject: string;
  @ApiProperty({ description: 'verdict, stars, label …' }) kind: string;
  @ApiProperty({ description: 'milliseconds since 1970' }) at: number;
}

export class UndonePassDto {
  @ApiProperty({ description: 'marks that are again what they were before it' }) marks: number;
  @ApiProperty({ description: 'marks that were changed since, and stayed' }) skipped: number;
}

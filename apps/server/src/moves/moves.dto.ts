import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsOptional,
  IsString,
  Length,
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';
import type { MovePlan } from '@arkiv/core';
import type { MoveKind } from './moveParams';
import type { MoveRequest, SplitOff } from './moveRequest';
import type { Touched } from './touches';

const KINDS = ['split', 'merge', 'rename', 'aside', 'back', 'arrange', 'takeIn'] as const;

/** Shoots made of one in one go: a year that lies in one folder has as many days. */
const MOST_PARTS = 366;

export class SplitOffDto implements SplitOff {
  @ApiProperty({ type: [String] })
  @IsArray()
  @ArrayMaxSize(200_000)
  @IsString({ each: true })
  frameIds: string[];
  @ApiProperty() @IsString() @MaxLength(120) title: string;
  @ApiPropertyOptional({ description: 'YYYY-MM-DD' })
  @IsOptional()
  @Matches(/^\d{4}-\d{2}-\d{2}$/)
  date?: string;
}

export class MoveRequestDto implements MoveRequest {
  @ApiProperty({ enum: KINDS }) @IsIn(KINDS) kind: MoveKind;
  @ApiProperty() @IsString() @Length(26, 26) shootId: string;
  @ApiPropertyOptional() @IsOptional() @IsString() @Length(26, 26) into?: string;
  @ApiPropertyOptional({ type: [String] })
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(200_000)
  @IsString({ each: true })
  frameIds?: string[];
  @ApiPropertyOptional() @IsOptional() @IsString() @MaxLength(120) title?: string;
  @ApiPropertyOptional({ description: 'YYYY-MM-DD' })
  @IsOptional()
  @Matches(/^\d{4}-\d{2}-\d{2}$/)
  date?: string;
  @ApiPropertyOptional({ type: [SplitOffDto], description: 'split: further shoots made of it' })
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(MOST_PARTS)
  @ValidateNested({ each: true })
  @Type(() => SplitOffDto)
  more?: SplitOffDto[];
  @ApiPropertyOptional() @IsOptional() @IsString() @MaxLength(120) client?: string;
  @ApiPropertyOptional() @IsOptional() @IsString() @MaxLength(120) place?: string;
  @ApiPropertyOptional() @IsOptional() @IsString() @MaxLength(200) pattern?: string;
  @ApiPropertyOptional() @IsOptional() @IsInt() @Min(0) @Max(9_999_999) seqStart?: number;
  @ApiPropertyOptional({ description: 'arrange: the name of the one frame' })
  @IsOptional()
  @IsString()
  @Length(1, 200)
  name?: string;
  @ApiPropertyOptional({ description: 'arrange: the folder below the originals; empty: the originals' })
  @IsOptional()
  @IsString()
  @MaxLength(200)
  below?: string;
  @ApiPropertyOptional({ description: 'arrange: the day it is due, YYYY-MM-DD' })
  @IsOptional()
  @Matches(/^\d{4}-\d{2}-\d{2}$/)
  due?: string;
  @ApiPropertyOptional({ description: 'arrange: the frames stay; copies of them come to lie there' })
  @IsOptional()
  @IsBoolean()
  copies?: boolean;
  @ApiPropertyOptional({ description: 'aside: those that are undecided by the studio’s rules too' })
  @IsOptional()
  @IsBoolean()
  undecided?: boolean;
  @ApiProperty() @IsBoolean() rename: boolean;
}

export class MoveWayDto {
  @ApiProperty() from: string;
  @ApiProperty() to: string;
}

/** {@link Touched} */
export class TouchedDto implements Touched {
  @ApiProperty({ description: 'of one copy of each file' }) bytes: number;
  @ApiProperty({ type: [String], description: 'names of the drives that hold copies' }) volumes: string[];
  @ApiProperty({ type: [String], description: 'those of them that are not connected' }) away: string[];
  @ApiProperty({ description: 'of these frames, how many were handed to editing' }) handedOff: number;
  @ApiProperty({ description: 'of these frames, how many were delivered' }) delivered: number;
}

export class MovePlanDto extends TouchedDto {
  @ApiProperty() frames: number;
  @ApiProperty() files: number;
  @ApiProperty({ type: [String] }) folders: string[];
  @ApiProperty({ type: [MoveWayDto], description: 'every file that would move' }) ways: MoveWayDto[];
  @ApiProperty({ type: [String], description: 'settings of other programs that go along' }) along: string[];
  @ApiProperty({ type: [String] }) problems: string[];

  static of(plan: MovePlan & { along: string[] }, touches: Touched): MovePlanDto {
    const ways = plan.moves.flatMap((move) => move.files).filter(({ from, to }) => from !== to);
    return {
      frames: plan.moves.filter((move) => move.id !== null).length,
      files: ways.length,
      ...touches,
      folders: plan.folders,
      along: plan.along,
      ways: ways.map(({ from, to }) => ({ from, to })),
      problems: plan.problems.map((problem) => problem.message),
    };
  }
}

export class StartedMoveDto {
  @ApiProperty() jobId: string;
  @ApiProperty({ description: 'the shoot that frames go into' }) shootId: string;
}

import { Type } from 'class-transformer';
import { ApiProperty, ApiPropertyOptional, OmitType } from '@nestjs/swagger';
import {
  ArrayMaxSize,
  ArrayMinSize,
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
  ValidateIf,
  ValidateNested,
} from 'class-validator';
import type { Pass } from './pass.entity';
import { MOST_FRAMES } from './passes.service';

/** Every second frame of that many, as text. */
const MOST_TEXT = 2_000_000;

/** What a pass is to be about: frames by their ids, in their order, or all of the shoots that words find. */
export class PassOverDto {
  @ApiPropertyOptional({ type: [String], description: 'ids of frames, in their order' })
  @ValidateIf(({ find }: PassOverDto) => find === undefined)
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(MOST_FRAMES)
  @IsString({ each: true })
  frames?: string[];
  @ApiPropertyOptional({
    description: 'the shoots with these words in title, client, place or date; empty: all',
  })
  @IsOptional()
  @IsString()
  @MaxLength(200)
  find?: string;
}

/** Which of them. */
export class PassWhatDto {
  @ApiPropertyOptional({ enum: ['left', 'keeper'], description: 'by the studio’s rules' })
  @IsOptional()
  @IsIn(['left', 'keeper'])
  standing?: 'left' | 'keeper';
  @ApiPropertyOptional({ description: 'this many stars or more' })
  @IsOptional()
  @IsInt()
  @Min(1)
  @Max(5)
  stars?: number;
}

export class NewPassDto {
  @ApiProperty() @IsString() @Length(26, 26) id: string;
  @ApiProperty() @IsString() @Length(1, 200) name: string;
  @ApiProperty({ type: PassOverDto }) @ValidateNested() @Type(() => PassOverDto) over: PassOverDto;
  @ApiPropertyOptional({ type: PassWhatDto, description: 'missing: all of them' })
  @IsOptional()
  @ValidateNested()
  @Type(() => PassWhatDto)
  what?: PassWhatDto;
}

export class PassChoicesAskedDto {
  @ApiProperty({ type: PassOverDto }) @ValidateNested() @Type(() => PassOverDto) over: PassOverDto;
}

export class PassChoicesDto {
  @ApiProperty() all: number;
  @ApiProperty({ description: 'undecided by the studio’s rules' }) left: number;
  @ApiProperty() keepers: number;
  @ApiProperty({ type: [Number], description: 'with 1, 2 … 5 stars or more' }) stars: number[];
}

export class PassProgressDto {
  @ApiProperty({ description: 'places of the seen ones among its frames: 0-33,40' })
  @IsString()
  @MaxLength(MOST_TEXT)
  @Matches(/^[\d,-]*$/)
  seen: string;
  @ApiProperty() @IsInt() @Min(0) seenCount: number;
  @ApiPropertyOptional({
    description: 'as the pass says it: places of another arrangement are refused; missing: not asked',
  })
  @IsOptional()
  @IsInt()
  @Min(0)
  arranged?: number;
  @ApiPropertyOptional({ type: String, nullable: true, description: 'the frame where it goes on' })
  @IsOptional()
  @IsString()
  @Length(26, 26)
  at?: string | null;
  @ApiProperty({ description: 'the shoot that is looked at: `kept` and `rejected` are of its frames' })
  @IsString()
  @Length(26, 26)
  shootId: string;
  @ApiProperty() @IsInt() @Min(0) kept: number;
  @ApiProperty() @IsInt() @Min(0) rejected: number;
  @ApiProperty({ description: 'milliseconds in which somebody was at it' })
  @IsInt()
  @Min(0)
  activeMillis: number;
  @ApiProperty({ description: 'it is stopped; it can go on later' }) @IsBoolean() ended: boolean;
}

/** The frames of a pass that lie in one shoot: they stand together, in the order of the parts. */
export class PassPartDto {
  @ApiProperty() shootId: string;
  @ApiProperty() title: string;
  @ApiProperty() frames: number;
  @ApiProperty() kept: number;
  @ApiProperty() rejected: number;
}

export class WholePassDto implements Omit<Pass, 'shootId'> {
  @ApiProperty() id: string;
  @ApiProperty() name: string;
  @ApiProperty({ type: [String] }) frames: string[];
  @ApiProperty() total: number;
  @ApiProperty({
    description: 'another number: its frames stand in another order, as some went into other shoots',
  })
  arranged: number;
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
  @ApiProperty({ type: [PassPartDto] }) parts: PassPartDto[];
}

export class PassDto extends OmitType(WholePassDto, ['frames', 'arranged', 'seen', 'parts'] as const) {
  @ApiProperty({ description: 'shoots that it goes over' }) shoots: number;
}

export class ComparedPassesDto {
  @ApiProperty({ type: [String], description: 'ids of frames that both have seen and kept' }) both: string[];
  @ApiProperty({ type: [String] }) onlyFirst: string[];
  @ApiProperty({ type: [String] }) onlySecond: string[];
  @ApiProperty({ type: [String], description: 'seen by both and kept by neither' }) neither: string[];
  @ApiProperty({ description: 'frames of either that only one of them has seen' }) seenByOne: number;
}

export class DecisionDto {
  @ApiProperty({ description: 'id of the frame' }) subject: string;
  @ApiProperty({ description: 'verdict, stars, label …' }) kind: string;
  @ApiProperty({ description: 'milliseconds since 1970' }) at: number;
}

export class UndonePassDto {
  @ApiProperty({ description: 'marks that are again what they were before it' }) marks: number;
  @ApiProperty({ description: 'marks that were changed since, and stayed' }) skipped: number;
}

import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import {
  ArrayMinSize,
  ArrayUnique,
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
  MinLength,
} from 'class-validator';
import { WATCH_TYPES, type Outside, type WatchType } from '@arkiv/core';
import type { WatchWish } from './watch.service';
import type { WatchExample, WouldGo } from './watchPlans.service';
import type { LeftFile, WatchAfter, WatchRule } from './watchRule.entity';

const AFTER = ['keep', 'bin'] as const;
/** Longer than any program pauses while it writes one file. */
const LONGEST_SETTLE = 600;

export class WatchWishDto implements WatchWish {
  @ApiProperty() @IsString() @MinLength(1) @MaxLength(80) name: string;
  @ApiProperty({ description: 'full path of a folder on the server’s machine' })
  @IsString()
  @MaxLength(1000)
  root: string;
  @ApiProperty() @IsBoolean() on: boolean;
  @ApiProperty({ enum: WATCH_TYPES, isArray: true })
  @IsArray()
  @ArrayMinSize(1)
  @ArrayUnique()
  @IsIn(WATCH_TYPES, { each: true })
  types: WatchType[];
  @ApiProperty({ description: 'folders below it too' }) @IsBoolean() below: boolean;
  @ApiProperty({ description: 'name of a folder whose pictures stay out; empty: there is none' })
  @Matches(/^[^/\\]*$/)
  @MaxLength(120)
  out: string;
  @ApiProperty({ description: 'seconds for which a file must not have changed' })
  @IsInt()
  @Min(0)
  @Max(LONGEST_SETTLE)
  settleSeconds: number;
  @ApiProperty({ type: String, nullable: true, description: 'the shoot that all go into; null: one a day' })
  @IsOptional()
  @IsString()
  @Length(26, 26)
  shootId: string | null = null;
  @ApiProperty({ description: 'of shoots that are made for it; empty: the name' })
  @IsString()
  @MaxLength(120)
  title: string;
  @ApiProperty() @IsString() @MaxLength(120) client: string;
  @ApiProperty() @IsString() @MaxLength(120) place: string;
  @ApiProperty({ type: String, nullable: true }) @IsOptional() @IsString() @MaxLength(100) plan:
    string | null = null;
  @ApiProperty({ type: String, nullable: true })
  @IsOptional()
  @IsString()
  @MaxLength(100)
  template: string | null = null;
  @ApiProperty({ type: String, nullable: true, description: 'an album that the frames are put into' })
  @IsOptional()
  @IsString()
  @MaxLength(100)
  album: string | null = null;
  @ApiProperty({ enum: AFTER }) @IsIn(AFTER) after: WatchAfter;
}

export class ExampleAskedDto extends WatchWishDto {
  @ApiPropertyOptional({ description: 'the rule that is changed by it' })
  @IsOptional()
  @IsString()
  @Length(26, 26)
  id?: string;
}

export class LeftFileDto implements Omit<LeftFile, 'stamp'> {
  @ApiProperty() path: string;
  @ApiProperty() reason: string;
}

export class WatchRuleDto implements Omit<WatchWish, 'root'> {
  @ApiProperty() id: string;
  @ApiProperty() name: string;
  @ApiProperty({ type: String, nullable: true, description: 'told on the server’s own machine alone' })
  root: string | null;
  @ApiProperty() on: boolean;
  @ApiProperty({ enum: WATCH_TYPES, isArray: true }) types: WatchType[];
  @ApiProperty() below: boolean;
  @ApiProperty() out: string;
  @ApiProperty() settleSeconds: number;
  @ApiProperty({ type: String, nullable: true }) shootId: string | null;
  @ApiProperty() title: string;
  @ApiProperty() client: string;
  @ApiProperty() place: string;
  @ApiProperty({ type: String, nullable: true }) plan: string | null;
  @ApiProperty({ type: String, nullable: true }) template: string | null;
  @ApiProperty({ type: String, nullable: true }) album: string | null;
  @ApiProperty({ enum: AFTER }) after: WatchAfter;
  @ApiProperty({ description: 'files are being taken in' }) busy: boolean;
  @ApiProperty({ type: [LeftFileDto], description: 'files that stay, and why' }) left: LeftFileDto[];
  @ApiProperty({ type: String, nullable: true, description: 'why nothing is taken in' }) trouble:
    string | null;
  @ApiProperty({ description: 'files that were taken in' }) taken: number;
  @ApiProperty({ type: Number, nullable: true }) takenAt: number | null;

  static of(rule: WatchRule, fromHere: boolean): WatchRuleDto {
    const { batch, createdAt: _, root, left, ...its } = rule;
    return {
      ...its,
      root: fromHere ? root : null,
      busy: batch !== null,
      left: left.map(({ path, reason }) => ({ path, reason })),
    };
  }
}

export class NamesDto {
  @ApiProperty() from: string;
  @ApiProperty() to: string;
}
export class WouldGoDto implements WouldGo {
  @ApiProperty() title: string;
  @ApiProperty({ description: 'YYYY-MM-DD' }) date: string;
  @ApiProperty({ description: 'it is there already' }) existing: boolean;
  @ApiProperty() frames: number;
  @ApiProperty() files: number;
  @ApiProperty({ description: 'bytes' }) bytes: number;
  @ApiProperty({ type: [NamesDto], description: 'the first of them' }) names: NamesDto[];
}
export class OutsideDto implements Record<Outside, number> {
  @ApiProperty({ description: 'names that begin with a dot' }) hidden: number;
  @ApiProperty({ description: 'in folders below' }) below: number;
  @ApiProperty({ description: 'in the folder that stays out' }) out: number;
  @ApiProperty({ description: 'of other types' }) type: number;
  @ApiProperty({ description: 'no pictures' }) unknown: number;
}
export class WatchExampleDto implements WatchExample {
  @ApiProperty({ type: [WouldGoDto] }) shoots: WouldGoDto[];
  @ApiProperty({ description: 'files beyond those that were looked at' }) more: number;
  @ApiProperty() takenBefore: number;
  @ApiProperty({ description: 'files that could not be taken in before' }) left: number;
  @ApiProperty({ type: OutsideDto }) outside: OutsideDto;
  @ApiProperty({ type: [String], description: 'drives that get a copy' }) drives: string[];
}

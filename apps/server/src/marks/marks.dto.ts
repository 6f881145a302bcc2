import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import { Type } from 'class-transformer';
import {
  Allow,
  ArrayMaxSize,
  IsArray,
  IsIn,
  IsInt,
  IsOptional,
  IsString,
  Length,
  Max,
  Min,
  ValidateNested,
} from 'class-validator';
import { LABELS, type Label, type MarkField, type MarkValue, type Verdict } from '@arkiv/core';
import type { WaitingSidecars } from './sidecars.service';

/** A mark was made between 2000 and 2200: a clock further off is no clock, and later years have no date text in XMP. */
const EARLIEST = Date.UTC(2000, 0);
const LATEST = Date.UTC(2200, 0);

const VALUE = { oneOf: [{ type: 'string' }, { type: 'number' }], nullable: true };

export class MarkOperationDto {
  @ApiProperty() @IsString() @Length(26, 26) id: string;
  @ApiProperty() @IsString() @Length(26, 26) frameId: string;
  @ApiProperty({ enum: ['verdict', 'stars', 'label'] }) @IsIn(['verdict', 'stars', 'label']) field: MarkField;
  /** checked by core, which knows what each field can be */
  @ApiProperty(VALUE) @Allow() from: MarkValue;
  @ApiProperty(VALUE) @Allow() to: MarkValue;
  @ApiProperty({ description: 'milliseconds since 1970' }) @IsInt() @Min(EARLIEST) @Max(LATEST) at: number;
  @ApiProperty() @IsString() @Length(1, 40) group: string;
  @ApiProperty() @IsString() @Length(1, 40) window: string;
}

export class MarksDto {
  // A selection of ten thousand frames goes out in parts of this size.
  @ApiProperty({ type: [MarkOperationDto] })
  @IsArray()
  @ArrayMaxSize(2000)
  @ValidateNested({ each: true })
  @Type(() => MarkOperationDto)
  operations: MarkOperationDto[];

  @ApiPropertyOptional({
    description: 'id of the archive that the marks belong to; another one refuses them',
  })
  @IsOptional()
  @IsString()
  @Length(26, 26)
  archive?: string;
}

export class AppliedMarksDto {
  @ApiProperty() applied: number;
  @ApiProperty({ type: [String] }) unknown: string[];
}

export class FramesAskedDto {
  @ApiProperty({ type: [String] })
  @IsArray()
  @ArrayMaxSize(20_000)
  @IsString({ each: true })
  @Length(26, 26, { each: true })
  frameIds: string[];
}

export class FrameMarksDto {
  @ApiProperty() id: string;
  @ApiProperty() shootId: string;
  @ApiProperty({ enum: ['keep', 'reject', 'undecided'] }) verdict: Verdict;
  @ApiProperty() stars: number;
  @ApiProperty({ enum: LABELS, nullable: true }) label: Label | null;
}

export class MarksNowDto {
  @ApiProperty({ type: [FrameMarksDto], description: 'those that are not in the archive are left out' })
  frames: FrameMarksDto[];
}

export class WaitingSidecarsDto implements WaitingSidecars {
  @ApiProperty() volumeId: string;
  @ApiProperty({ description: 'the drive’s name' }) volume: string;
  @ApiProperty() frames: number;
  @ApiProperty() reason: string;
}

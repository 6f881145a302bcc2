import { ApiProperty } from '@nestjs/swagger';
import { Type } from 'class-transformer';
import { ArrayMaxSize, Allow, IsArray, IsIn, IsInt, IsString, Length, ValidateNested } from 'class-validator';
import type { MarkField, MarkValue } from '@arkiv/core';

const VALUE = { oneOf: [{ type: 'string' }, { type: 'number' }], nullable: true };

export class MarkOperationDto {
  @ApiProperty() @IsString() @Length(26, 26) id: string;
  @ApiProperty() @IsString() @Length(26, 26) frameId: string;
  @ApiProperty({ enum: ['verdict', 'stars', 'label'] }) @IsIn(['verdict', 'stars', 'label']) field: MarkField;
  /** checked by core, which knows what each field can be */
  @ApiProperty(VALUE) @Allow() from: MarkValue;
  @ApiProperty(VALUE) @Allow() to: MarkValue;
  @ApiProperty() @IsInt() at: number;
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
}

export class AppliedMarksDto {
  @ApiProperty() applied: number;
  @ApiProperty({ type: [String] }) unknown: string[];
}

import { ApiProperty } from '@nestjs/swagger';
import {
  IsInt,
  IsObject,
  IsOptional,
  IsString,
  Max,
  MaxLength,
  Min,
  registerDecorator,
  ValidateNested,
} from 'class-validator';
import { Type } from 'class-transformer';
import { filterProblem, LABELS, type Filter, type KeeperRules, type Label } from '@arkiv/core';
import { FolderPlanDto } from '../intake/intake.dto';
import { OutputSpecDto } from '../delivery/delivery.controller';

/** A filter from outside: checked by core's own rules. */
function IsFilter() {
  return (target: object, propertyName: string) =>
    registerDecorator({
      name: 'isFilter',
      target: target.constructor,
      propertyName,
      validator: {
        validate: (value: unknown) => filterProblem(value) === null,
        defaultMessage: (args) => {
          const problem = filterProblem(args?.value);
          return problem
            ? `filter at ${problem.path}: expected ${problem.expected}, found ${problem.found}`
            : '';
        },
      },
    });
}

function IsLabelTexts() {
  return (target: object, propertyName: string) =>
    registerDecorator({
      name: 'isLabelTexts',
      target: target.constructor,
      propertyName,
      validator: {
        validate: (value: unknown) => {
          const texts = LABELS.map((label) => (value as Record<string, unknown> | null)?.[label]);
          return (
            texts.every((t) => typeof t === 'string' && t.length > 0 && t.length <= 60) &&
            new Set(texts).size === LABELS.length
          );
        },
        defaultMessage: () => 'each of the five labels needs a text of its own of 1 to 60 characters',
      },
    });
}

const ANY_OBJECT = { type: 'object' as const, additionalProperties: true };

export class KeeperRulesDto implements KeeperRules {
  @ApiProperty(ANY_OBJECT) @IsFilter() keeper: Filter;
  @ApiProperty(ANY_OBJECT) @IsFilter() reject: Filter;
}

export class SettingsDto {
  @ApiProperty() creator: string;
  @ApiProperty() rights: string;
  @ApiProperty() pattern: string;
  @ApiProperty({ type: FolderPlanDto }) folders: FolderPlanDto;
  @ApiProperty({ type: KeeperRulesDto }) rules: KeeperRulesDto;
  @ApiProperty({ type: 'object', additionalProperties: { type: 'string' } }) labels: Record<Label, string>;
  @ApiProperty() requiredCopies: number;
  @ApiProperty() dayStartHour: number;
  @ApiProperty({ type: OutputSpecDto }) outputSpec: OutputSpecDto;
  @ApiProperty({ description: 'simulated reader and drives are in use' }) standIns: boolean;
}

export class ChangeSettingsDto {
  @ApiProperty({ required: false }) @IsOptional() @IsString() @MaxLength(120) creator?: string;
  @ApiProperty({ required: false }) @IsOptional() @IsString() @MaxLength(300) rights?: string;
  @ApiProperty({ required: false }) @IsOptional() @IsString() @MaxLength(200) pattern?: string;
  @ApiProperty({ required: false, type: KeeperRulesDto })
  @IsOptional()
  @ValidateNested()
  @Type(() => KeeperRulesDto)
  rules?: KeeperRulesDto;
  @ApiProperty({ required: false, type: Object, additionalProperties: { type: 'string' } })
  @IsOptional()
  @IsObject()
  @IsLabelTexts()
  labels?: Record<Label, string>;
  @ApiProperty({ required: false }) @IsOptional() @IsInt() @Min(1) @Max(9) requiredCopies?: number;
  @ApiProperty({ required: false }) @IsOptional() @IsInt() @Min(0) @Max(23) dayStartHour?: number;
}

export class HealthDto {
  @ApiProperty() version: string;
  @ApiProperty() schema: string;
  @ApiProperty({ description: 'bytes free for the database and previews' }) free: number;
  @ApiProperty() volumesOnline: number;
  @ApiProperty() volumes: number;
}

import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import {
  IsBoolean,
  IsIn,
  IsInt,
  IsOptional,
  IsString,
  Matches,
  Max,
  MaxLength,
  Min,
  MinLength,
  registerDecorator,
} from 'class-validator';
import {
  DESCRIPTION_FIELDS,
  LABELS,
  LONG_SIDE_RANGE,
  type Label,
  type MetadataChoice,
  type MetadataTemplate,
} from '@arkiv/core';

export const SCOPES = ['shoot', 'day', 'carried'] as const;
const LEGAL_FOLDER = /^[^/\\<>:"|?*]+$/;

export class FolderPlanDto {
  @ApiProperty() @IsString() @MinLength(1) @MaxLength(200) path: string;
  @ApiPropertyOptional({ description: 'pattern of a folder inside the originals' })
  @IsOptional()
  @IsString()
  @MaxLength(200)
  below?: string;
  @ApiProperty() @IsString() @Matches(LEGAL_FOLDER) originals: string;
  @ApiProperty() @IsString() @Matches(LEGAL_FOLDER) selects: string;
  @ApiProperty() @IsString() @Matches(LEGAL_FOLDER) edits: string;
  @ApiProperty() @IsString() @Matches(LEGAL_FOLDER) delivery: string;
  @ApiProperty() @IsString() @Matches(LEGAL_FOLDER) rejects: string;
}

const MODES = ['replace', 'fill'] as const;

function IsDescriptionFields() {
  return (target: object, propertyName: string) =>
    registerDecorator({
      name: 'isDescriptionFields',
      target: target.constructor,
      propertyName,
      validator: {
        validate: (value: unknown) =>
          typeof value === 'object' &&
          value !== null &&
          Object.entries(value).every(
            ([field, text]) =>
              Object.hasOwn(DESCRIPTION_FIELDS, field) && typeof text === 'string' && text.length <= 2000,
          ),
        defaultMessage: () =>
          `fields takes texts of up to 2,000 characters for: ${Object.keys(DESCRIPTION_FIELDS).join(', ')}`,
      },
    });
}

/** What is stamped on every frame; texts may use the fields of name patterns. */
export class TemplateTextsDto implements Pick<
  MetadataTemplate,
  'mode' | 'fields' | 'keywords' | 'persons' | 'stars' | 'label'
> {
  @ApiProperty({ enum: MODES }) @IsIn(MODES) mode: MetadataTemplate['mode'];
  @ApiProperty({ type: 'object', additionalProperties: { type: 'string' } })
  @IsDescriptionFields()
  fields: MetadataTemplate['fields'];
  @ApiProperty() @IsString() @MaxLength(4000) keywords: string;
  @ApiPropertyOptional({ description: 'who is shown, parted by commas' })
  @IsOptional()
  @IsString()
  @MaxLength(4000)
  persons?: string;
  @ApiPropertyOptional({ description: 'stars that frames begin with' })
  @IsOptional()
  @IsInt()
  @Min(0)
  @Max(5)
  stars?: number;
  @ApiPropertyOptional({ enum: LABELS, nullable: true, description: 'label that frames begin with' })
  @IsOptional()
  @IsIn([...LABELS, null])
  label?: Label | null;
}

const METADATA = ['none', 'rights', 'all'] as const;

export class OutputSpecDto {
  @ApiProperty() @IsString() @MinLength(1) @MaxLength(80) name: string;
  @ApiProperty({ description: 'pixels of the longer side' })
  @IsInt()
  @Min(LONG_SIDE_RANGE[0])
  @Max(LONG_SIDE_RANGE[1])
  longSide: number;
  @ApiProperty() @IsInt() @Min(1) @Max(100) quality: number;
  @ApiProperty() @IsBoolean() sharpen: boolean;
  @ApiProperty() @IsString() @MinLength(1) @MaxLength(200) pattern: string;
  @ApiProperty({ enum: METADATA }) @IsIn(METADATA) metadata: MetadataChoice;
}

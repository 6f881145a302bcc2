import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import {
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
  type Label,
  DEFAULT_OUTPUT_SPEC,
  FORMATS,
  METADATA_CHOICES,
  OUTPUT_FOLDERS,
  SHARPENINGS,
  SPACES,
  specsProblem,
  WATERMARK_PLACES,
  type MetadataChoice,
  type OutputFolders,
  type OutputFormat,
  type OutputSpace,
  type OutputSpec,
  type Sharpening,
  type SizeRule,
  type Watermark,
  type WatermarkPlace,
  type MetadataTemplate,
} from '@arkiv/core';

export const SCOPES = ['shoot', 'day', 'carried'] as const;
export const LEGAL_FOLDER = /^[^/\\<>:"|?*]+$/;

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

/** One of {@link SizeRule}. */
class SizeRuleDto {
  @ApiProperty({ enum: ['long', 'short', 'box', 'print', 'whole'] }) by: SizeRule['by'];
  @ApiPropertyOptional({ description: 'of the long or short side' }) pixels?: number;
  @ApiPropertyOptional() width?: number;
  @ApiPropertyOptional() height?: number;
  @ApiPropertyOptional() inches?: number;
  @ApiPropertyOptional() ppi?: number;
}

class WatermarkDto implements Watermark {
  @ApiProperty({ description: 'the words; of a picture what it is called' }) text: string;
  @ApiPropertyOptional({
    type: String,
    nullable: true,
    description: 'SHA-256 of the picture; none: it is words',
  })
  picture?: string | null;
  @ApiProperty({ enum: WATERMARK_PLACES }) place: WatermarkPlace;
  @ApiProperty({ description: 'hundredths of the picture’s width' }) size: number;
  @ApiProperty({ description: 'hundredths' }) strength: number;
}

/** {@link OutputSpec}; checked as a whole by `IsOutputSpecs`. */
export class OutputSpecDto {
  @ApiProperty() name: string;
  @ApiProperty({ type: SizeRuleDto }) size: SizeRuleDto;
  @ApiProperty({ enum: FORMATS }) format: OutputFormat;
  @ApiProperty() quality: number;
  @ApiProperty({ type: Number, nullable: true, description: 'bytes' }) mostBytes: number | null;
  @ApiProperty({ enum: SPACES }) space: OutputSpace;
  @ApiProperty({ enum: SHARPENINGS }) sharpen: Sharpening;
  @ApiProperty({ type: WatermarkDto, nullable: true }) watermark: WatermarkDto | null;
  @ApiProperty() pattern: string;
  @ApiProperty({ enum: METADATA_CHOICES }) metadata: MetadataChoice;
  @ApiProperty({ enum: OUTPUT_FOLDERS }) folders: OutputFolders;
}

/** Specs as core has them, each of exactly its fields. */
export function IsOutputSpecs() {
  return (target: object, propertyName: string) =>
    registerDecorator({
      name: 'isOutputSpecs',
      target: target.constructor,
      propertyName,
      validator: {
        validate: (value: unknown) => problemOfSpecs(value) === null,
        defaultMessage: (args) => `${propertyName}: ${problemOfSpecs(args?.value) ?? ''}`,
      },
    });
}

function problemOfSpecs(value: unknown): string | null {
  if (!Array.isArray(value)) return 'it must be a list';
  const fields = Object.keys(DEFAULT_OUTPUT_SPEC).sort().join();
  for (const spec of value as unknown[]) {
    if (typeof spec !== 'object' || spec === null || Object.keys(spec).sort().join() !== fields)
      return `each spec has ${Object.keys(DEFAULT_OUTPUT_SPEC).join(', ')}`;
    const { name, pattern, size } = spec as OutputSpec;
    if (typeof name !== 'string' || typeof pattern !== 'string' || pattern.length > LONGEST_PATTERN)
      return `a name and a pattern of at most ${LONGEST_PATTERN} characters are texts`;
    if (typeof size !== 'object' || size === null) return 'a size is an object';
  }
  return specsProblem(value as OutputSpec[]);
}
const LONGEST_PATTERN = 200;

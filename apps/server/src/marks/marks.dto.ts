import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import { Type } from 'class-transformer';
import { ArrayMaxSize, IsArray, IsInt, IsOptional, IsString, Length, Min } from 'class-validator';
import {
  LABELS,
  MARK_KIND,
  type Label,
  type MarkKind,
  type MarkValue,
  type Operation,
  type Verdict,
} from '@arkiv/core';

/** What a mark can be, in the contract. */
export const VALUE = { oneOf: [{ type: 'string' }, { type: 'number' }, { type: 'boolean' }], nullable: true };

/** One operation as a window sends it; checked by `Sent`, as {@link MarksDto} is. */
export class MarkOperationDto {
  @ApiProperty() id: string;
  @ApiProperty({
    type: String,
    description:
      'verdict, stars, label, note, stage, take, caption, “text ” or “finish ” with the field, “pile ” with the id of one, or “keyword ” or “person ” with the word',
    pattern: MARK_KIND.source,
  })
  kind: MarkKind;
  @ApiProperty({ description: 'id of the frame' }) subject: string;
  /** checked by core, which knows what each kind can be */
  @ApiProperty(VALUE) from: MarkValue;
  @ApiProperty(VALUE) to: MarkValue;
  @ApiProperty({ description: 'milliseconds since 1970' }) at: number;
  @ApiPropertyOptional({ description: 'who; what comes from a window is the studio’s' }) by?: string;
  @ApiProperty() group: string;
  @ApiPropertyOptional({ type: String, nullable: true }) pass?: string | null;
  @ApiProperty() window: string;
  @ApiPropertyOptional({ type: String, nullable: true, description: 'the group that this one takes back' })
  undoes?: string | null;
}

export class MarksDto {
  @ApiProperty({ type: [MarkOperationDto] }) operations: MarkOperationDto[];
  @ApiPropertyOptional({
    description: 'id of the archive that the marks belong to; another one refuses them',
  })
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
  @ApiProperty({ type: String, nullable: true, description: 'words to whoever edits it' }) note:
    string | null;
  @ApiProperty({ type: String, nullable: true, description: 'id of the stage at which it stands' }) stage:
    string | null;
  @ApiProperty({ type: String, nullable: true, description: 'what was said of its place among takes' }) take:
    string | null;
  @ApiProperty({ description: 'ids of the piles that it is in, joined by +' }) piles: string;
  @ApiProperty({ description: 'the albums that it is in, each with a colon and its place, joined by +' })
  albums: string;
  @ApiProperty({ type: String, nullable: true, description: 'what is said of it in words' }) caption:
    string | null;
  @ApiProperty({ description: 'joined by line ends' }) keywords: string;
  @ApiProperty({ description: 'who is shown, joined by line ends' }) persons: string;
  @ApiProperty({ description: 'JSON of what else is said of it, by field; empty: nothing' }) texts: string;
  @ApiProperty({ description: 'values of its finishing, joined by commas; empty: as it is' }) finish: string;
}

export class MarksNowDto {
  @ApiProperty({ type: [FrameMarksDto], description: 'those that are not in the archive are left out' })
  frames: FrameMarksDto[];
}

/** Any operation of the journal. */
export class OperationDto implements Operation {
  @ApiProperty() id: string;
  @ApiProperty({ description: 'what is changed: stars, verdict, label' }) kind: string;
  @ApiProperty({ description: 'id of the frame' }) subject: string;
  @ApiProperty(VALUE) from: MarkValue;
  @ApiProperty(VALUE) to: MarkValue;
  @ApiProperty({ description: 'milliseconds since 1970' }) at: number;
  @ApiProperty({ description: 'who; empty: the studio' }) by: string;
  @ApiProperty() group: string;
  @ApiProperty({ type: String, nullable: true }) pass: string | null;
  @ApiProperty() window: string;
  @ApiProperty({ type: String, nullable: true, description: 'the group that this one takes back' })
  undoes: string | null;
}

export class HistoryDto {
  @ApiProperty({ type: [OperationDto], description: 'in the journal’s order' }) operations: OperationDto[];
  @ApiProperty({ type: Number, nullable: true, description: 'number before which older ones are' })
  before: number | null;
}

export class HistoryAskedDto {
  @ApiPropertyOptional() @IsOptional() @Type(() => Number) @IsInt() @Min(0) before?: number;
}

import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  ArrayUnique,
  IsArray,
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
  ValidateNested,
} from 'class-validator';
import { type ClearanceReport, type Fate, type SequenceScope } from '@arkiv/core';
import { PlacedFrameDto } from '../frames/placedFrame.dto';
import { FolderPlanDto, SCOPES, TemplateTextsDto } from '../settings/plans.dto';
import { ClockCorrectionDto, MAX_BODIES } from '../shoots/shoots.dto';
import type { LatestArrival } from './arrivals.service';
import type { IntakePart } from './intakePlans.service';

export class IntakePartDto implements IntakePart {
  @ApiProperty() @IsString() @MinLength(1) @MaxLength(120) title: string;
  @ApiProperty({ description: 'YYYY-MM-DD' }) @Matches(/^\d{4}-\d{2}-\d{2}$/) date: string;
  @ApiProperty() @IsString() @MaxLength(120) client: string;
  @ApiProperty() @IsString() @MaxLength(120) place: string;
  @ApiProperty({ type: [String], description: 'keys of its frames' })
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(200_000)
  @IsString({ each: true })
  keys: string[];
}

/** Shoots that one card is split into: more than a card holds working days. */
const MAX_PARTS = 100;

export class StartIntakeDto {
  @ApiPropertyOptional({ type: [String], description: 'keys of frames that are probably archived' })
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(200_000)
  @IsString({ each: true })
  known?: string[];
  @ApiPropertyOptional({ enum: SCOPES }) @IsOptional() @IsIn(SCOPES) seqBy?: SequenceScope;
  @ApiPropertyOptional({ type: TemplateTextsDto })
  @IsOptional()
  @ValidateNested()
  @Type(() => TemplateTextsDto)
  template?: TemplateTextsDto;
  @ApiPropertyOptional({ type: [IntakePartDto], description: 'parts that become shoots of their own' })
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(MAX_PARTS)
  @ValidateNested({ each: true })
  @Type(() => IntakePartDto)
  more?: IntakePartDto[];
  /** an existing shoot; title, date, client, place, pattern, folders and zone are then the shoot's */
  @ApiPropertyOptional() @IsOptional() @IsString() @Length(26, 26) shootId?: string;
  @ApiPropertyOptional({ type: [String], description: 'keys of frames that stay on the card' })
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(200_000)
  @IsString({ each: true })
  leaveOut?: string[];
  @ApiPropertyOptional({ type: [ClockCorrectionDto] })
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(MAX_BODIES)
  @ArrayUnique((correction: ClockCorrectionDto) => correction.body)
  @ValidateNested({ each: true })
  @Type(() => ClockCorrectionDto)
  corrections?: ClockCorrectionDto[];
  @ApiProperty() @IsString() readerId: string;
  @ApiProperty() @IsString() @Length(32, 32) fingerprint: string;
  @ApiProperty() @IsString() @MinLength(1) @MaxLength(120) title: string;
  @ApiProperty({ description: 'YYYY-MM-DD' }) @Matches(/^\d{4}-\d{2}-\d{2}$/) date: string;
  @ApiProperty() @IsString() @MaxLength(120) client: string;
  @ApiProperty() @IsString() @MaxLength(120) place: string;
  @ApiProperty() @IsString() @MinLength(1) @MaxLength(200) pattern: string;
  @ApiProperty({ type: FolderPlanDto }) @ValidateNested() @Type(() => FolderPlanDto) folders: FolderPlanDto;
  @ApiProperty() @IsInt() @Min(0) @Max(9_999_999) seqStart: number;
  /** minutes east of UTC: −12:00 to +14:00 are the zones in use (ISO 8601) */
  @ApiProperty() @IsInt() @Min(-720) @Max(840) zoneMinutes: number;
  @ApiProperty({ type: [String] })
  @IsArray()
  @ArrayMinSize(1)
  @ArrayUnique()
  @IsString({ each: true })
  targets: string[];
}

export class StartedPartDto {
  @ApiProperty() jobId: string;
  @ApiProperty() shootId: string;
}

export class StartedIntakeDto extends StartedPartDto {
  @ApiProperty({ type: [StartedPartDto], description: 'one for each further part' }) others: StartedPartDto[];
}

export class ClearCardDto {
  /** the card as it was looked at; another one is refused */
  @ApiProperty() @IsString() @Length(32, 32) fingerprint: string;
}

export class ClearanceDto implements ClearanceReport {
  @ApiProperty() safe: boolean;
  @ApiProperty() required: number;
  @ApiProperty() proven: number;
  @ApiProperty() total: number;
  @ApiProperty({ type: [String] }) reasons: string[];
}

export class IntakeFileDto {
  @ApiProperty() from: string;
  @ApiProperty() to: string;
  @ApiProperty({ description: 'bytes' }) size: number;
  @ApiProperty({ enum: ['todo', 'copied', 'partly', 'already-here', 'failed', 'left-out'] }) fate: Fate;
  @ApiProperty({ type: String, nullable: true }) sha256: string | null;
  @ApiProperty({ type: String, nullable: true }) reason: string | null;
  @ApiProperty({ type: [String], description: 'volumes with a verified copy' }) verifiedOn: string[];
}

export class TogetherDto {
  @ApiProperty() jobId: string;
  @ApiProperty() title: string;
}

export class IntakeReportDto {
  @ApiProperty({ type: [TogetherDto], description: 'the other shoots of the same card' })
  together: TogetherDto[];
  @ApiProperty() readerId: string;
  @ApiProperty() card: string;
  @ApiProperty({ type: [String] }) targets: string[];
  @ApiProperty({ type: [String] }) folders: string[];
  @ApiProperty({ type: [String] }) receipts: string[];
  @ApiProperty({ type: [IntakeFileDto] }) files: IntakeFileDto[];
}

export class LatestArrivalDto implements LatestArrival {
  @ApiProperty() card: string;
  @ApiProperty() at: number;
  @ApiProperty({ type: [PlacedFrameDto] }) frames: PlacedFrameDto[];
}

export class ProvenFramesDto {
  @ApiProperty({ description: 'all that are proven' }) total: number;
  @ApiProperty({ type: [PlacedFrameDto], description: 'the newest of them' }) frames: PlacedFrameDto[];
}

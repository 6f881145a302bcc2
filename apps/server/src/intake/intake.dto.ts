import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  ArrayUnique,
  IsArray,
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
import { MAX_CORRECTION, type ClearanceReport, type ClockCorrection, type Fate } from '@arkiv/core';

const LEGAL_FOLDER = /^[^/\\<>:"|?*]+$/;

export class FolderPlanDto {
  @ApiProperty() @IsString() @MinLength(1) @MaxLength(200) path: string;
  @ApiProperty() @IsString() @Matches(LEGAL_FOLDER) originals: string;
  @ApiProperty() @IsString() @Matches(LEGAL_FOLDER) selects: string;
  @ApiProperty() @IsString() @Matches(LEGAL_FOLDER) edits: string;
  @ApiProperty() @IsString() @Matches(LEGAL_FOLDER) delivery: string;
  @ApiProperty() @IsString() @Matches(LEGAL_FOLDER) rejects: string;
}

export class ClockCorrectionDto implements ClockCorrection {
  @ApiProperty({ description: 'make · model · serial' })
  @IsString()
  @MinLength(1)
  @MaxLength(300)
  body: string;
  @ApiProperty({ description: 'milliseconds that are added to its times' })
  @IsInt()
  @Min(-MAX_CORRECTION)
  @Max(MAX_CORRECTION)
  millis: number;
}

/** Bodies on one card: more than any crew shares one card between. */
const MAX_BODIES = 50;

export class StartIntakeDto {
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

export class StartedIntakeDto {
  @ApiProperty() jobId: string;
  @ApiProperty() shootId: string;
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

export class IntakeReportDto {
  @ApiProperty() readerId: string;
  @ApiProperty() card: string;
  @ApiProperty({ type: [String] }) targets: string[];
  @ApiProperty({ type: [String] }) folders: string[];
  @ApiProperty({ type: [String] }) receipts: string[];
  @ApiProperty({ type: [IntakeFileDto] }) files: IntakeFileDto[];
}

import { ApiProperty } from '@nestjs/swagger';
import { Type } from 'class-transformer';
import { ArrayMaxSize, ArrayUnique, IsArray, ValidateNested } from 'class-validator';
import type { FrameColumns } from '../frames/frames.service';
import type { SequenceScope } from '@arkiv/core';
import { ClockCorrectionDto, MAX_BODIES, SCOPES } from '../intake/intake.dto';
import type { ShootSummary } from './shoots.service';

export class ShootDto {
  @ApiProperty() id: string;
  @ApiProperty() title: string;
  @ApiProperty({ description: 'YYYY-MM-DD' }) date: string;
  @ApiProperty() client: string;
  @ApiProperty() place: string;
  @ApiProperty({ type: [String] }) folders: string[];
  @ApiProperty() frames: number;
  @ApiProperty() keepers: number;
  @ApiProperty() rejects: number;
  @ApiProperty() files: number;
  @ApiProperty({
    description: 'files with fewer verified copies on distinct drives than the studio asks for',
  })
  missingCopies: number;
  @ApiProperty({ description: 'finished hand-offs' }) handoffs: number;
  @ApiProperty({ description: 'finished deliveries' }) deliveries: number;
  @ApiProperty({ type: [String] }) leads: string[];
  @ApiProperty() createdAt: number;
  @ApiProperty({ description: 'name pattern' }) pattern: string;
  @ApiProperty({ description: 'pattern of its folders' }) folderPath: string;
  @ApiProperty({ description: 'pattern of a folder inside the originals' }) below: string;
  @ApiProperty({ description: 'where {number} carries on' }) nextSeq: number;
  @ApiProperty({ enum: SCOPES }) seqBy: SequenceScope;
  @ApiProperty({ description: 'minutes east of UTC' }) zoneMinutes: number;

  @ApiProperty({ type: String, nullable: true, description: 'the shoot that it was merged into' })
  mergedInto: string | null;

  static of({ shoot, ...counted }: ShootSummary): ShootDto {
    const { id, title, date, client, place, folders, createdAt, pattern, nextSeq, seqBy, zoneMinutes, plan } =
      shoot;
    const kept = { id, title, date, client, place, folders, createdAt, pattern, nextSeq, seqBy, zoneMinutes };
    return {
      ...kept,
      mergedInto: shoot.mergedInto,
      folderPath: plan.path,
      below: plan.below ?? '',
      ...counted,
    };
  }
}

export class CorrectClocksDto {
  @ApiProperty({ type: [ClockCorrectionDto] })
  @IsArray()
  @ArrayMaxSize(MAX_BODIES)
  @ArrayUnique((correction: ClockCorrectionDto) => correction.body)
  @ValidateNested({ each: true })
  @Type(() => ClockCorrectionDto)
  corrections: ClockCorrectionDto[];
}

export class FrameColumnsDto {
  @ApiProperty() revision: number;
  @ApiProperty() count: number;
  @ApiProperty({ type: 'object', additionalProperties: { type: 'array', items: {} } }) columns: Record<
    string,
    unknown[]
  >;

  static of(columns: FrameColumns): FrameColumnsDto {
    return columns;
  }
}

import { ApiProperty } from '@nestjs/swagger';
import { IsString, MaxLength, MinLength } from 'class-validator';
import type { AssetRole } from '@arkiv/core';
import type { CardScan } from './cardScan';

const ROLES = ['raw', 'jpeg', 'clip', 'note', 'sidecar', 'edit', 'other'] as const;

export class ReaderDto {
  @ApiProperty() id: string;
  @ApiProperty() name: string;
  @ApiProperty({ enum: ['folder', 'stand-in'] }) kind: 'folder' | 'stand-in';
  @ApiProperty({ type: String, nullable: true }) card: string | null;
}

export class AddReaderDto {
  @ApiProperty({ description: 'full path of an existing folder on the server’s machine' })
  @IsString()
  @MinLength(1)
  @MaxLength(4096)
  root: string;

  @ApiProperty()
  @IsString()
  @MinLength(1)
  @MaxLength(80)
  name: string;
}

export class CardFileDto {
  @ApiProperty() path: string;
  @ApiProperty({ description: 'bytes' }) size: number;
  @ApiProperty() mtimeMillis: number;
  @ApiProperty({ enum: ROLES }) role: AssetRole;
}

export class CaptureTimeDto {
  @ApiProperty({ description: 'YYYY-MM-DDTHH:mm:ss, the camera’s wall clock' }) local: string;
  @ApiProperty() millis: number;
  @ApiProperty({ type: Number, nullable: true }) offsetMinutes: number | null;
  @ApiProperty() correctionMillis: number;
}

export class ShownDto {
  @ApiProperty() value: number;
  @ApiProperty() text: string;
}

export class FrameFactsDto {
  @ApiProperty({ type: CaptureTimeDto, nullable: true }) capture: CaptureTimeDto | null;
  @ApiProperty({ type: String, nullable: true }) make: string | null;
  @ApiProperty({ type: String, nullable: true }) model: string | null;
  @ApiProperty({ type: String, nullable: true }) serial: string | null;
  @ApiProperty({ type: String, nullable: true }) lens: string | null;
  @ApiProperty({ type: ShownDto, nullable: true }) exposure: ShownDto | null;
  @ApiProperty({ type: ShownDto, nullable: true }) aperture: ShownDto | null;
  @ApiProperty({ type: Number, nullable: true }) iso: number | null;
  @ApiProperty({ type: Number, nullable: true }) focalLength: number | null;
  @ApiProperty({ type: Number, nullable: true }) width: number | null;
  @ApiProperty({ type: Number, nullable: true }) height: number | null;
  @ApiProperty() orientation: number;
}

export class CardFrameDto {
  @ApiProperty() key: string;
  @ApiProperty() base: string;
  @ApiProperty({ type: [CardFileDto] }) files: CardFileDto[];
  @ApiProperty({ type: FrameFactsDto }) facts: FrameFactsDto;
}

export class CardDto {
  @ApiProperty() card: string;
  @ApiProperty() fingerprint: string;
  @ApiProperty({ description: 'bytes' }) bytes: number;
  @ApiProperty({ type: [CardFrameDto] }) frames: CardFrameDto[];
  @ApiProperty({ type: [CardFileDto] }) extras: CardFileDto[];
  @ApiProperty({ type: [String] }) notFollowed: string[];

  static of(scan: CardScan & { card: string }): CardDto {
    return scan;
  }
}

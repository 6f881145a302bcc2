import { ApiProperty } from '@nestjs/swagger';
import { IsOptional, IsString, MaxLength, MinLength } from 'class-validator';
import { pictureOf, type AssetRole } from '@arkiv/core';
import type { CardScan } from './cardScan';
import { READER_KINDS, type ReaderKind } from './readers.service';

const ROLES = ['original', 'clip', 'note', 'sidecar', 'edit', 'other'] as const;

export class ReaderDto {
  @ApiProperty() id: string;
  @ApiProperty() name: string;
  @ApiProperty({ enum: READER_KINDS }) kind: ReaderKind;
  @ApiProperty({ type: String, nullable: true }) card: string | null;
  @ApiProperty({ description: 'nobody knows on which device the card lies: nothing proves it for clearing' })
  deviceUnknown: boolean;
}

export class StateDeviceDto {
  @ApiProperty({
    type: String,
    nullable: true,
    description: 'the owner’s word on the device; null takes it back',
  })
  @IsOptional()
  @IsString()
  @MaxLength(80)
  device: string | null;
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
  @ApiProperty({ description: 'short, lower case; empty where it is none that we know' }) format: string;
  @ApiProperty({ description: 'whether the format is a camera’s raw' }) raw: boolean;
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
  @ApiProperty({ type: Number, nullable: true, description: 'EV beside what the camera metered' })
  exposureBias: number | null;
  @ApiProperty({ type: Number, nullable: true, description: 'what was focused on, in dioptres; 0: infinity' })
  focus: number | null;
  @ApiProperty({ type: Number, nullable: true }) width: number | null;
  @ApiProperty({ type: Number, nullable: true }) height: number | null;
  @ApiProperty() orientation: number;
  @ApiProperty({ type: Number, nullable: true, description: 'a clip’s length' }) seconds: number | null;
  @ApiProperty({ type: String, nullable: true }) creator: string | null;
  @ApiProperty({ type: String, nullable: true }) rights: string | null;
  @ApiProperty({ type: String, nullable: true }) caption: string | null;
  @ApiProperty({
    type: Number,
    nullable: true,
    description: 'stars given in the camera or before, 1…5; −1: a reject',
  })
  rating: number | null;
  @ApiProperty({ type: String, nullable: true, description: 'text of a label given before' }) label:
    string | null;
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

export class CardPictureDto {
  @ApiProperty() path: string;
}

/** Leads of a card: enough to know it by, few enough for one row. */
const SUMMARY_PICTURES = 6;

/** What a row about a card needs, without its thousands of frames. */
export class CardSummaryDto {
  @ApiProperty() card: string;
  @ApiProperty() fingerprint: string;
  @ApiProperty() frames: number;
  @ApiProperty({ description: 'of frames and of all else' }) files: number;
  @ApiProperty({ description: 'bytes' }) bytes: number;
  @ApiProperty({ type: String, nullable: true, description: 'the camera’s wall clock' }) first: string | null;
  @ApiProperty({ type: String, nullable: true }) last: string | null;
  @ApiProperty({ type: [String], description: 'models, each once' }) bodies: string[];
  @ApiProperty({ type: [CardPictureDto], description: 'spread over the card’s course' })
  pictures: CardPictureDto[];

  static of(scan: CardScan & { card: string }): CardSummaryDto {
    const timed = scan.frames.flatMap((f) => (f.facts.capture ? [f.facts.capture.local] : [])).sort();
    const shown = scan.frames.filter((f) => pictureOf(f.files)?.role === 'original');
    const chosen = Array.from({ length: Math.min(SUMMARY_PICTURES, shown.length) }, (_, i) => {
      const part = shown.length / Math.min(SUMMARY_PICTURES, shown.length);
      return shown[Math.floor((i + 0.5) * part)]!;
    });
    return {
      card: scan.card,
      fingerprint: scan.fingerprint,
      frames: scan.frames.length,
      files: scan.frames.reduce((sum, f) => sum + f.files.length, scan.extras.length),
      bytes: scan.bytes,
      first: timed[0] ?? null,
      last: timed.at(-1) ?? null,
      bodies: [...new Set(scan.frames.flatMap((f) => f.facts.model ?? []))],
      pictures: chosen.map((f) => ({
        path: pictureOf(f.files)!.path,
      })),
    };
  }
}

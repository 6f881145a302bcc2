import { ApiProperty } from '@nestjs/swagger';
import { LABELS, type Label, type Verdict } from '@arkiv/core';
import type { PlacedFrame } from './placedFrame';

export class PlacedFrameDto implements PlacedFrame {
  @ApiProperty() id: string;
  @ApiProperty() shootId: string;
  @ApiProperty({ description: 'title' }) shoot: string;
  @ApiProperty() name: string;
  @ApiProperty() folder: string;
  @ApiProperty({ type: String, nullable: true, description: 'corrected wall clock' }) time: string | null;
  @ApiProperty({ type: String, nullable: true }) body: string | null;
  @ApiProperty({ enum: ['keep', 'reject', 'undecided'] }) verdict: Verdict;
  @ApiProperty() stars: number;
  @ApiProperty({ type: String, nullable: true, enum: LABELS }) label: Label | null;
  @ApiProperty({ description: 'original, clip' }) role: string;
  @ApiProperty() format: string;
  @ApiProperty({ type: String, nullable: true }) picture: string | null;
}

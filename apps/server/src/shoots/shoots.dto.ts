import { ApiProperty } from '@nestjs/swagger';
import type { FrameColumns } from '../frames/frames.service';
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
  @ApiProperty({ type: [String] }) leads: string[];
  @ApiProperty() createdAt: number;

  static of({ shoot, frames, keepers, rejects, leads }: ShootSummary): ShootDto {
    const { id, title, date, client, place, folders, createdAt } = shoot;
    return { id, title, date, client, place, folders, frames, keepers, rejects, leads, createdAt };
  }
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

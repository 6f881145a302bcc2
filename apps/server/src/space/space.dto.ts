import { ApiProperty } from '@nestjs/swagger';
import type { KindBytes } from '@arkiv/core';
import { ArrayMaxSize, ArrayMinSize, IsArray, IsString, Length } from 'class-validator';
import type { SpaceShoot, SpaceTaken, SpareOf } from './space.service';

/** Shoots whose rejects go into the bin in one go. */
const MOST_SHOOTS = 2000;

export class KindBytesDto implements KindBytes {
  @ApiProperty() raw: number;
  @ApiProperty({ description: 'JPEG, HEIC, TIFF … as the camera made them' }) picture: number;
  @ApiProperty() clip: number;
  @ApiProperty({ description: 'finished pictures that came back' }) edit: number;
  @ApiProperty({ description: 'voice notes, a card’s own files' }) other: number;
}

export class SpaceDriveDto {
  @ApiProperty() id: string;
  @ApiProperty() name: string;
  @ApiProperty({ enum: ['working', 'backup', 'edit'] }) role: 'working' | 'backup' | 'edit';
  @ApiProperty() online: boolean;
  @ApiProperty({ type: Number, nullable: true, description: 'bytes' }) free: number | null;
  @ApiProperty({ type: Number, nullable: true, description: 'bytes' }) total: number | null;
  @ApiProperty({ type: KindBytesDto, description: 'of the archive’s copies on it' }) bytes: KindBytesDto;
}

export class SpaceYearDto {
  @ApiProperty({ description: 'of the shoots’ days' }) year: string;
  @ApiProperty({ type: KindBytesDto, description: 'of all copies on all drives' }) bytes: KindBytesDto;
}

export class SpaceShootDto implements SpaceShoot {
  @ApiProperty() id: string;
  @ApiProperty() title: string;
  @ApiProperty({ description: 'YYYY-MM-DD' }) date: string;
  @ApiProperty() frames: number;
  @ApiProperty({ description: 'of all copies on all drives' }) bytes: number;
}

export class SpareOfDto extends SpaceShootDto implements SpareOf {
  @ApiProperty() volumeId: string;
  @ApiProperty({ description: 'the drive’s name' }) volume: string;
  @ApiProperty() online: boolean;
  @ApiProperty() files: number;
}

export class SpaceDto implements SpaceTaken {
  @ApiProperty({ type: [SpaceDriveDto] }) drives: SpaceDriveDto[];
  @ApiProperty({ type: [SpaceYearDto], description: 'the oldest first' }) years: SpaceYearDto[];
  @ApiProperty({ type: KindBytesDto }) all: KindBytesDto;
  @ApiProperty({ description: 'bytes of copies that lie with editing' }) handed: number;
  @ApiProperty({ description: 'bytes of finished files in sets, and of their zips' }) finished: number;
  @ApiProperty({ description: 'bytes' }) previews: number;
  @ApiProperty({ description: 'bytes' }) previewsMost: number;
  @ApiProperty({ description: 'copies that each file should have' }) required: number;
  @ApiProperty({ type: [SpaceShootDto], description: 'the largest' }) shoots: SpaceShootDto[];
  @ApiProperty() shootCount: number;
  @ApiProperty({
    type: [SpaceShootDto],
    description: 'shoots with rejects by the studio’s rules, with what these alone are; the oldest first',
  })
  rejects: SpaceShootDto[];
  @ApiProperty({ type: [SpareOfDto], description: 'the largest, with what would be taken off' })
  spare: SpareOfDto[];
  @ApiProperty({ description: 'of all shoots' }) spareBytes: number;
  @ApiProperty({ description: 'shoots' }) spareCount: number;
}

export class BinRejectsDto {
  @ApiProperty({ type: [String] })
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(MOST_SHOOTS)
  @IsString({ each: true })
  @Length(26, 26, { each: true })
  shootIds: string[];
}

export class RefusedRejectsDto {
  @ApiProperty({ description: 'title' }) shoot: string;
  @ApiProperty() reason: string;
}

export class BegunRejectsDto {
  @ApiProperty({ type: [String] }) jobIds: string[];
  @ApiProperty({ type: [RefusedRejectsDto] }) refused: RefusedRejectsDto[];
}

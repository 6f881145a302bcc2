import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import { REJECTS_AT_ONCE, type KindBytes } from '@arkiv/core';
import { ArrayMaxSize, ArrayMinSize, IsArray, IsOptional, IsString, Length, Matches } from 'class-validator';
import type { SpaceCounting } from './keptSpace.service';
import { type OldRejects, type SpaceShoot, type SpaceTaken, type SpareOf } from './space.service';

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
  @ApiProperty({ type: [SpareOfDto], description: 'the largest, with what would be taken off' })
  spare: SpareOfDto[];
  @ApiProperty({ description: 'of all shoots' }) spareBytes: number;
  @ApiProperty({ description: 'shoots' }) spareCount: number;
}

export class SpaceCountingDto implements SpaceCounting {
  @ApiProperty({ description: 'files of the shoots that are counted' }) files: number;
  @ApiProperty({ description: 'and of all that are to be; 0: nothing is being counted' }) of: number;
}

export class OldRejectsAskedDto {
  @ApiPropertyOptional({ description: 'only of shoots of this day or before it, YYYY-MM-DD' })
  @IsOptional()
  @Matches(/^\d{4}-\d{2}-\d{2}$/)
  until?: string;
  @ApiPropertyOptional({ description: 'of the shoots that are listed, only those that come after this one' })
  @IsOptional()
  @IsString()
  @Length(26, 26)
  after?: string;
}

export class OldRejectsDto implements OldRejects {
  @ApiProperty({ description: 'shoots with rejects by the studio’s rules, adopted folders left out' })
  shoots: number;
  @ApiProperty({ description: 'rejects of all of them' }) frames: number;
  @ApiProperty({ description: 'of all copies of these on all drives' }) bytes: number;
  @ApiProperty({ description: 'shoots with rejects that are younger' }) younger: number;
  @ApiProperty({
    type: [SpaceShootDto],
    description:
      'the oldest, or those after the one that is asked for, as many as go in one go, with what their rejects alone are',
  })
  oldest: SpaceShootDto[];
}

export class BinRejectsDto {
  @ApiProperty({ type: [String] })
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(REJECTS_AT_ONCE)
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

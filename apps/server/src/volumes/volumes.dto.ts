import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import { UNKNOWN_DEVICE } from '@arkiv/core';
import { IsBoolean, IsIn, IsOptional, IsString, Length, MaxLength, MinLength } from 'class-validator';
import type { ChangeVolume, VolumeStatus } from './volumes.service';
import type { SuggestedPlace } from './places.service';
import type { VolumeRole } from './volume.entity';

const ROLES = ['working', 'backup', 'edit'] as const;

/** A card of 64 GB is what one body fills on a day; below that a tenth of a small drive is what warns in time. */
const NEARLY_FULL_BYTES = 64e9;

export class VolumeDto {
  @ApiProperty() id: string;
  @ApiProperty() name: string;
  @ApiProperty({ enum: ROLES }) role: VolumeRole;
  @ApiProperty() online: boolean;
  @ApiProperty({ description: 'it can be written out and taken off the computer' }) ejectable: boolean;
  @ApiProperty({ description: 'it is there and gives no answer' }) silent: boolean;
  @ApiProperty({ type: String, nullable: true, description: 'the other archive that made it its own' })
  belongsTo: string | null;
  @ApiProperty({
    type: String,
    nullable: true,
    description: 'the archive that had it, while what that left on it is not taken in; null: none',
  })
  heldBy: string | null;
  @ApiProperty({ description: 'name of the device it lies on; the same name, the same device' })
  device: string;
  @ApiProperty({ description: 'nobody knows on which disk it lies: it counts as the same as others' })
  deviceUnknown: boolean;
  @ApiProperty({ type: String, nullable: true, description: 'the owner’s word on its device' })
  stated: string | null;
  @ApiProperty({ type: Number, nullable: true, description: 'bytes' }) free: number | null;
  @ApiProperty({ type: Number, nullable: true, description: 'bytes' }) total: number | null;

  @ApiProperty({ description: 'verified copies of the archive on it' }) files: number;
  @ApiProperty({ description: 'files that no other device holds' }) onlyHere: number;
  @ApiProperty({ description: 'copies found missing, changed or unreadable' }) damaged: number;
  @ApiProperty({ type: Number, nullable: true, description: 'the oldest last proof of a copy on it' })
  oldestProof: number | null;
  @ApiProperty({ description: 'files that could not be read within a year, or were not what was written' })
  failures: number;
  @ApiProperty({ description: 'it is here and cannot be written to' }) readOnly: boolean;
  @ApiProperty({ description: 'a large card more would not go onto it' }) nearlyFull: boolean;

  static of({
    volume,
    online,
    silent,
    belongsTo,
    ejectable,
    space,
    readOnly,
    holds,
  }: VolumeStatus): VolumeDto {
    return {
      id: volume.id,
      name: volume.name,
      role: volume.role,
      online,
      silent,
      belongsTo,
      heldBy: volume.heldBy?.name ?? null,
      ejectable: ejectable && online,
      device: volume.device,
      deviceUnknown: volume.device === UNKNOWN_DEVICE,
      stated: volume.stated,
      free: space?.free ?? null,
      total: space?.total ?? null,
      readOnly,
      nearlyFull: space !== null && space.free < Math.min(NEARLY_FULL_BYTES, space.total / 10),
      ...holds,
    };
  }
}

export class SuggestedPlaceDto implements SuggestedPlace {
  @ApiProperty({ description: 'full path on the server’s machine' }) path: string;
  @ApiProperty() name: string;
  @ApiProperty({ enum: ['home', 'drive', 'share'] }) kind: SuggestedPlace['kind'];
  @ApiProperty({ description: 'bytes' }) free: number;
  @ApiProperty({ description: 'bytes' }) total: number;
}

export class ChangeVolumeDto implements ChangeVolume {
  @ApiPropertyOptional() @IsOptional() @IsString() @Length(1, 80) name?: string;
  @ApiPropertyOptional({ enum: ROLES }) @IsOptional() @IsIn(ROLES) role?: VolumeRole;
  @ApiPropertyOptional({ type: String, nullable: true, description: 'the owner’s word on its device' })
  @IsOptional()
  @IsString()
  @MaxLength(80)
  device?: string | null;
}

export class AddVolumeDto {
  @ApiProperty({ description: 'full path of a folder on the server’s machine' })
  @IsString()
  @MinLength(1)
  @MaxLength(4096)
  root: string;

  @ApiProperty()
  @IsString()
  @MinLength(1)
  @MaxLength(80)
  name: string;

  @ApiProperty({ enum: ROLES })
  @IsIn(ROLES)
  role: VolumeRole;

  @ApiPropertyOptional({ description: 'make the folder where it is not there yet' })
  @IsOptional()
  @IsBoolean()
  create?: boolean;

  @ApiPropertyOptional({ description: 'it is another archive’s drive, and is this one’s from now on' })
  @IsOptional()
  @IsBoolean()
  takeOver?: boolean;
}

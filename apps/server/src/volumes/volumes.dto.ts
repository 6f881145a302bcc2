import { ApiProperty } from '@nestjs/swagger';
import { IsIn, IsString, MaxLength, MinLength } from 'class-validator';
import type { VolumeStatus } from './volumes.service';
import type { VolumeRole } from './volume.entity';

const ROLES = ['working', 'backup', 'edit'] as const;

export class VolumeDto {
  @ApiProperty() id: string;
  @ApiProperty() name: string;
  @ApiProperty({ enum: ROLES }) role: VolumeRole;
  @ApiProperty() online: boolean;
  @ApiProperty({ type: Number, nullable: true, description: 'bytes' }) free: number | null;
  @ApiProperty({ type: Number, nullable: true, description: 'bytes' }) total: number | null;

  @ApiProperty({ description: 'verified copies of the archive on it' }) files: number;
  @ApiProperty({ description: 'files that no other device holds' }) onlyHere: number;

  static of({ volume, online, space, holds }: VolumeStatus): VolumeDto {
    return {
      id: volume.id,
      name: volume.name,
      role: volume.role,
      online,
      free: space?.free ?? null,
      total: space?.total ?? null,
      ...holds,
    };
  }
}

export class AddVolumeDto {
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

  @ApiProperty({ enum: ROLES })
  @IsIn(ROLES)
  role: VolumeRole;
}

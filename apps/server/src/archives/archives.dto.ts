import { ApiProperty } from '@nestjs/swagger';
import { IsNotEmpty, IsString, MaxLength } from 'class-validator';
import type { ArchiveHere } from './archives.service';

/** Linux's PATH_MAX, and more than other systems take. */
const LONGEST_PATH = 4096;

export class ArchiveHereDto implements ArchiveHere {
  @ApiProperty({ description: 'its data directory, in full' }) folder: string;
  @ApiProperty() name: string;
  @ApiProperty({ description: 'the one that is asked' }) own: boolean;
  @ApiProperty({
    type: String,
    nullable: true,
    description: 'where it answers; null: it is closed, or has not told yet',
  })
  address: string | null;
  @ApiProperty({ description: 'a server has it open' }) open: boolean;
  @ApiProperty({ description: 'its index is in its folder' }) there: boolean;
  @ApiProperty({ description: 'when it was opened last, milliseconds since 1970 UTC' }) opened: number;
}

export class ArchiveFolderDto {
  @ApiProperty() @IsString() @MaxLength(LONGEST_PATH) folder: string;
}

export class NewArchiveDto extends ArchiveFolderDto {
  @ApiProperty() @IsString() @IsNotEmpty() @MaxLength(120) name: string;
}

export class ArchiveAddressDto {
  @ApiProperty() address: string;
}

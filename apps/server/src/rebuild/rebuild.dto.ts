import { ApiProperty } from '@nestjs/swagger';
import { IsString, Length } from 'class-validator';
import type { OnDrives } from './rebuild.service';

export class OnDrivesDto implements OnDrives {
  @ApiProperty() id: string;
  @ApiProperty() name: string;
  @ApiProperty({ type: [String], description: 'names of the drives that tell of it' }) drives: string[];
  @ApiProperty() shoots: number;
  @ApiProperty({ description: 'when the newest of it was written, milliseconds since 1970 UTC' })
  newest: number;
}

export class RebuildAskedDto {
  @ApiProperty({ description: 'the archive, by its id' }) @IsString() @Length(1, 100) archiveId: string;
}

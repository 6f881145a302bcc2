import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import {
  ArrayMaxSize,
  IsArray,
  IsIn,
  IsInt,
  IsOptional,
  IsString,
  Max,
  MaxLength,
  Min,
  ValidateIf,
} from 'class-validator';
import { DRIVE_STATES, type DriveState } from './standInFaults';

export class StandInSlotDto {
  @ApiProperty() id: string;
  @ApiProperty() name: string;
  @ApiProperty({ type: String, nullable: true }) card: string | null;
  @ApiProperty({ type: Number, nullable: true, description: 'null: as fast as it can' })
  bytesPerSecond: number | null;
  @ApiProperty({
    type: Number,
    nullable: true,
    description: 'the card is pulled out after so many more bytes',
  })
  pullAfterBytes: number | null;
  @ApiProperty({ type: [String], description: 'files whose second half cannot be read' })
  unreadable: string[];
}

export class StandInDriveDto {
  @ApiProperty({ description: 'the folder that plays it' }) id: string;
  @ApiProperty() name: string;
  @ApiProperty({ enum: DRIVE_STATES }) state: DriveState;
  @ApiProperty({ type: Number, nullable: true, description: 'the drive is full after so many more bytes' })
  bytesUntilFull: number | null;
}

export class StandInsDto {
  @ApiProperty({ type: [String], description: 'cards on the table, by name' }) cards: string[];
  @ApiProperty({ type: [StandInSlotDto] }) slots: StandInSlotDto[];
  @ApiProperty({ type: [StandInDriveDto] }) drives: StandInDriveDto[];
}

export class InsertDto {
  @ApiProperty()
  @IsString()
  @MaxLength(255)
  card: string;
}

/** The largest number that a count of bytes may be: a petabyte, more than any drive in use. */
const MAX_BYTES = 1e15;

/** What is left out stays as it is. */
export class ChangeSlotDto {
  @ApiPropertyOptional({ type: Number, nullable: true })
  @IsOptional()
  @ValidateIf((_, value) => value !== null)
  @IsInt()
  @Min(1)
  @Max(MAX_BYTES)
  bytesPerSecond?: number | null;

  @ApiPropertyOptional({ type: Number, nullable: true })
  @IsOptional()
  @ValidateIf((_, value) => value !== null)
  @IsInt()
  @Min(1)
  @Max(MAX_BYTES)
  pullAfterBytes?: number | null;

  @ApiPropertyOptional({ type: [String] })
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(10_000)
  @IsString({ each: true })
  unreadable?: string[];
}

export class ChangeDriveDto {
  @ApiProperty({ enum: DRIVE_STATES })
  @IsIn(DRIVE_STATES)
  state: DriveState;

  @ApiPropertyOptional({ type: Number, nullable: true })
  @IsOptional()
  @ValidateIf((_, value) => value !== null)
  @IsInt()
  @Min(0)
  @Max(MAX_BYTES)
  bytesUntilFull?: number | null;
}

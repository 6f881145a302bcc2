import type { StandInMail } from './servers/mailbox';
import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import {
  ArrayMaxSize,
  IsArray,
  IsBoolean,
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

export class StandInServerDto {
  @ApiProperty({ enum: ['webdav', 'sftp', 'smtp'] }) id: 'webdav' | 'sftp' | 'smtp';
  @ApiProperty() name: string;
  @ApiProperty({ description: 'where it listens, on this computer alone' }) port: number;
  @ApiProperty() user: string;
  @ApiProperty() password: string;
  @ApiProperty({ type: Number, nullable: true, description: 'null: as fast as it can' })
  bytesPerSecond: number | null;
  @ApiProperty({ type: Number, nullable: true, description: 'it hangs up after so many more bytes' })
  cutAfterBytes: number | null;
  @ApiProperty({ type: Number, nullable: true, description: 'it is full after so many more bytes' })
  bytesUntilFull: number | null;
  @ApiProperty({ description: 'it turns everybody away' }) refuses: boolean;
  @ApiProperty({ description: 'it changes a byte of the next file on the way' }) changesNext: boolean;
}

export class StandInMailDto implements StandInMail {
  @ApiProperty({ description: 'of its file' }) name: string;
  @ApiProperty() from: string;
  @ApiProperty() to: string;
  @ApiProperty() subject: string;
  @ApiProperty() text: string;
  @ApiProperty({ type: [String], description: 'names of the files beside it' }) files: string[];
}

export class StandInsDto {
  @ApiProperty({ type: [StandInServerDto] }) servers: StandInServerDto[];
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

/** What is left out stays as it is. */
export class ChangeServerDto {
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
  @Min(0)
  @Max(MAX_BYTES)
  cutAfterBytes?: number | null;
  @ApiPropertyOptional({ type: Number, nullable: true })
  @IsOptional()
  @ValidateIf((_, value) => value !== null)
  @IsInt()
  @Min(0)
  @Max(MAX_BYTES)
  bytesUntilFull?: number | null;
  @ApiPropertyOptional() @IsOptional() @IsBoolean() refuses?: boolean;
  @ApiPropertyOptional() @IsOptional() @IsBoolean() changesNext?: boolean;
}

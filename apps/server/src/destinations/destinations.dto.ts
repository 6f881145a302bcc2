import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsOptional,
  IsString,
  Length,
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateIf,
  ValidateNested,
} from 'class-validator';
import { DESTINATION_KINDS, type DestinationKind, type Reach } from './destination.entity';
import { SENT_PARTS, type SentPart } from './sending.service';

/** Characters of an address or a path: what systems take. */
const LONGEST = 1000;
/** A private key of 16,384 bits is some 13,000 characters. */
const LONGEST_KEY = 20_000;

export class ReachDto implements Omit<Reach, 'hostKey'> {
  @ApiProperty({
    description: 'a folder: whole path on this computer; SFTP: folder there, empty: where one comes in',
  })
  @IsString()
  @MaxLength(LONGEST)
  path: string;
  /** No name and password in it: they would be shown and kept in the open. */
  @ApiProperty({ description: 'WebDAV: its address, without name and password' })
  @IsString()
  @MaxLength(LONGEST)
  @Matches(/^$|^https?:\/\/[^\s@/?#]+(\/[^\s@?#]*)?$/i, {
    message: 'the address begins with https:// (or http://) and holds no name, password or question mark',
  })
  url: string;
  @ApiProperty({ description: 'SFTP: name or number of the server' })
  @IsString()
  @MaxLength(255)
  @Matches(/^[^\s/@]*$/, { message: 'the server is a name or a number, without path' })
  host: string;
  @ApiProperty() @IsInt() @Min(1) @Max(65_535) port: number;
  @ApiProperty() @IsString() @MaxLength(255) user: string;
  @ApiProperty({ description: 'a folder: another program carries on what lies in it' })
  @IsBoolean()
  carried: boolean;
}

export class KeepDestinationDto {
  @ApiProperty() @IsString() @Length(1, 60) name: string;
  @ApiProperty({ enum: DESTINATION_KINDS }) @IsIn(DESTINATION_KINDS) kind: DestinationKind;
  @ApiProperty({ type: ReachDto }) @ValidateNested() @Type(() => ReachDto) reach: ReachDto;
  @ApiPropertyOptional({
    description: 'kept encrypted, and never given out; left out: as it is; empty: none',
  })
  @IsOptional()
  @IsString()
  @MaxLength(LONGEST)
  password?: string;
  @ApiPropertyOptional({ description: 'as an SSH client keeps it' })
  @IsOptional()
  @IsString()
  @MaxLength(LONGEST_KEY)
  privateKey?: string;
  @ApiPropertyOptional({ description: 'of the private key' })
  @IsOptional()
  @IsString()
  @MaxLength(LONGEST)
  passphrase?: string;
  @ApiPropertyOptional({
    type: String,
    nullable: true,
    description: 'an SFTP server’s key, trusted from now on',
  })
  @IsOptional()
  @ValidateIf((_, value) => value !== null)
  @IsString()
  @MaxLength(200)
  trust?: string | null;
}

export class DestinationDto {
  @ApiProperty() id: string;
  @ApiProperty() name: string;
  @ApiProperty({ enum: DESTINATION_KINDS }) kind: DestinationKind;
  @ApiProperty({ type: ReachDto }) reach: ReachDto;
  @ApiProperty({ type: String, nullable: true, description: 'an SFTP server’s key, as it was trusted' })
  hostKey: string | null;
  @ApiProperty({ description: 'where it is, as it is shown' }) place: string;
  @ApiProperty({ description: 'a password or key is kept for it' }) opens: boolean;
}

export class CheckedDestinationDto {
  @ApiProperty({ type: String, nullable: true, description: 'a server’s key that nobody has trusted yet' })
  trusts: string | null;
}

export class SendDto {
  @ApiProperty() @IsString() @Length(26, 26) destinationId: string;
  @ApiProperty({ enum: SENT_PARTS }) @IsIn(SENT_PARTS) part: SentPart;
  @ApiProperty({
    type: [String],
    nullable: true,
    description: 'only these frames’ files; null: the whole set',
  })
  @ValidateIf((_, value) => value !== null)
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(10_000)
  @IsString({ each: true })
  @Length(26, 26, { each: true })
  frameIds: string[] | null;
}

export class SendingStartedDto {
  @ApiProperty() jobId: string;
}

export class SentSetDto {
  @ApiProperty() id: string;
  @ApiProperty({ description: 'the set as it is now' }) deliveryId: string;
  @ApiProperty({ description: 'the set was brought up to date since' }) older: boolean;
  @ApiProperty({ description: 'what the destination was called' }) destination: string;
  @ApiProperty() place: string;
  @ApiProperty({ description: 'below the destination' }) folder: string;
  @ApiProperty({ description: 'another program carries it on: that it arrived is not proven' })
  carried: boolean;
  @ApiProperty({ type: Number, nullable: true }) confirmedAt: number | null;
  @ApiProperty() at: number;
  @ApiProperty({ type: Number, nullable: true, description: 'null: it is under way' }) finishedAt:
    number | null;
  @ApiProperty() files: number;
  @ApiProperty() bytes: number;
  @ApiProperty({ description: 'files that were read back from there, and were the same' }) arrived: number;
  @ApiProperty() failed: number;
  @ApiProperty({ type: Number, nullable: true, description: 'frames, where it is not the whole set' })
  frames: number | null;
}

import { ApiProperty } from '@nestjs/swagger';
import { Type } from 'class-transformer';
import { ArrayMaxSize, IsArray, IsString, Length, MaxLength, ValidateNested } from 'class-validator';
import { MATCHED_BY, type MatchedBy } from '@arkiv/core';
import type { ReturnState } from './returned.entity';
import type { EditsOfFrame, ReturnedFrame, ReturnListed } from './returns.service';

const STATES: readonly ReturnState[] = ['matched', 'asks', 'unknown', 'aside', 'over'];

export class ReturnedFrameDto implements ReturnedFrame {
  @ApiProperty() id: string;
  @ApiProperty() name: string;
  @ApiProperty({ type: String, nullable: true, description: 'key of the picture that its camera took' })
  picture: string | null;
}

export class ReturnDto implements ReturnListed {
  @ApiProperty() assetId: string;
  @ApiProperty({ description: 'of its file' }) name: string;
  @ApiProperty({ description: 'milliseconds since 1970' }) at: number;
  @ApiProperty({ enum: STATES }) state: ReturnState;
  @ApiProperty({ type: String, enum: MATCHED_BY, nullable: true, description: 'by what it was matched' })
  by: MatchedBy | null;
  @ApiProperty({ description: 'a frame of it had an edit already' }) second: boolean;
  @ApiProperty({ type: String, nullable: true, description: 'key of its picture; null: its file is gone' })
  picture: string | null;
  @ApiProperty({ type: String, nullable: true, description: 'below its drive' }) place: string | null;
  @ApiProperty({ type: [ReturnedFrameDto] }) originals: ReturnedFrameDto[];
  @ApiProperty({ type: [ReturnedFrameDto], description: 'among which it is, the likeliest first' })
  among: ReturnedFrameDto[];
}

/** A panorama of more frames than this nobody makes by hand. */
const MOST_ORIGINALS = 500;

export class ReturnAnswerDto {
  @ApiProperty({ type: [String], description: 'what it was made from; none: nothing of this shoot' })
  @IsArray()
  @ArrayMaxSize(MOST_ORIGINALS)
  @IsString({ each: true })
  @Length(26, 26, { each: true })
  frameIds: string[];
}

export class EditOfFrameDto {
  @ApiProperty() assetId: string;
  @ApiProperty() name: string;
  @ApiProperty() at: number;
  @ApiProperty({ type: String, nullable: true }) picture: string | null;
  @ApiProperty({ type: Number, nullable: true, description: 'pixels, upright' }) width: number | null;
  @ApiProperty({ type: Number, nullable: true }) height: number | null;
  @ApiProperty({ description: 'frames that it was made from' }) originals: number;
}

export class TakenPictureDto {
  @ApiProperty({ type: String, nullable: true, description: 'its key' }) picture: string | null;
  @ApiProperty({ type: Number, nullable: true, description: 'pixels' }) width: number | null;
  @ApiProperty({ type: Number, nullable: true }) height: number | null;
  @ApiProperty({ description: 'Exif orientation 1…8' }) orientation: number;
}

export class EditsOfFrameDto implements EditsOfFrame {
  @ApiProperty({ type: TakenPictureDto, description: 'what its camera took' }) taken: TakenPictureDto;
  @ApiProperty({ type: [EditOfFrameDto], description: 'the newest first' }) edits: EditOfFrameDto[];
}

export class ReturnFolderDto {
  @ApiProperty() @IsString() @Length(26, 26) volumeId: string;
  @ApiProperty({ description: 'below the drive' }) @IsString() @MaxLength(1000) path: string;
}

/** Folders that one shoot's edits come back in: one for each editor. */
const MOST_FOLDERS = 20;

export class ReturnFoldersDto {
  @ApiProperty({ type: [ReturnFolderDto] })
  @IsArray()
  @ArrayMaxSize(MOST_FOLDERS)
  @ValidateNested({ each: true })
  @Type(() => ReturnFolderDto)
  folders: ReturnFolderDto[];
}

import { ApiProperty } from '@nestjs/swagger';
import {
  IsBoolean,
  IsInt,
  IsNotEmpty,
  IsString,
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateIf,
} from 'class-validator';
import { LONGEST_GUEST } from '@arkiv/core';
import type { NewUploadLink } from './uploadLinks.service';
import type { UploadNow } from './uploads.service';

export class NewUploadDto {
  @ApiProperty() @IsString() @IsNotEmpty() @MaxLength(120) name: string;
}

export class WholeFileDto {
  @ApiProperty({ description: 'of the file as its sender read it, in lower-case hex' })
  @IsString()
  @Matches(/^[0-9a-f]{64}$/)
  sha256: string;
}

export class NamedFileDto {
  @ApiProperty({ description: 'its name in the upload' }) path: string;
}

export class HereFileDto extends NamedFileDto {
  @ApiProperty({ description: 'bytes' }) size: number;
  @ApiProperty() sha256: string;
}

export class ComingFileDto {
  @ApiProperty() id: string;
  @ApiProperty() path: string;
  @ApiProperty({ description: 'bytes' }) size: number;
  @ApiProperty({ description: 'bytes that are here' }) come: number;
}

export class UploadDto implements UploadNow {
  @ApiProperty() id: string;
  @ApiProperty() name: string;
  @ApiProperty({ description: 'when it was begun, milliseconds since 1970 UTC' }) at: number;
  @ApiProperty({
    type: String,
    nullable: true,
    description: 'the reader under which it can be taken in; null: it is coming',
  })
  readerId: string | null;
  @ApiProperty({
    type: String,
    nullable: true,
    description: 'who sends it by a link; null: the studio itself does',
  })
  by: string | null;
  @ApiProperty({ description: 'that are whole' }) files: number;
  @ApiProperty({ description: 'of these' }) bytes: number;
  @ApiProperty({ type: [ComingFileDto], description: 'that are not whole' }) coming: ComingFileDto[];
}

/** Bytes that one link may be for: a day of several bodies. It only keeps a mistaken number from being taken for a wish. */
const MOST_BY_LINK = 10e12;

export class NewUploadLinkDto implements NewUploadLink {
  @ApiProperty({ description: 'what is asked for' })
  @IsString()
  @Matches(/\S/)
  @MaxLength(80)
  title: string;
  @ApiProperty({ description: 'whom it is for; empty: several, who each say who they are' })
  @IsString()
  @MaxLength(LONGEST_GUEST)
  name: string;
  @ApiProperty({ description: 'bytes' }) @IsInt() @Min(1) @Max(MOST_BY_LINK) most: number;
  @ApiProperty({
    type: Number,
    nullable: true,
    description: 'milliseconds since 1970 UTC; null: until it is taken back',
  })
  @ValidateIf(({ until }: NewUploadLinkDto) => until !== null)
  @IsInt()
  until: number | null;
  @ApiProperty() @IsBoolean() withCode: boolean;
}

export class MadeUploadLinkDto {
  @ApiProperty() id: string;
}

export class UploadLinkDto {
  @ApiProperty() id: string;
  @ApiProperty() title: string;
  @ApiProperty({ description: 'whom it is for; empty: several' }) name: string;
  @ApiProperty({ description: 'bytes that may come by it' }) most: number;
  @ApiProperty({ description: 'bytes that have come' }) came: number;
  @ApiProperty({ type: Number, nullable: true }) until: number | null;
  @ApiProperty({ description: 'when it was made, milliseconds since 1970 UTC' }) at: number;
  @ApiProperty({ type: String, nullable: true, description: 'null: it cannot be read any more' })
  address: string | null;
  @ApiProperty({ type: String, nullable: true, description: 'null: none is asked for' })
  code: string | null;
}

import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import { LONGEST_NAME, type Album } from '@arkiv/core';
import { Transform } from 'class-transformer';
import {
  IsBoolean,
  IsIn,
  IsOptional,
  IsString,
  Length,
  Matches,
  MaxLength,
  ValidateIf,
} from 'class-validator';
import type { HeldAlbum } from '../find/foundAlbums';
import type { AlbumChange } from '../marks/albumStore';
import type { BroughtAlbums } from './albumTexts.service';

const ID = /^[0-9A-Z]{26}$/;
/** Characters of a rule: as of a line that is looked for. */
const LONGEST_RULE = 2000;
/** Characters of a text that is brought in: some hundred thousand names with their folders. */
const LONGEST_TEXT = 20_000_000;

const trimmed = ({ value }: { value: unknown }): unknown =>
  typeof value === 'string' ? value.trim() : value;
const notNull = (_: object, value: unknown): boolean => value !== null;

export class NewAlbumDto {
  @ApiProperty({ minLength: 1, maxLength: LONGEST_NAME })
  @Transform(trimmed)
  @IsString()
  @Length(1, LONGEST_NAME)
  name: string;
  @ApiPropertyOptional({ description: 'id of the album that it is to stand in' })
  @IsOptional()
  @Matches(ID)
  parent?: string;
  @ApiPropertyOptional({ description: 'the line of words and facts that fills it' })
  @IsOptional()
  @IsString()
  @MaxLength(LONGEST_RULE)
  rule?: string;
  @ApiPropertyOptional({ description: 'id of the pile whose frames come into it' })
  @IsOptional()
  @Matches(ID)
  pile?: string;
}

export class AlbumChangeDto implements AlbumChange {
  @ApiPropertyOptional({ minLength: 1, maxLength: LONGEST_NAME })
  @IsOptional()
  @Transform(trimmed)
  @IsString()
  @Length(1, LONGEST_NAME)
  name?: string;
  @ApiPropertyOptional({ type: String, nullable: true, description: 'null: it stands in none' })
  @IsOptional()
  @ValidateIf(notNull)
  @Matches(ID)
  parent?: string | null;
  @ApiPropertyOptional({
    type: String,
    nullable: true,
    description: 'the album before which it is to stand; null: at the end',
  })
  @IsOptional()
  @ValidateIf(notNull)
  @Matches(ID)
  before?: string | null;
  @ApiPropertyOptional({ description: 'the line that fills it' })
  @IsOptional()
  @IsString()
  @MaxLength(LONGEST_RULE)
  rule?: string;
  @ApiPropertyOptional({
    type: String,
    nullable: true,
    description: 'the frame that stands for it; null: its first',
  })
  @IsOptional()
  @ValidateIf(notNull)
  @Matches(ID)
  lead?: string | null;
  @ApiPropertyOptional({ description: 'true: taken away; false: brought back with all its frames' })
  @IsOptional()
  @IsBoolean()
  removed?: boolean;
}

export class AlbumDto implements Album {
  @ApiProperty() id: string;
  @ApiProperty() name: string;
  @ApiProperty({ type: String, nullable: true, description: 'id of the album that it stands in' }) parent:
    string | null;
  @ApiProperty({ description: 'where it stands among those beside it: places sort by their characters' })
  place: string;
  @ApiProperty({ type: String, nullable: true, description: 'the line that fills it; null: filled by hand' })
  rule: string | null;
  @ApiProperty({ type: String, nullable: true, description: 'id of the frame that stands for it' }) lead:
    string | null;
  @ApiProperty({ description: 'taken away, with its frames left in it' }) removed: boolean;
}

export class HeldAlbumDto implements HeldAlbum {
  @ApiProperty() id: string;
  @ApiProperty({ description: 'frames in it and below it' }) count: number;
  @ApiProperty({ type: [String], description: 'keys of pictures that it shows itself by' })
  pictures: string[];
  @ApiProperty({ type: String, nullable: true, description: 'why its rule cannot be followed' }) problem:
    string | null;
}

export const ALBUM_TEXTS = ['json', 'names'] as const;

export class AlbumTextAskedDto {
  @ApiProperty({ enum: ALBUM_TEXTS }) @IsIn(ALBUM_TEXTS) format: (typeof ALBUM_TEXTS)[number];
}

export class BringAlbumsDto {
  @ApiProperty({ description: 'albums as JSON, or names of frames, one a line' })
  @IsString()
  @MaxLength(LONGEST_TEXT)
  text: string;
  @ApiProperty({ description: 'name of the file, which names the album of a list' })
  @IsString()
  @Length(1, 255)
  name: string;
  @ApiProperty({ description: 'false: only says what would come' }) @IsBoolean() bring: boolean;
}

export class BroughtAlbumsDto implements BroughtAlbums {
  @ApiProperty() albums: number;
  @ApiProperty() frames: number;
  @ApiProperty({ type: [String], description: 'names that nothing here has' }) missing: string[];
  @ApiProperty({ type: [String], description: 'names that several frames have' }) several: string[];
  @ApiProperty({ type: [String], description: 'ids of the outermost albums that were made' }) made: string[];
  @ApiProperty({ description: 'frames of which a table says something that they did not have' })
  marked: number;
  @ApiProperty({ type: [String], description: 'what of a table is not taken over, in words' }) left: string[];
}

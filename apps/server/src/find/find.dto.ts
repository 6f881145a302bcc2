import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import {
  FIND_HEADINGS,
  type FacetCount,
  type FindHeading,
  type FoundFolder,
  type FoundFolders,
  type FramesADay,
  type Suggestion,
} from '@arkiv/core';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsOptional,
  IsString,
  Matches,
  Max,
  MaxLength,
  Min,
} from 'class-validator';
import type { Dropped, HeldAgainst } from './dropped.service';
import type { NamedGroup } from './finder';

/** Characters of a line: far more than anybody types, enough for one that is pasted. */
const LONGEST_LINE = 2000;
/** Frames of one page: some 300 kB. */
export const MOST_OF_A_PAGE = 1000;
/** Frames whose ids are told at once: what a pass, a pile or a selection takes. */
export const MOST_IDS = 50_000;

export class FindDto {
  @ApiProperty({ description: 'words and facts, see docs/formats.md' })
  @IsString()
  @MaxLength(LONGEST_LINE)
  line: string;
  @ApiPropertyOptional({ description: 'the last word is still being typed' })
  @IsOptional()
  @IsBoolean()
  typing?: boolean;
  @ApiPropertyOptional({ description: 'what the studio’s rules reject is in too' })
  @IsOptional()
  @IsBoolean()
  rejects?: boolean;
  @ApiPropertyOptional({ description: 'what lies in the bin is in too' })
  @IsOptional()
  @IsBoolean()
  bin?: boolean;
  @ApiPropertyOptional({ enum: FIND_HEADINGS })
  @IsOptional()
  @IsIn(FIND_HEADINGS)
  heading?: FindHeading;
  @ApiPropertyOptional()
  @IsOptional()
  @IsBoolean()
  oldestFirst?: boolean;
  @ApiPropertyOptional({ description: 'one frame for each take' })
  @IsOptional()
  @IsBoolean()
  fold?: boolean;
  @ApiPropertyOptional({
    description: 'id of a frame, or what a picture is like: such pictures are found, the most alike first',
  })
  @IsOptional()
  @Matches(/^([0-9A-Z]{26}|~[0-9a-f]{16})$/)
  like?: string;
  @ApiPropertyOptional({ description: 'id of the album that is looked into' })
  @IsOptional()
  @Matches(/^[0-9A-Z]{26}$/)
  album?: string;
  @ApiPropertyOptional({ description: 'the newest that was seen; what came after it is counted' })
  @IsOptional()
  @IsInt()
  @Min(0)
  seen?: number;
}

export class FoundPartDto {
  @ApiProperty({ description: 'where it stands in the line' }) from: number;
  @ApiProperty() to: number;
  @ApiProperty({ description: 'what it is called by itself' }) words: string;
  @ApiProperty({ enum: ['fact', 'word'] }) kind: 'fact' | 'word';
  @ApiPropertyOptional({ description: 'what of it cannot be asked; it hides nothing then' }) problem?: string;
}

export class FoundGroupDto implements NamedGroup {
  @ApiProperty({ type: String, nullable: true, description: 'null: it is not known' }) key: string | null;
  @ApiProperty({ description: 'where its first stands among all' }) from: number;
  @ApiProperty() count: number;
  @ApiProperty({ type: String, nullable: true, description: 'a shoot’s title, an arrival’s card' })
  title: string | null;
  @ApiProperty({ type: String, nullable: true, description: 'YYYY-MM-DD' }) date: string | null;
}

export class FoundColumnsDto {
  @ApiProperty() count: number;
  @ApiProperty({
    type: 'object',
    additionalProperties: { type: 'array', items: {} },
    description:
      'as of a shoot’s frames; also nth among the results, key, shootId, shoot, client, place, binned, hits (of its take, where takes are folded)',
  })
  columns: Record<string, (string | number | null)[]>;
}

export class FoundReadingDto {
  @ApiProperty() done: number;
  @ApiProperty() of: number;
}

export class FoundDto {
  @ApiProperty({ description: 'by which pages of it are asked for' }) token: string;
  @ApiProperty({ type: [FoundPartDto] }) parts: FoundPartDto[];
  @ApiProperty() count: number;
  @ApiProperty({
    type: Number,
    nullable: true,
    description: 'frames, where one stands for each take; null: each for itself',
  })
  folded: number | null;
  @ApiProperty({ description: 'found too, and left out as the studio’s rules reject them' }) rejects: number;
  @ApiProperty({ description: 'found too, and in the bin' }) binned: number;
  @ApiProperty({ type: [FoundGroupDto] }) groups: FoundGroupDto[];
  @ApiProperty({ type: String, nullable: true, description: 'the line as it was probably meant' })
  meant: string | null;
  @ApiProperty({ description: 'frames that came after the one that was seen' }) fresh: number;
  @ApiProperty({ description: 'the newest frame of the archive' }) newest: number;
  @ApiProperty({ type: FoundReadingDto, nullable: true, description: 'frames known so far; null: all' })
  reading: FoundReadingDto | null;
  @ApiProperty({ type: FoundColumnsDto, description: 'the first frames' }) page: FoundColumnsDto;
}

export class FramesByIdDto {
  @ApiProperty({ type: [String] })
  @IsArray()
  @ArrayMaxSize(MOST_IDS)
  @IsString({ each: true })
  ids: string[];
}

export class FoundPageAskedDto {
  @ApiProperty() @Type(() => Number) @IsInt() @Min(0) from: number;
  @ApiProperty() @Type(() => Number) @IsInt() @Min(1) @Max(MOST_OF_A_PAGE) count: number;
}

export class FacetCountDto implements FacetCount {
  @ApiProperty({ oneOf: [{ type: 'string' }, { type: 'number' }], nullable: true })
  value: string | number | null;
  @ApiProperty() count: number;
}

export class FoundFacetDto {
  @ApiProperty() fact: string;
  @ApiProperty({ type: [FacetCountDto] }) counts: FacetCountDto[];
  @ApiProperty({ description: 'values that are not told' }) more: number;
}

export class DroppedAskedDto {
  @ApiPropertyOptional({ description: 'what its file is called' })
  @IsOptional()
  @IsString()
  @MaxLength(300)
  name?: string;
}

export class DroppedDto implements Dropped {
  @ApiProperty({ description: 'a frame, or what the picture is like: as it is asked for' }) like: string;
  @ApiProperty({ description: 'it was made from this frame' }) original: boolean;
  @ApiProperty({
    ...{ type: String, nullable: true },
    description: 'by which it is held against further frames; null: it is sure',
  })
  token: string | null;
}

export class HoldAgainstDto {
  @ApiPropertyOptional({
    ...{ type: Number, nullable: true },
    description: 'where the frames begin, as the last answer said; none: the first',
  })
  @IsOptional()
  @IsInt()
  @Min(0)
  before?: number | null;
}

export class HeldAgainstDto implements HeldAgainst {
  @ApiProperty({
    ...{ type: String, nullable: true },
    description: 'the frame that it was made from; null: none of these',
  })
  like: string | null;
  @ApiProperty({ description: 'frames that it was held against' }) looked: number;
  @ApiProperty({ description: 'how many of these nobody has looked at yet: they were passed over' })
  unseen: number;
  @ApiProperty({ description: 'frames that there are in all' }) of: number;
  @ApiProperty({
    ...{ type: Number, nullable: true },
    description: 'where the next ones begin; null: these were the last',
  })
  before: number | null;
}

export class SuggestionsAskedDto {
  @ApiProperty() @IsString() @MaxLength(LONGEST_LINE) line: string;
}

export class SuggestionDto implements Suggestion {
  @ApiProperty({ enum: ['word', 'keyword', 'person', 'shoot', 'client', 'place'] }) kind: Suggestion['kind'];
  @ApiProperty() words: string;
  @ApiProperty({ description: 'the part of a line that asks for it' }) line: string;
  @ApiProperty({ description: 'frames that it finds by itself' }) count: number;
}

export class YearAskedDto {
  @ApiProperty() @Type(() => Number) @IsInt() @Min(1) @Max(9999) year: number;
}

export class FramesADayDto implements FramesADay {
  @ApiProperty({ type: [Number], description: 'those of which there are frames, the first first' })
  years: number[];
  @ApiProperty({
    ...{ type: 'object', additionalProperties: { type: 'number' } },
    description: 'frames by day, MM-DD, by their corrected wall clocks',
  })
  days: Record<string, number>;
}

/** Characters of a path: what the systems allow. */
const LONGEST_PATH = 4096;

export class FoldersAskedDto {
  @ApiPropertyOptional({ description: 'below each drive; empty: all' })
  @IsOptional()
  @IsString()
  @MaxLength(LONGEST_PATH)
  path?: string;
}

class FoundFolderDto implements FoundFolder {
  @ApiProperty({ description: 'below each drive' }) path: string;
  @ApiProperty() name: string;
  @ApiProperty({ description: 'frames in it and below it' }) frames: number;
}

export class FoundFoldersDto implements FoundFolders {
  @ApiProperty({ description: 'frames in it and below it' }) frames: number;
  @ApiProperty({ description: 'frames in it, not below it' }) own: number;
  @ApiProperty({ type: [FoundFolderDto], description: 'folders in it, by their names' })
  folders: FoundFolder[];
}

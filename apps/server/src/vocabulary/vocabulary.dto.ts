import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsOptional,
  IsString,
  MaxLength,
  ValidateNested,
} from 'class-validator';
import { ArkivError, TERM_KINDS, type RosterEntry, type TermChange, type TermKind } from '@arkiv/core';
import type { Following } from './termFrames.service';
import type { UnfiledWord, VocabularyFormat } from './vocabulary.service';

const DEEDS = ['add', 'set', 'roster', 'rename', 'move', 'join', 'split', 'remove'] as const;
/** Bytes of a vocabulary as text: fifty thousand terms in SKOS are some ten million. */
const MOST_TEXT = 30_000_000;

export class TermColumnsDto {
  @ApiProperty() count: number;
  @ApiProperty({ type: 'object', additionalProperties: { type: 'array', items: {} } as never })
  columns: Record<string, (string | number | null)[]>;
}

export class RosterEntryDto implements RosterEntry {
  @ApiProperty() @IsString() @MaxLength(8) number: string;
  @ApiProperty() @IsString() @MaxLength(1000) word: string;
}

/** Names on one list: a whole regatta's. */
const MOST_ENTRIES = 2000;

/** One change of the vocabulary; which members it needs goes by what it does. */
export class TermChangeDto {
  @ApiProperty({ enum: DEEDS }) @IsIn(DEEDS) do: TermChange['do'];
  @ApiPropertyOptional() @IsOptional() @IsString() @MaxLength(40) id?: string;
  @ApiPropertyOptional() @IsOptional() @IsString() @MaxLength(1000) word?: string;
  @ApiPropertyOptional({ type: String, nullable: true })
  @IsOptional()
  @IsString()
  @MaxLength(40)
  parent?: string | null;
  @ApiPropertyOptional() @IsOptional() @IsString() @MaxLength(40) into?: string;
  @ApiPropertyOptional({ type: [String] })
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(100)
  @IsString({ each: true })
  words?: string[];
  @ApiPropertyOptional({ type: [String] })
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(100)
  @IsString({ each: true })
  synonyms?: string[];
  @ApiPropertyOptional({ type: [RosterEntryDto], description: 'the numbered list under it' })
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(MOST_ENTRIES)
  @ValidateNested({ each: true })
  @Type(() => RosterEntryDto)
  entries?: RosterEntryDto[];
  @ApiPropertyOptional({ enum: TERM_KINDS }) @IsOptional() @IsIn(TERM_KINDS) kind?: TermKind;
  @ApiPropertyOptional() @IsOptional() @IsBoolean() deliver?: boolean;
  @ApiPropertyOptional({ description: 'takes it off frames too' })
  @IsOptional()
  @IsBoolean()
  frames?: boolean;
}

const NEEDED: Readonly<Record<TermChange['do'], readonly (keyof TermChangeDto)[]>> = {
  add: ['word', 'kind'],
  set: ['id', 'synonyms', 'kind', 'deliver'],
  roster: ['id', 'entries'],
  rename: ['id', 'word'],
  move: ['id'],
  join: ['id', 'into'],
  split: ['id', 'words'],
  remove: ['id', 'frames'],
};

/** The change that was sent, with all that it needs. */
export function termChange(sent: TermChangeDto): TermChange {
  const missing = NEEDED[sent.do].filter((member) => sent[member] === undefined);
  if (missing.length > 0)
    throw new ArkivError('request.invalid', { reason: `“${sent.do}” needs ${missing.join(', ')}` });
  const { parent = null } = sent;
  return { ...sent, parent } as TermChange;
}

export class FollowingDto implements Following {
  @ApiProperty({ description: 'frames whose keywords follow' }) frames: number;
  @ApiProperty() shoots: number;
}

export class VocabularyChangeDto {
  @ApiProperty() id: string;
  @ApiProperty({ description: 'milliseconds since 1970' }) at: number;
  @ApiProperty() words: string;
  @ApiProperty({ enum: ['open', 'done', 'undoing', 'undone'] }) state: 'open' | 'done' | 'undoing' | 'undone';
  @ApiProperty({ description: 'frames that were changed so far' }) frames: number;
}

export class LastChangeDto {
  @ApiProperty({ type: VocabularyChangeDto, nullable: true }) last: VocabularyChangeDto | null;
}

const FORMATS = ['indented', 'turtle', 'rdfxml'] as const;

export class BringTermsDto {
  @ApiProperty() @IsString() @MaxLength(MOST_TEXT) text: string;
  @ApiProperty({ enum: FORMATS }) @IsIn(FORMATS) format: VocabularyFormat;
  @ApiProperty({ description: 'false: only says what would come' }) @IsBoolean() bring: boolean;
}

export class BroughtDto {
  @ApiProperty({ description: 'terms that were not there' }) added: number;
  @ApiProperty({ description: 'terms that learned synonyms, or another kind' }) changed: number;
}

export class VocabularyTextAskedDto {
  @ApiProperty({ enum: ['indented', 'turtle'] }) @IsIn(['indented', 'turtle']) format: 'indented' | 'turtle';
}

export class UnfiledWordDto implements UnfiledWord {
  @ApiProperty() word: string;
  @ApiProperty() frames: number;
}

/** Numbered lists of one shoot: both teams, the umpires, and some more. */
const MOST_ROSTERS = 20;

export class ShootRostersDto {
  @ApiProperty({ type: [String], description: 'ids of the terms that the lists stand under' })
  @IsArray()
  @ArrayMaxSize(MOST_ROSTERS)
  @IsString({ each: true })
  @MaxLength(40, { each: true })
  terms: string[];
}

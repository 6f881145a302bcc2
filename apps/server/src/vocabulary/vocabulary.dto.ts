import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import { ArrayMaxSize, IsArray, IsBoolean, IsIn, IsOptional, IsString, MaxLength } from 'class-validator';
import { ArkivError, TERM_KINDS, type TermChange, type TermKind } from '@arkiv/core';
import type { Following, UnfiledWord, VocabularyFormat } from './vocabulary.service';

const DEEDS = ['add', 'set', 'rename', 'move', 'join', 'split', 'remove'] as const;
/** Bytes of a vocabulary as text: fifty thousand terms in SKOS are some ten million. */
const MOST_TEXT = 30_000_000;

export class TermColumnsDto {
  @ApiProperty() count: number;
  @ApiProperty({ type: 'object', additionalProperties: { type: 'array', items: {} } as never })
  columns: Record<string, (string | number | null)[]>;
}

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

import { ArkivError, LONGEST_REMARK } from '@arkiv/core';
import { plainToInstance } from 'class-transformer';
import {
  IsBoolean,
  IsIn,
  IsInt,
  IsNumber,
  IsString,
  Max,
  MaxLength,
  Min,
  ValidateIf,
  validateSync,
} from 'class-validator';
import type { Saying } from '../saying.service';

const KINDS = ['favourite', 'choice', 'remark', 'unsay', 'sent'] as const;
/** Characters of a picture's key. */
const LONGEST_KEY = 32;
const ofPicture = ({ kind }: SayingBody) => ['favourite', 'choice', 'remark'].includes(kind);
const ofSpot = ({ kind, x, y }: SayingBody) => kind === 'remark' && (x ?? y ?? null) !== null;

/** What comes from a client's browser. */
class SayingBody {
  @IsIn(KINDS) kind: (typeof KINDS)[number];
  @ValidateIf(ofPicture) @IsString() @MaxLength(LONGEST_KEY) key: string;
  @ValidateIf(({ kind }: SayingBody) => kind === 'favourite' || kind === 'choice') @IsBoolean() on: boolean;
  @ValidateIf(({ kind }: SayingBody) => kind === 'remark')
  @IsString()
  @MaxLength(LONGEST_REMARK)
  text: string;
  @ValidateIf(ofSpot) @IsNumber() @Min(0) @Max(1) x: number | null;
  @ValidateIf(ofSpot) @IsNumber() @Min(0) @Max(1) y: number | null;
  @ValidateIf(({ kind }: SayingBody) => kind === 'unsay') @IsInt() id: number;
}

/** Throws `request.invalid` for anything that nobody can say. */
export function sayingOf(body: unknown): Saying {
  const said = plainToInstance(SayingBody, typeof body === 'object' && body !== null ? body : {});
  const problems = Array.isArray(said) ? [] : validateSync(said);
  if (Array.isArray(said) || problems.length > 0)
    throw new ArkivError('request.invalid', {
      reason: problems.map(({ property }) => property).join(', ') || 'it says nothing',
    });
  const { kind, key, on, text, x = null, y = null, id } = said;
  if (kind === 'remark') return { kind, key, text, x, y };
  if (kind === 'unsay') return { kind, id };
  return kind === 'sent' ? { kind } : { kind, key, on };
}

/**
 * What kind of frames make up a take. `near`: near-duplicates, the same subject reframed or moments apart; `variant`: one
 * picture, processed in several ways.
 */
export const TAKE_KINDS = ['burst', 'bracket', 'panorama', 'near', 'variant'] as const;
export type TakeKind = (typeof TAKE_KINDS)[number];

/** What a take of that kind is called. */
export const TAKE_KIND_WORDS: Readonly<Record<TakeKind, string>> = {
  burst: 'burst',
  bracket: 'bracket',
  panorama: 'panorama',
  near: 'near-duplicates',
  variant: 'variants',
};

/** What a person said about a frame's place among takes. It stays, whatever the machine finds later. */
export interface Correction {
  /**
   * `cut`: a new take begins with it. `join`: it goes on with the take of the frame before it. An id: it belongs to that
   * frame's take, wherever it stands; its own id: it stands alone. Null: nobody said.
   */
  place: 'cut' | 'join' | { with: string } | null;
  /** it stands for its take */
  lead: boolean;
  /** of its take; null: nobody said */
  kind: TakeKind | null;
}

const NONE: Readonly<Correction> = { place: null, lead: false, kind: null };

const ULID = /^[0-9A-Z]{26}$/;

/** How a correction is kept, as words in one order: `cut lead burst`, `with:01J…`. Null: nothing is corrected. */
export function correctionText({ place, lead, kind }: Correction): string | null {
  const words = [
    typeof place === 'string' ? place : place ? `with:${place.with}` : null,
    lead ? 'lead' : null,
    kind,
  ].filter((word) => word !== null);
  return words.length > 0 ? words.join(' ') : null;
}

/** A correction as it is kept, taken apart. Words that are none are passed over. */
export function correctionOf(text: string | null): Correction {
  if (text === null) return NONE;
  let correction: Correction = NONE;
  for (const word of text.split(' ')) {
    if (word === 'cut' || word === 'join') correction = { ...correction, place: word };
    else if (word === 'lead') correction = { ...correction, lead: true };
    else if (word.startsWith('with:') && ULID.test(word.slice(5)))
      correction = { ...correction, place: { with: word.slice(5) } };
    else if ((TAKE_KINDS as readonly string[]).includes(word))
      correction = { ...correction, kind: word as TakeKind };
  }
  return correction;
}

/** Whether a value can be kept as a correction: one that comes back as it is. */
export const isCorrection = (value: unknown): value is string =>
  typeof value === 'string' && correctionText(correctionOf(value)) === value;

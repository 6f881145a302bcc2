import { stamped, type Operation, type Stamp } from '../journal/operation';
import { isCorrection } from '../takes/correction';
import { hasKeyword, isJoinedIn, isKeyword, keywordKey, keywordsIn } from '../description/keywords';
import { isSaid, keptTexts, TEXT_FIELDS, textsIn, type TextField } from '../description/texts';
import { albumsIn, albumPlace, withPlace } from '../albums/membership';
import { isPlace } from '../albums/place';
import { isStageId } from './stageId';
import { isNote } from './note';
import {
  FINISH_FIELDS,
  finishOf,
  isFinishValue,
  withFinishValue,
  type FinishField,
  type FinishValue,
} from '../finishing/values';

export type Verdict = 'keep' | 'reject' | 'undecided';
export const LABELS = ['A', 'B', 'M', 'S', 'P'] as const;
export type Label = (typeof LABELS)[number];

/** What was decided about a frame. A reject keeps its stars: taking the reject back gives them back. */
export interface Marks {
  verdict: Verdict;
  /** 0…5 */
  stars: number;
  label: Label | null;
  /** words to whoever edits it, perhaps at a spot of it (see `noteOf`); null: none */
  note: string | null;
  /** id of the stage at which a keeper stands, see `stageAt`; null: nothing was said */
  stage: string | null;
  /** what was said of its place among takes (see `correctionOf`); null: nothing */
  take: string | null;
  /** ids of the piles that it is in, in order, joined by `+` */
  piles: string;
  /** the albums that it is in and where it stands there, see `albumsIn` */
  albums: string;
  /** what is said of it in words, as it goes to whoever publishes it; null: nothing */
  caption: string | null;
  /** its keywords in the order given, each once, joined by line ends; see `keywordsIn` */
  keywords: string;
  /** who is shown, joined in the same way */
  persons: string;
  /** what else is said of it: headline, place, rights; see `textsIn` */
  texts: string;
  /** how it is finished, see `finishOf` */
  finish: string;
}

export const UNMARKED: Readonly<Marks> = {
  verdict: 'undecided',
  stars: 0,
  label: null,
  note: null,
  stage: null,
  take: null,
  piles: '',
  albums: '',
  caption: null,
  keywords: '',
  persons: '',
  texts: '',
  finish: '',
};

/** The marks out of what is known of a frame. */
export const marksIn = (its: Marks): Marks => {
  const { verdict, stars, label, note, stage, take, piles, albums, caption, keywords, persons, texts } = its;
  const { finish } = its;
  return {
    verdict,
    stars,
    label,
    note,
    stage,
    take,
    piles,
    albums,
    caption,
    keywords,
    persons,
    texts,
    finish,
  };
};

/** Marks of which a frame has one value. */
export type MarkField = Exclude<keyof Marks, 'piles' | 'albums' | 'texts' | 'finish' | WordSet>;
/** What a mark changes: one of these, one of its texts, one value of its finishing, whether the frame is in one pile, where it stands in one album, or whether it has one keyword or person, whatever others it has. */
export type MarkKind = MarkField | PileKind | AlbumKind | WordKind | TextKind | FinishKind;
export type MarkValue = Marks[MarkField] | FinishValue | boolean;

/** One decision about a frame, as the journal holds it. */
export type MarkOperation = Operation<MarkKind, MarkValue>;

export type PileKind = `pile ${string}`;
/** The kind of what puts frames into a pile (true) or takes them out (false). A pile's id is a ULID. */
export const pileKind = (pileId: string): PileKind => `pile ${pileId}`;
export type AlbumKind = `album ${string}`;
/** The kind of what gives frames a place in an album, or takes them out (null). An album's id is a ULID. */
export const albumKind = (albumId: string): AlbumKind => `album ${albumId}`;
/** Marks that are sets of words. */
export type WordSet = 'keywords' | 'persons';
export type KeywordKind = `keyword ${string}`;
export type PersonKind = `person ${string}`;
export type WordKind = KeywordKind | PersonKind;
/** The kind of what gives frames a keyword (true) or takes it from them (false). */
export const keywordKind = (keyword: string): KeywordKind => `keyword ${keyword}`;
/** The kind of what says that somebody is shown (true), or is not (false). */
export const personKind = (person: string): PersonKind => `person ${person}`;
const KIND_OF_SET = { keywords: keywordKind, persons: personKind } as const;
const SET_OF_KIND: Readonly<Record<string, WordSet>> = { keyword: 'keywords', person: 'persons' };
export type TextKind = `text ${TextField}`;
/** The kind of what one of a frame's texts says; null: nothing. */
export const textKind = (field: TextField): TextKind => `text ${field}`;
export type FinishKind = `finish ${FinishField}`;
/** The kind of what gives frames one value of their finishing, or takes it away (null). */
export const finishKind = (field: FinishField): FinishKind => `finish ${field}`;
/** Every kind that there is; the groups are a text's field, a value of finishing, a pile's id, which set a word is of and the word, and an album's id. */
export const MARK_KIND = new RegExp(
  `^(?:verdict|stars|label|note|stage|take|caption|text (${TEXT_FIELDS.join('|')})|finish (${FINISH_FIELDS.join('|')})|pile ([0-9A-Z]{26})|(keyword|person) (\\S.*)|album ([0-9A-Z]{26}))$`,
);
/** What a kind is of: at most one of these is not null, and none for a mark of which a frame has one value. */
interface KindParts {
  text: TextField | null;
  finish: FinishField | null;
  pile: string | null;
  word: { set: WordSet; word: string } | null;
  album: string | null;
}

const NO_PARTS: KindParts = { text: null, finish: null, pile: null, word: null, album: null };
/** Kinds that were taken apart lately: a selection of thousands is given the same few, again and again. */
const known = new Map<string, KindParts>();
/** More than a studio gives at once; then it begins anew, as a long row of words that come once each would fill the memory. */
const MOST_KNOWN = 1000;

function partsOf(kind: string): KindParts {
  const parts = known.get(kind);
  if (parts) return parts;
  const [, text, finish, pile, of, word, album] = MARK_KIND.exec(kind) ?? [];
  const read: KindParts = {
    ...NO_PARTS,
    ...(text !== undefined && { text: text as TextField }),
    ...(finish !== undefined && { finish: finish as FinishField }),
    ...(pile !== undefined && { pile }),
    ...(of !== undefined && word !== undefined && { word: { set: SET_OF_KIND[of]!, word } }),
    ...(album !== undefined && { album }),
  };
  if (known.size >= MOST_KNOWN) known.clear();
  known.set(kind, read);
  return read;
}

/** The pile of a kind; null: it is of another kind. */
export const pileOfKind = (kind: string): string | null => partsOf(kind).pile;

/** The album of a kind; null: it is of another kind. */
export const albumOfKind = (kind: string): string | null => partsOf(kind).album;

/** The word of a kind, and the set that it is of; null: it is of another kind. */
export const wordOfKind = (kind: string): { set: WordSet; word: string } | null => partsOf(kind).word;

/** The text of a kind; null: it is of another kind. */
export const textOfKind = (kind: string): TextField | null => partsOf(kind).text;

/** The value of finishing that a kind is of; null: it is of another kind. */
export const finishOfKind = (kind: string): FinishField | null => partsOf(kind).finish;

/** The piles that a frame is in. */
export const pilesOf = ({ piles }: Pick<Marks, 'piles'>): string[] => (piles === '' ? [] : piles.split('+'));

/** The albums that a frame is in. */
export const albumsOf = ({ albums }: Pick<Marks, 'albums'>): string[] =>
  albumsIn(albums).map(({ album }) => album);

/** What a frame's mark of a kind is. */
export function markOf(marks: Readonly<Marks>, kind: MarkKind): MarkValue {
  const pile = pileOfKind(kind);
  if (pile !== null) return pilesOf(marks).includes(pile);
  const album = albumOfKind(kind);
  if (album !== null) return albumPlace(marks.albums, album);
  const of = wordOfKind(kind);
  if (of !== null) return isJoinedIn(marks[of.set], of.word);
  const finish = finishOfKind(kind);
  if (finish !== null) return finishOf(marks.finish)[finish] ?? null;
  const text = textOfKind(kind);
  return text === null ? marks[kind as MarkField] : (textsIn(marks.texts)[text] ?? null);
}

export function isMarkValue(field: MarkKind, value: unknown): value is MarkValue {
  switch (field) {
    case 'verdict':
      return value === 'keep' || value === 'reject' || value === 'undecided';
    case 'stars':
      return typeof value === 'number' && Number.isInteger(value) && value >= 0 && value <= 5;
    case 'label':
      return value === null || LABELS.includes(value as Label);
    case 'note':
      return value === null || isNote(value);
    case 'stage':
      return value === null || isStageId(value);
    case 'take':
      return value === null || isCorrection(value);
    case 'caption':
      return value === null || isSaid(value);
    default:
      if (albumOfKind(field) !== null) return value === null || isPlace(value);
      if (textOfKind(field) !== null) return value === null || isSaid(value);
      if (finishOfKind(field) !== null) return value === null || isFinishValue(finishOfKind(field)!, value);
      return (pileOfKind(field) !== null || isKeyword(wordOfKind(field)?.word)) && typeof value === 'boolean';
  }
}

/** What gives and takes words so that one kept text of them becomes another. */
export function wordChanges(
  set: WordSet,
  from: string,
  to: string,
): { kind: WordKind; from: boolean; to: boolean }[] {
  const [before, after] = [keywordsIn(from), keywordsIn(to)];
  const of = (words: readonly string[], other: readonly string[], given: boolean) =>
    words
      .filter((word) => !hasKeyword(other, word))
      .map((word) => ({ kind: KIND_OF_SET[set](word), from: !given, to: given }));
  return [...of(before, after, false), ...of(after, before, true)];
}

/** What changes one frame's kept finishing into another. */
export function finishChanges(
  from: string,
  to: string,
): { kind: FinishKind; from: FinishValue | null; to: FinishValue | null }[] {
  const [before, after] = [finishOf(from), finishOf(to)];
  return FINISH_FIELDS.filter((field) => before[field] !== after[field]).map((field) => ({
    kind: finishKind(field),
    from: before[field] ?? null,
    to: after[field] ?? null,
  }));
}

/** The marks after an operation. An operation whose `from` no longer holds is applied all the same: the last wins. */
export function applyMark(marks: Readonly<Marks>, operation: Pick<MarkOperation, 'kind' | 'to'>): Marks {
  if (!isMarkValue(operation.kind, operation.to)) {
    throw new TypeError(`${operation.kind} cannot be ${JSON.stringify(operation.to)}`);
  }
  const of = wordOfKind(operation.kind);
  if (of !== null) {
    const { set, word } = of;
    // Given again it stays where it stands, as it was written first.
    if (isJoinedIn(marks[set], word) === operation.to) return marks;
    if (operation.to) return { ...marks, [set]: marks[set] === '' ? word : `${marks[set]}\n${word}` };
    const others = keywordsIn(marks[set]).filter((its) => keywordKey(its) !== keywordKey(word));
    return { ...marks, [set]: others.join('\n') };
  }
  const text = textOfKind(operation.kind);
  if (text !== null) {
    const texts = { ...textsIn(marks.texts), [text]: operation.to as string | null };
    return { ...marks, texts: keptTexts(texts) };
  }
  const finish = finishOfKind(operation.kind);
  if (finish !== null)
    return { ...marks, finish: withFinishValue(marks.finish, finish, operation.to as FinishValue | null) };
  const album = albumOfKind(operation.kind);
  if (album !== null)
    return { ...marks, albums: withPlace(marks.albums, album, operation.to as string | null) };
  const pile = pileOfKind(operation.kind);
  if (pile === null) return { ...marks, [operation.kind]: operation.to };
  const others = pilesOf(marks).filter((id) => id !== pile);
  const piles = operation.to ? [...others, pile].sort() : others;
  return { ...marks, piles: piles.join('+') };
}

/** Operations that set a mark on these frames as one group; frames that have it already are left out. */
export function markFrames(
  frames: readonly { id: string; marks: Readonly<Marks> }[],
  kind: MarkKind,
  to: MarkValue,
  stamp: Stamp,
): MarkOperation[] {
  return markEach(
    frames.map((frame) => ({ ...frame, field: kind, to })),
    stamp,
  );
}

/** Operations that set marks of several kinds as one group; what a frame has already is left out. */
export function markEach(
  changes: readonly { id: string; marks: Readonly<Marks>; field: MarkKind; to: MarkValue }[],
  stamp: Stamp,
): MarkOperation[] {
  const shared = stamped(stamp);
  return changes
    .filter(({ marks, field, to }) => markOf(marks, field) !== to)
    .map(({ id, marks, field, to }) => ({
      ...{ id: stamp.newId(), kind: field, subject: id, from: markOf(marks, field), to },
      ...shared,
    }));
}

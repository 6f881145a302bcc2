import { AWAY, joined, textsHeld, type QueryField, type QueryFrame } from '../query/fields';
import { predicate, wordsAsked, type Filter, type Leaf } from '../query/filter';
import { albumsOf } from '../marks/marks';
import { askedWords, asksWords, indexWords, saidOf, type Said } from '../query/words';
import { Bits } from './bits';
import { Coded, Measured, NumbersByKey } from './columns';
import { FoundShoots, type FoundShoot } from './foundShoots';
import { HashColumn, type PictureHash } from './hashColumn';
import { TimeOrder } from './timeOrder';
import { WordIndex } from './wordIndex';

/** A frame as it is found by. */
export interface FoundRow extends Omit<QueryFrame, 'away' | 'shoot' | 'client' | 'place' | 'drives'> {
  /** the integer that names it in the database */
  key: number;
  shootId: string;
  /** its files lie in the bin */
  binned: boolean;
  /** whether a picture shows it */
  shown: boolean;
  /** id of what brought it; null: not known */
  arrival: string | null;
  /** see {@link QueryFrame.drives} */
  drives: string;
  taken: number | null;
  lies: string;
  delivered: string | null;
}

/** Facts that few different values are of. */
const CODED = [
  ...['verdict', 'stars', 'label', 'body', 'lens', 'aperture', 'exposure', 'iso', 'focalLength'],
  ...['stage', 'role', 'format', 'raw', 'sign', 'detail', 'voice', 'edited', 'finished', 'delivered', 'lies'],
] as const;
export type CodedFact = (typeof CODED)[number] & keyof FoundRow;
const MEASURED = ['instant', 'taken', 'sharpness'] as const;
const OF_SHOOT = ['shoot', 'client', 'place'] as const;

/** What frames have several of, with the letter under which its values stand among the words. */
export const SETS = {
  ...{ keywords: 'k', persons: 'p', piles: 'i', albums: 'b', drives: 'd', advice: 'a', formats: 'f' },
} as const satisfies Partial<Record<QueryField, string>>;
export type SetName = keyof typeof SETS;
/** Before what is no word of a text: no text has it in its words. */
const OWN = '\u0001';
const valueWord = (set: SetName, value: string): string => `${OWN}${SETS[set]}${value}`;
/** What frames have that have anything of a kind: of a set, a caption, a note, a picture. */
const anyWord = (what: SetName | 'caption' | 'note' | 'shown'): string => `${OWN}=${what}`;

/** Texts whose words are found together, and singly by reading them. */
const TEXTS = ['name', 'original', 'note', 'caption', 'keywords', 'persons', 'texts'] as const;
/** Facts that `text` asks for too, and that are held as codes. */
const CODED_TEXTS = ['body', 'lens'] as const;
const READ: readonly QueryField[] = ['name', 'original', 'caption', 'note'];

/** Reads of frames, by their keys, which a condition lets through; of those of them that are here or in the bin. */
export type Reader = (leaf: Leaf, keys: readonly number[]) => Promise<readonly number[]>;

/**
 * Conditions whose answers are kept until a frame changes: those of a line's other words while one goes on typing, and of what the studio
 * rejects, which each question asks for. At a million frames each takes an eighth of a megabyte.
 */
const KEPT = 24;

/** Frames that are read in one question: a hundredth of a second. */
const READ_AT_ONCE = 1000;

/**
 * All frames of an archive as columns and words in memory: what any filter finds, in milliseconds at a million. Frames have
 * numbers here, in the order in which they came into it; about a hundred bytes each.
 */
export class FindIndex {
  readonly words = new WordIndex();
  private readonly numbers = new NumbersByKey();
  private keys = new Int32Array(1024);
  /** what is here, and what lies in the bin */
  private here = Bits.of(1024);
  private binned = Bits.of(1024);
  private size = 0;

  readonly coded = Object.fromEntries(CODED.map((fact) => [fact, new Coded()])) as unknown as Readonly<
    Record<CodedFact, Coded<string | number>>
  >;
  readonly measured = Object.fromEntries(MEASURED.map((fact) => [fact, new Measured()])) as Readonly<
    Record<(typeof MEASURED)[number], Measured>
  >;
  /** id of a frame’s shoot, of what brought it, and its first keyword */
  readonly shootOf = new Coded<string>();
  readonly arrivalOf = new Coded<string>();
  readonly keywordOf = new Coded<string>();
  private readonly hashes = new HashColumn();
  private readonly shoots = new FoundShoots();
  /** drives that are here */
  private online: ReadonlySet<string> = new Set();
  private readonly times = new TimeOrder();
  /** by set: the words of its values, as far as they were asked for */
  private readonly said = new Map<number, Said>();
  private readonly setIds = new Map<SetName, number[]>();
  private setsKnown = 0;
  private readonly joinedIds = new Map<string, readonly number[]>();
  /** answers to conditions, the one that was asked for last at the end; none once anything has changed */
  private readonly answers = new Map<string, Bits>();

  /** How many frames are here. */
  get count(): number {
    return this.here.count;
  }

  get room(): number {
    return this.size;
  }

  keyOf(n: number): number {
    return this.keys[n]!;
  }

  /** −1: it is not known. */
  numberOfKey(key: number): number {
    return this.numbers.get(key);
  }

  shoot(id: string): FoundShoot | null {
    return this.shoots.get(id);
  }

  setShoot(shoot: FoundShoot): void {
    if (this.shoots.set(shoot)) this.answers.clear();
  }

  /** Says which drives are here. */
  setOnline(ids: Iterable<string>): void {
    this.online = new Set(ids);
  }

  /** Takes frames in, or what is new of them. */
  put(rows: readonly FoundRow[]): void {
    this.answers.clear();
    const fresh: number[] = [];
    const freshWords: (readonly number[])[] = [];
    for (const row of rows) {
      const known = this.numbers.get(row.key);
      const n = known < 0 ? this.place(row.key) : known;
      const words = this.wordsOfRow(row);
      if (known < 0) {
        fresh.push(n);
        freshWords.push(words);
      } else this.words.set(n, words);
      this.setFacts(n, row);
    }
    this.words.fill(fresh, freshWords);
  }

  /** Says what a frame’s picture is like. */
  setHash(key: number, hash: PictureHash): void {
    const n = this.numberOfKey(key);
    if (n >= 0) this.hashes.set(n, hash);
  }

  /** What its picture is like; null: it is not known. */
  hashOf(key: number): PictureHash | null {
    return this.hashes.get(this.numberOfKey(key));
  }

  /** Frames that are neither here nor in the bin any more. */
  remove(keys: readonly number[]): void {
    this.answers.clear();
    for (const key of keys) {
      const n = this.numbers.get(key);
      if (n < 0) continue;
      this.here.delete(n);
      this.binned.delete(n);
      this.words.set(n, []);
    }
  }

  /** Keys of the frames of a shoot, the binned too. */
  keysOfShoot(shootId: string): number[] {
    const code = this.shootOf.known(shootId);
    if (code === 0) return [];
    const found: number[] = [];
    for (let n = 0; n < this.size; n++)
      if (this.shootOf.codes[n] === code && (this.here.has(n) || this.binned.has(n)))
        found.push(this.keys[n]!);
    return found;
  }

  /** What is looked among: the frames that are here, or those in the bin too. */
  all(bin = false): Bits {
    const all = this.cut(this.here);
    return bin ? all.or(this.cut(this.binned)) : all;
  }

  /** The frames of a set that a filter lets through. `read`: asks what is not held. */
  async find(filter: Filter, among: Bits, read: Reader): Promise<Bits> {
    if ('not' in filter) return among.copy().without(await this.find(filter.not, among, read));
    if ('any' in filter) {
      const found = Bits.of(this.size);
      for (const part of filter.any) found.or(await this.find(part, among, read));
      return found;
    }
    if ('all' in filter) {
      let found = among;
      // What must be read comes last, when few are left.
      const parts = [...filter.all].sort((a, b) => Number(this.reads(a)) - Number(this.reads(b)));
      for (const part of parts) found = await this.find(part, found, read);
      return found === among ? among.copy() : found;
    }
    return this.leaf(filter, among, read);
  }

  /** Numbers in order of time, those without one last. */
  inTime(): Uint32Array {
    return this.times.of(this.measured.instant.values, this.size);
  }

  /** See {@link HashColumn.alike}. */
  alike(hash: PictureHash, among: Bits, most: number, within: number): { n: number; bits: number }[] {
    return this.hashes.alike(hash, among, most, within);
  }

  /** Values of a set, with the ids of their words, in the order in which they came; without the first so many. */
  valuesOf(set: SetName, from = 0): readonly { id: number; value: string }[] {
    const ids = this.idsOf(set);
    return (from === 0 ? ids : ids.slice(from)).map((id) => ({ id, value: this.words.word(id).slice(2) }));
  }

  /** Whether the word of this id is one of a text. */
  isPlain(id: number): boolean {
    return !this.words.word(id).startsWith(OWN);
  }

  /** What a value of a set says. */
  saidByValue(id: number): Said {
    let said = this.said.get(id);
    if (!said) this.said.set(id, (said = saidOf([this.words.word(id).slice(2)])));
    return said;
  }

  private place(key: number): number {
    const n = this.size++;
    if (n >= this.keys.length) {
      const size = this.keys.length * 2;
      const keys = new Int32Array(size);
      keys.set(this.keys);
      this.keys = keys;
      this.here = grown(this.here, size);
      this.binned = grown(this.binned, size);
    }
    this.keys[n] = key;
    this.numbers.set(key, n);
    return n;
  }

  private setFacts(n: number, row: FoundRow): void {
    for (const fact of CODED) this.coded[fact].set(n, row[fact] as string | number | null);
    if (row.instant !== this.measured.instant.get(n) || !this.times.has(n)) this.times.move(n);
    for (const fact of MEASURED) this.measured[fact].set(n, row[fact]);
    this.shootOf.set(n, row.shootId);
    this.arrivalOf.set(n, row.arrival);
    const [first] = textsHeld('lines', row.keywords);
    this.keywordOf.set(n, first ?? null);
    this.here.delete(n);
    this.binned.delete(n);
    (row.binned ? this.binned : this.here).add(n);
  }

  private wordsOfRow(row: FoundRow): readonly number[] {
    const ids = new Set<number>();
    const { words } = this;
    for (const column of TEXTS) {
      const kept = row[column];
      if (kept === null || kept === '') continue;
      const holding =
        column === 'texts' ? 'texts' : column === 'keywords' || column === 'persons' ? 'lines' : 'text';
      for (const text of textsHeld(holding, kept))
        for (const word of indexWords(text)) ids.add(words.idOf(word));
    }
    for (const [set, joinedText] of [
      ['piles', row.piles],
      ['albums', albumsOf(row).join('+')],
      ['drives', row.drives],
      ['advice', row.advice],
      ['formats', row.format],
    ] as const)
      if (joinedText !== '') for (const id of this.idsOfJoined(set, joinedText)) ids.add(id);
    for (const set of ['keywords', 'persons'] as const) {
      if (row[set] === '') continue;
      ids.add(words.idOf(anyWord(set)));
      for (const value of textsHeld('lines', row[set])) ids.add(words.idOf(valueWord(set, value)));
    }
    if (row.caption !== null) ids.add(words.idOf(anyWord('caption')));
    if (row.note !== null) ids.add(words.idOf(anyWord('note')));
    if (row.shown) ids.add(words.idOf(anyWord('shown')));
    return [...ids];
  }

  /** Of sets that few different ones are of, as all that a drive holds: their words' ids are made once. */
  private idsOfJoined(set: SetName, text: string): readonly number[] {
    const key = `${SETS[set]}${text}`;
    let ids = this.joinedIds.get(key);
    if (!ids) {
      ids = [anyWord(set), ...joined(text).map((value) => valueWord(set, value))].map((word) =>
        this.words.idOf(word),
      );
      this.joinedIds.set(key, ids);
    }
    return ids;
  }

  /** Bits of a size that is grown in steps, as large as all others. */
  private cut(bits: Bits): Bits {
    return new Bits(bits.words.slice(0, (this.size + 31) >>> 5));
  }

  private idsOf(set: SetName): readonly number[] {
    for (; this.setsKnown < this.words.size; this.setsKnown++) {
      const word = this.words.word(this.setsKnown);
      if (!word.startsWith(OWN) || word[1] === '=') continue;
      const its = (Object.keys(SETS) as SetName[]).find((name) => SETS[name] === word[1])!;
      const ids = this.setIds.get(its);
      if (ids) ids.push(this.setsKnown);
      else this.setIds.set(its, [this.setsKnown]);
    }
    return this.setIds.get(set) ?? [];
  }

  /** Ids of the words of all values of all sets but drives. */
  get valueIds(): number[] {
    return (Object.keys(SETS) as SetName[]).flatMap((set) => [...this.idsOf(set)]);
  }

  private reads(filter: Filter): boolean {
    if ('not' in filter) return this.reads(filter.not);
    if ('all' in filter || 'any' in filter)
      return ('all' in filter ? filter.all : filter.any).some((part) => this.reads(part));
    if ('none' in filter) return false;
    if (READ.includes(filter.field)) return true;
    return filter.field === 'text' && ('phrase' in filter || 'contains' in filter);
  }

  private async leaf(leaf: Leaf, among: Bits, read: Reader): Promise<Bits> {
    const { field } = leaf;
    if (field === 'away') return this.away(leaf).and(among);
    if (this.reads(leaf)) return this.readLeaf(leaf, among, read);
    return this.answer(leaf).and(among);
  }

  /** All frames that a condition lets through, be they here or not: a set of the caller's own. */
  private answer(leaf: Leaf): Bits {
    const key = JSON.stringify(leaf);
    const known = this.answers.get(key);
    const found = known ?? this.answerTo(leaf);
    if (known) this.answers.delete(key);
    this.answers.set(key, found);
    if (this.answers.size > KEPT) this.answers.delete(this.answers.keys().next().value!);
    return found.copy();
  }

  private answerTo(leaf: Leaf): Bits {
    const { field } = leaf;
    if (field === 'text' || READ.includes(field)) return this.textLeaf(leaf);
    if (field in SETS) return this.setLeaf(leaf, field as SetName);
    if ((OF_SHOOT as readonly string[]).includes(field)) return this.shootLeaf(leaf);
    if ((MEASURED as readonly string[]).includes(field))
      return this.measuredLeaf(leaf, this.measured[field as (typeof MEASURED)[number]]);
    if ((CODED as readonly string[]).includes(field)) return this.codedLeaf(leaf, field as CodedFact);
    throw new Error(`no frame is found by “${field}”`);
  }

  /** The frames that have one of some words. */
  private having(words: Iterable<string>): Bits {
    const found = Bits.of(this.size);
    const ids: number[] = [];
    for (const word of words) {
      const id = this.words.known(word);
      if (id >= 0) ids.push(id);
    }
    this.words.addAll(ids, found);
    return found;
  }

  /** Every frame of which nothing says that it has such a thing. */
  private lacking(what: Parameters<typeof anyWord>[0]): Bits {
    return this.all(true).without(this.having([anyWord(what)]));
  }

  private textLeaf(leaf: Leaf): Bits {
    if ('none' in leaf) {
      const { field } = leaf;
      // All frames have a name, ours and the camera's.
      return field === 'caption' || field === 'note' ? this.lacking(field) : Bits.of(this.size);
    }
    return this.withWords(leaf);
  }

  /** Frames that have all words that a condition on texts asks for, anywhere in them. */
  private withWords(leaf: Leaf): Bits {
    const { condition, text } = wordsAsked(leaf)!;
    // Of words side by side those must be there that stand alone in the index as well.
    const wanted = askedWords(text);
    if (wanted.length === 0) return Bits.of(this.size);
    let found: Bits | null = null;
    wanted.forEach((word, i) => {
      const begins = condition === 'begins' && i === wanted.length - 1;
      const its = Bits.of(this.size);
      if (begins) this.words.addAll(this.words.beginning(word), its);
      else
        this.words.addAll(
          [this.words.known(word)].filter((id) => id >= 0),
          its,
        );
      const says = asksWords(begins ? 'begins' : 'word', word);
      for (const fact of CODED_TEXTS)
        this.addCoded(this.coded[fact], (value) => value !== null && says(saidOf([String(value)])), its);
      found = found ? found.and(its) : its;
    });
    return found!;
  }

  private addCoded(
    column: Coded<string | number>,
    fits: (value: string | number | null) => boolean,
    into: Bits,
  ): void {
    const yes = Uint8Array.from(column.values, (value) => (fits(value) ? 1 : 0));
    const { codes } = column;
    if (!yes.includes(1)) return;
    const length = Math.min(this.size, codes.length);
    // A word of the set at a time: a million are gone through in some two milliseconds.
    for (let from = 0; from < length; from += 32) {
      const end = Math.min(32, length - from);
      let word = 0;
      for (let bit = 0; bit < end; bit++) word |= yes[codes[from + bit]!]! << bit;
      into.words[from >>> 5]! |= word;
    }
  }

  private codedLeaf(leaf: Leaf, fact: CodedFact): Bits {
    const found = Bits.of(this.size);
    const is = predicate(leaf);
    this.addCoded(this.coded[fact], (value) => is({ [fact]: value } as unknown as QueryFrame), found);
    return found;
  }

  private shootLeaf(leaf: Leaf): Bits {
    const found = Bits.of(this.size);
    const words = wordsAsked(leaf);
    if (words && !this.shoots.anySays(words.condition, words.text)) return found;
    const is = predicate(leaf);
    const shoots = this.shoots.seenByCode(this.shootOf.values);
    let code = 0;
    this.addCoded(
      this.shootOf,
      () => {
        const shoot = shoots[code++];
        return shoot !== undefined && is(shoot);
      },
      found,
    );
    return found;
  }

  private measuredLeaf(leaf: Leaf, { values }: Measured): Bits {
    const found = Bits.of(this.size);
    const between = (from: number, to: number): void => {
      for (let n = 0; n < this.size; n++) if (values[n]! >= from && values[n]! <= to) found.add(n);
    };
    if ('none' in leaf) {
      for (let n = 0; n < this.size; n++) if (Number.isNaN(values[n]!)) found.add(n);
    } else if ('atLeast' in leaf) between(leaf.atLeast, Infinity);
    else if ('atMost' in leaf) between(-Infinity, leaf.atMost);
    else if ('between' in leaf) between(...leaf.between);
    else
      for (const value of 'oneOf' in leaf ? leaf.oneOf : 'is' in leaf ? [leaf.is] : [])
        between(Number(value), Number(value));
    return found;
  }

  private setLeaf(leaf: Leaf, set: SetName): Bits {
    if ('none' in leaf) return this.lacking(set);
    const asked = wordsAsked(leaf);
    if (!asked) {
      const values = 'oneOf' in leaf ? leaf.oneOf : 'is' in leaf ? [leaf.is] : [];
      return this.having(values.map((value) => valueWord(set, String(value))));
    }
    const { condition, text } = asked;
    const wanted = condition === 'phrase' ? [text] : askedWords(text);
    let found: Bits | null = null;
    wanted.forEach((word, i) => {
      // A frame may have its words in several values.
      const how = condition === 'begins' && i < wanted.length - 1 ? 'word' : condition;
      const says = asksWords(how, word);
      const its = Bits.of(this.size);
      this.words.addAll(
        this.idsOf(set).filter((id) => says(this.saidByValue(id))),
        its,
      );
      found = found ? found.and(its) : its;
    });
    return found ?? Bits.of(this.size);
  }

  private away(leaf: Leaf): Bits {
    const away = this.having([anyWord('shown')]).without(
      this.having([...this.online].map((id) => valueWord('drives', id))),
    );
    if ('none' in leaf) return this.all(true).without(away);
    return predicate(leaf)({ away: AWAY } as QueryFrame) ? away : Bits.of(this.size);
  }

  private async readLeaf(leaf: Leaf, among: Bits, read: Reader): Promise<Bits> {
    // What has all the words is read, whether it has them in the right place and order.
    const candidates = wordsAsked(leaf) ? this.withWords(leaf).and(among) : among;
    const found = Bits.of(this.size);
    const keys: number[] = [];
    candidates.each((n) => keys.push(this.keys[n]!));
    for (let at = 0; at < keys.length; at += READ_AT_ONCE)
      for (const key of await read(leaf, keys.slice(at, at + READ_AT_ONCE))) found.add(this.numbers.get(key));
    return found;
  }
}

const grown = ({ words }: Bits, size: number): Bits => {
  const more = Bits.of(size);
  more.words.set(words);
  return more;
};

import type { Bits } from './bits';

/** Numbers of a segment: what 16 bits tell apart. */
const SEGMENT = 1 << 16;
/**
 * Numbers whose words changed since their segment was made; with more it is made anew, in some 30 ms. Each question goes
 * through them one by one, which takes a tenth of a millisecond then.
 */
const LOOSE = 4096;
/** Words that came since all were put in order; each question for a beginning goes through them. */
const UNORDERED = 2000;

/** Which of 65,536 numbers have which words: the words by their ids, and the numbers of each from `starts`. */
interface Packed {
  words: Uint32Array;
  /** one more than words */
  starts: Uint32Array;
  numbers: Uint16Array;
}

interface Segment {
  packed: Packed;
  /**
   * words of numbers that came or changed since; theirs in `packed` do not count. Plain arrays: bytes outside the language's memory for each of
   * a million would be given back to the system late or never.
   */
  loose: Map<number, readonly number[]>;
}

const NONE: Packed = { words: new Uint32Array(), starts: new Uint32Array(1), numbers: new Uint16Array() };

/**
 * The words of numbers, held so that all numbers of one word, or of all words with one beginning, are found at once. Two bytes for each word
 * of each number; what changes is held beside it until there is enough of it.
 */
export class WordIndex {
  private readonly ids = new Map<string, number>();
  private readonly texts: string[] = [];
  /** by id, see {@link countOf} */
  private counts = new Uint32Array(1024);
  private readonly segments: Segment[] = [];
  /** ids in the order of their words, and how many words these were */
  private ordered = new Uint32Array();
  private orderedAt = 0;

  /** The id of a word; one it did not know gets one. */
  idOf(word: string): number {
    let id = this.ids.get(word);
    if (id === undefined) {
      id = this.texts.length;
      this.ids.set(word, id);
      this.texts.push(word);
      if (id >= this.counts.length) {
        const more = new Uint32Array(this.counts.length * 2);
        more.set(this.counts);
        this.counts = more;
      }
    }
    return id;
  }

  /** −1: nothing has the word. */
  known(word: string): number {
    return this.ids.get(word) ?? -1;
  }

  word(id: number): string {
    return this.texts[id]!;
  }

  /** About how many numbers have a word: those that lost it count until their segment is made anew. */
  countOf(id: number): number {
    return this.counts[id]!;
  }

  get size(): number {
    return this.texts.length;
  }

  /** Says which words a number has, each once; none: it has none any more. */
  set(n: number, words: readonly number[]): void {
    const segment = this.segmentOf(n);
    const local = n & (SEGMENT - 1);
    for (const id of segment.loose.get(local) ?? []) this.counts[id]! -= 1;
    for (const id of words) this.counts[id]! += 1;
    segment.loose.set(local, words);
    if (segment.loose.size > LOOSE) this.pack(segment);
  }

  /** Holds many numbers' words that none of them had before, loosely until {@link settle}: much faster than one after the other. */
  fill(numbers: readonly number[], words: readonly (readonly number[])[]): void {
    numbers.forEach((n, i) => {
      for (const id of words[i]!) this.counts[id]! += 1;
      this.segmentOf(n).loose.set(n & (SEGMENT - 1), words[i]!);
    });
    // One that has no room left is packed once, instead of with every few thousand that come.
    for (const segment of this.segments) if (segment.loose.size === SEGMENT) this.pack(segment);
  }

  /** Packs what is loose: after many came. */
  settle(): void {
    for (const segment of this.segments) if (segment.loose.size > LOOSE) this.pack(segment);
    this.order();
  }

  /** Adds to a set all numbers that have one of some words. */
  addAll(ids: Iterable<number>, into: Bits): void {
    const wanted = [...ids];
    if (wanted.length === 0) return;
    const among = new Uint8Array(this.texts.length);
    for (const id of wanted) among[id] = 1;
    const before = this.segments.some(({ loose }) => loose.size > 0) ? into.copy() : into;
    const found = into.words;
    // Many words are looked for as the segments have them, few by halving.
    const many = wanted.length > 64;
    this.segments.forEach(({ packed, loose }, s) => {
      const { words, starts, numbers } = packed;
      const base = s << 16;
      const from = base >>> 5;
      const take = (i: number): void => {
        const end = starts[i + 1]!;
        for (let at = starts[i]!; at < end; at++) {
          const local = numbers[at]!;
          found[from + (local >>> 5)]! |= 1 << (local & 31);
        }
      };
      if (many) {
        for (let i = 0; i < words.length; i++) if (among[words[i]!] === 1) take(i);
      } else
        for (const id of wanted) {
          const i = placeOf(words, id);
          if (i >= 0) take(i);
        }
      // What is loose counts as it is now, whatever the packed part says of it; what the set had before stays.
      for (const [local, its] of loose) {
        const n = base + local;
        if (its.some((id) => among[id] === 1)) into.add(n);
        else if (!before.has(n)) into.delete(n);
      }
    });
  }

  /** Of some words how many of a set have each, by id; those that none has are left out. */
  countsIn(set: Bits, ids: Iterable<number>): Map<number, number> {
    const found = new Map<number, number>();
    const add = (id: number, n: number): void => void found.set(id, (found.get(id) ?? 0) + n);
    const wanted = new Uint8Array(this.texts.length);
    for (const id of ids) wanted[id] = 1;
    this.segments.forEach(({ packed, loose }, s) => {
      const { words, starts, numbers } = packed;
      const base = s << 16;
      // This segment's part of the set, without what is loose in it.
      const own = new Uint32Array(SEGMENT >>> 5);
      own.set(set.words.subarray(base >>> 5, (base + SEGMENT) >>> 5));
      for (const local of loose.keys()) own[local >>> 5]! &= ~(1 << (local & 31));
      for (let i = 0; i < words.length; i++) {
        if (wanted[words[i]!] === 0) continue;
        const n = countAmong(numbers, starts[i]!, starts[i + 1]!, own);
        if (n > 0) add(words[i]!, n);
      }
      for (const [local, its] of loose)
        if (set.has(base + local)) for (const id of its) if (wanted[id] === 1) add(id, 1);
    });
    return found;
  }

  /** Ids of all words that begin so, in no order. */
  beginning(start: string): number[] {
    if (this.texts.length - this.orderedAt > UNORDERED) this.order();
    const { texts } = this;
    const found: number[] = [];
    let [low, high] = [0, this.ordered.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (texts[this.ordered[middle]!]! < start) low = middle + 1;
      else high = middle;
    }
    for (let i = low; i < this.ordered.length && texts[this.ordered[i]!]!.startsWith(start); i++)
      found.push(this.ordered[i]!);
    for (let id = this.orderedAt; id < texts.length; id++) if (texts[id]!.startsWith(start)) found.push(id);
    return found;
  }

  /** Puts all words in order: questions for beginnings are fast from then on. */
  order(): void {
    const { texts } = this;
    this.ordered = Uint32Array.from(texts.keys()).sort((a, b) => (texts[a]! < texts[b]! ? -1 : 1));
    this.orderedAt = texts.length;
  }

  private segmentOf(n: number): Segment {
    const s = n >>> 16;
    while (this.segments.length <= s) this.segments.push({ packed: NONE, loose: new Map() });
    return this.segments[s]!;
  }

  /** Takes what is loose into the packed part. */
  private pack(segment: Segment): void {
    const { packed, loose } = segment;
    const sizes = new Uint32Array(this.texts.length);
    const { words, starts, numbers } = packed;
    let total = 0;
    for (let i = 0; i < words.length; i++)
      for (let at = starts[i]!; at < starts[i + 1]!; at++)
        if (loose.has(numbers[at]!)) this.counts[words[i]!]! -= 1;
    const visit = (take: (id: number, local: number) => void): void => {
      for (let i = 0; i < words.length; i++)
        for (let at = starts[i]!; at < starts[i + 1]!; at++)
          if (!loose.has(numbers[at]!)) take(words[i]!, numbers[at]!);
      for (const [local, its] of loose) for (const id of its) take(id, local);
    };
    visit((id) => {
      sizes[id]! += 1;
      total += 1;
    });
    let kept = 0;
    for (const size of sizes) if (size > 0) kept += 1;
    const next: Packed = {
      words: new Uint32Array(kept),
      starts: new Uint32Array(kept + 1),
      numbers: new Uint16Array(total),
    };
    let [at, i] = [0, 0];
    // From here on `sizes` says where the next number of a word goes.
    for (let id = 0; id < sizes.length; id++) {
      const size = sizes[id]!;
      if (size === 0) continue;
      next.words[i] = id;
      next.starts[i++] = at;
      sizes[id] = at;
      at += size;
    }
    next.starts[kept] = at;
    visit((id, local) => (next.numbers[sizes[id]!++] = local));
    segment.packed = next;
    segment.loose = new Map();
  }
}

/** How many of some numbers are in a set, as one segment has it. */
function countAmong(numbers: Uint16Array, from: number, to: number, own: Uint32Array): number {
  let n = 0;
  for (let at = from; at < to; at++) {
    const local = numbers[at]!;
    n += (own[local >>> 5]! >>> (local & 31)) & 1;
  }
  return n;
}

function placeOf(words: Uint32Array, id: number): number {
  let [low, high] = [0, words.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (words[middle]! < id) low = middle + 1;
    else high = middle;
  }
  return words[low] === id ? low : -1;
}

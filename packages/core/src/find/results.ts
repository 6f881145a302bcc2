import type { Bits } from './bits';
import type { Coded } from './columns';
import type { FindIndex } from './findIndex';

/** What found frames can stand together under. */
export const FIND_HEADINGS = [
  ...(['none', 'shoot', 'arrival', 'year', 'month', 'stars', 'keyword'] as const),
  // As they stand in the album that is looked into, and those below it: whoever keeps albums puts them so.
  'album',
] as const;
export type FindHeading = (typeof FIND_HEADINGS)[number];

/** Found frames that stand under one heading. */
export interface FoundGroup {
  /** id of a shoot or an arrival, `2029`, `2029-04`, stars, a keyword; null: it is not known */
  key: string | null;
  /** where its first stands among all */
  from: number;
  count: number;
}

export interface FoundOrder {
  /** numbers of frames */
  numbers: Uint32Array;
  groups: FoundGroup[];
}

/** Found ones of all frames below which they are put in order by themselves, instead of being picked out of all. */
const FEW = 32;

/** Members of a set in order of time, the newest first; those without a time last. */
export function inOrder(index: FindIndex, found: Bits, oldestFirst = false): Uint32Array {
  const count = found.count;
  const numbers = new Uint32Array(count);
  const { instant } = index.measured;
  let to = 0;
  if (count * FEW < index.room) {
    found.each((n) => (numbers[to++] = n));
    const at = (n: number): number => instant.get(n) ?? Infinity;
    numbers.sort((a, b) => at(a) - at(b) || a - b || 0);
  } else {
    const times = index.inTime();
    const { words } = found;
    // By places: of a million, going through them one by one as a list takes three times as long.
    for (let i = 0; i < times.length; i++) {
      const n = times[i]!;
      if (((words[n >>> 5]! >>> (n & 31)) & 1) === 1) numbers[to++] = n;
    }
  }
  if (oldestFirst) return numbers;
  // What has no time stays last.
  let timed = count;
  while (timed > 0 && instant.get(numbers[timed - 1]!) === null) timed -= 1;
  numbers.subarray(0, timed).reverse();
  return numbers;
}

/** The frames of an order as they stand under headings: those of one heading together, in the order that they had. */
export function underHeadings(index: FindIndex, numbers: Uint32Array, heading: FindHeading): FoundOrder {
  if (heading === 'none' || numbers.length === 0)
    return { numbers, groups: numbers.length === 0 ? [] : [{ key: null, from: 0, count: numbers.length }] };
  const { groups, keys: found, counts } = grouped(index, numbers, heading);
  const all = found.map((key, group) => ({ key, group }));
  all.sort(
    (a, b) =>
      Number(a.key === null) - Number(b.key === null) || between(heading, a.key, b.key) || a.group - b.group,
  );
  const next = new Uint32Array(counts.length);
  let from = 0;
  const told = all.map(({ key, group }): FoundGroup => {
    const count = counts[group]!;
    const its = { key: key === null ? null : words(heading, key), from, count };
    next[group] = from;
    from += count;
    return its;
  });
  const placed = new Uint32Array(numbers.length);
  for (let i = 0; i < numbers.length; i++) placed[next[groups[i]!]!++] = numbers[i]!;
  return { numbers: placed, groups: told };
}

interface Grouped {
  /** of each number, which group it is in; groups in the order in which they are met */
  groups: Uint32Array;
  keys: (string | number | null)[];
  counts: number[];
}

function grouped(index: FindIndex, numbers: Uint32Array, heading: FindHeading): Grouped {
  const coded = codedOf(index, heading);
  if (coded) return groupedByCode(numbers, coded);
  const keyOf = measuredKey(index, heading);
  const groups = new Uint32Array(numbers.length);
  const groupOf = new Map<string | number | null, number>();
  const counts: number[] = [];
  // In order of time one heading's frames follow each other: each is looked up once where it begins.
  let [last, group]: [string | number | null | undefined, number] = [undefined, 0];
  for (let i = 0; i < numbers.length; i++) {
    const key = keyOf(numbers[i]!);
    if (key !== last) {
      last = key;
      group = groupOf.get(key) ?? groupOf.size;
      if (group === groupOf.size) {
        groupOf.set(key, group);
        counts.push(0);
      }
    }
    counts[group]! += 1;
    groups[i] = group;
  }
  return { groups, keys: [...groupOf.keys()], counts };
}

/** By codes instead of what they stand for: a million take a few milliseconds. */
function groupedByCode(numbers: Uint32Array, { codes, values }: Coded<string | number>): Grouped {
  const groups = new Uint32Array(numbers.length);
  const groupOf = new Int32Array(values.length).fill(-1);
  const met: number[] = [];
  const counts: number[] = [];
  for (let i = 0; i < numbers.length; i++) {
    const code = codes[numbers[i]!] ?? 0;
    let group = groupOf[code]!;
    if (group < 0) {
      group = groupOf[code] = met.length;
      met.push(code);
      counts.push(0);
    }
    counts[group]! += 1;
    groups[i] = group;
  }
  return { groups, keys: met.map((code) => values[code] ?? null), counts };
}

function codedOf(index: FindIndex, heading: FindHeading): Coded<string | number> | null {
  switch (heading) {
    case 'shoot':
      return index.shootOf as Coded<string | number>;
    case 'arrival':
      return index.arrivalOf as Coded<string | number>;
    case 'keyword':
      return index.keywordOf as Coded<string | number>;
    case 'stars':
      return index.coded.stars;
    default:
      return null;
  }
}

function measuredKey(index: FindIndex, heading: FindHeading): (n: number) => number | null {
  if (heading !== 'year' && heading !== 'month') return () => null;
  const { taken } = index.measured;
  const unit = heading === 'year' ? YEAR : MONTH;
  return (n) => {
    const at = taken.get(n);
    return at === null ? null : Math.floor(at / unit);
  };
}

/** By what a minute in digits is parted: `202904180914`. */
const YEAR = 1e8;
const MONTH = 1e6;

/** The most stars first, keywords by the alphabet; the others as their newest frames come. */
function between(heading: FindHeading, a: string | number | null, b: string | number | null): number {
  if (a === null || b === null) return 0;
  if (heading === 'stars') return Number(b) - Number(a);
  return heading === 'keyword' ? ALPHABET.compare(String(a), String(b)) : 0;
}
const ALPHABET = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });

function words(heading: FindHeading, key: string | number): string {
  const text = String(key);
  return heading === 'month' ? `${text.slice(0, 4)}-${text.slice(4)}` : text;
}

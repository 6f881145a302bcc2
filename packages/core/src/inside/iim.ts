import type { Description } from '../description/description';
import { joined } from './jpegHead';

/** What pictures carried in words before XMP: IPTC's Information Interchange Model, version 4.2, as most programs still read it. */

/** A value in a model's text, in the order in which it stands there. */
export interface DataSet {
  record: number;
  number: number;
  value: Uint8Array;
}

const TAG = 0x1c;
/** Bytes of a value that has a length of two bytes; longer ones say first how many bytes their length has (1.5 of the model). */
const SHORT = 0x7fff;
/** The code of UTF-8 in `CodedCharacterSet` (ISO 2022): without it, readers take another alphabet. */
const UTF_8 = Uint8Array.of(0x1b, 0x25, 0x47);
const CHARACTER_SET = 90;

/** Where each text stands in record 2 (IPTC Photo Metadata Standard, IIM synchronisation). */
const NUMBERS = {
  title: 5,
  instructions: 40,
  creator: 80,
  city: 90,
  sublocation: 92,
  region: 95,
  countryCode: 100,
  country: 101,
  headline: 105,
  credit: 110,
  rights: 116,
  caption: 120,
} as const satisfies Partial<Record<keyof Description, number>>;
const KEYWORD = 25;
type Said = keyof typeof NUMBERS;
const SAID = Object.keys(NUMBERS) as Said[];

/** What of a description the model has places for. */
export type IimTexts = Pick<Description, Said | 'keywords'>;

/** The values of a model's text; null where it is none, or cut. */
export function readIim(bytes: Uint8Array): DataSet[] | null {
  const found: DataSet[] = [];
  for (let at = 0; at < bytes.length;) {
    // Blocks are filled up with zeros.
    if (bytes[at] === 0 && bytes.subarray(at).every((byte) => byte === 0)) break;
    if (bytes[at] !== TAG || at + 5 > bytes.length) return null;
    const [record, number] = [bytes[at + 1]!, bytes[at + 2]!];
    let length = (bytes[at + 3]! << 8) | bytes[at + 4]!;
    at += 5;
    if (length > SHORT) {
      const many = length & SHORT;
      if (many > 4 || at + many > bytes.length) return null;
      length = bytes.subarray(at, at + many).reduce((sum, byte) => sum * 256 + byte, 0);
      at += many;
    }
    if (at + length > bytes.length) return null;
    found.push({ record, number, value: bytes.subarray(at, at + length) });
    at += length;
  }
  return found;
}

/**
 * The model's text with what is said in words; of what was there already, all else stays (its letters become UTF-8, as they can be
 * of one alphabet only). What nobody says is not there. Nothing is cut, though the model asks for short texts: programs read them
 * whole.
 */
export function writeIim(said: IimTexts, there: readonly DataSet[]): Uint8Array {
  const isUtf8 = there.some(
    ({ record, number, value }) => record === 1 && number === CHARACTER_SET && same(value, UTF_8),
  );
  const ours = new Set<number>([0, KEYWORD, ...Object.values(NUMBERS)]);
  const others = there.filter(({ record, number }) =>
    record === 1 ? number !== 0 && number !== CHARACTER_SET : record !== 2 || !ours.has(number),
  );
  const kept = others.map((one) =>
    one.record === 2 && !isUtf8 ? { ...one, value: recoded(one.value) } : one,
  );
  const texts = [
    ...SAID.flatMap((field) => (said[field] === null ? [] : [[NUMBERS[field], said[field]] as const])),
    ...said.keywords.map((word) => [KEYWORD, word] as const),
  ];
  const all: DataSet[] = [
    // The model's version, in both records.
    { record: 1, number: 0, value: Uint8Array.of(0, 4) },
    { record: 1, number: CHARACTER_SET, value: UTF_8 },
    { record: 2, number: 0, value: Uint8Array.of(0, 4) },
    ...kept,
    ...texts.map(([number, text]) => ({ record: 2, number, value: new TextEncoder().encode(text) })),
  ];
  // Records follow each other, and numbers within them: readers of old stop at what is out of order.
  all.sort((one, other) => one.record - other.record || one.number - other.number);
  return joined(all.flatMap(({ record, number, value }) => [headerOf(record, number, value.length), value]));
}

/** What a model's text says in words; alphabets other than UTF-8 are taken for Latin-1. */
export function iimTexts(sets: readonly DataSet[]): IimTexts {
  const textOf = (value: Uint8Array) => new TextDecoder().decode(recoded(value));
  const of = (number: number) => sets.filter((set) => set.record === 2 && set.number === number);
  const said = SAID.map((field) => {
    const [first] = of(NUMBERS[field]);
    return [field, first ? textOf(first.value) : null] as const;
  });
  return {
    ...(Object.fromEntries(said) as Record<Said, string | null>),
    keywords: of(KEYWORD).map(({ value }) => textOf(value)),
  };
}

function headerOf(record: number, number: number, length: number): Uint8Array {
  if (length <= SHORT) return Uint8Array.of(TAG, record, number, length >> 8, length & 255);
  const bytes = [24, 16, 8, 0].map((by) => (length >>> by) & 255);
  return Uint8Array.of(TAG, record, number, 0x80, 4, ...bytes);
}

const same = (one: Uint8Array, other: Uint8Array): boolean =>
  one.length === other.length && one.every((byte, i) => byte === other[i]);

/** Bytes of letters as UTF-8: those that are none are taken for Latin-1. */
function recoded(value: Uint8Array): Uint8Array {
  try {
    new TextDecoder('utf-8', { fatal: true }).decode(value);
    return value;
  } catch {
    return new TextEncoder().encode(String.fromCharCode(...value));
  }
}

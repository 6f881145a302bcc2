/**
 * File names on cards are bytes. A name that is valid UTF-8 stands as itself, except that `%` is written `%25`;
 * every byte that is not part of valid UTF-8 is written `%XX`. So each name has exactly one text, and back.
 */
export function decodeRawName(bytes: Uint8Array): string {
  try {
    return coders().whole.decode(bytes).replaceAll('%', '%25');
  } catch {
    return decodePartly(bytes);
  }
}

/** Made when they are first asked for: a decoder for each name, or letter, costs more than what it reads. */
let made: { whole: TextDecoder; one: TextDecoder; encoder: TextEncoder } | null = null;
const coders = () =>
  (made ??= {
    // Throws where anything is no UTF-8, by the same table as sequenceLength.
    whole: new TextDecoder('utf-8', { ignoreBOM: true, fatal: true }),
    one: new TextDecoder('utf-8', { ignoreBOM: true }),
    encoder: new TextEncoder(),
  });

function decodePartly(bytes: Uint8Array): string {
  let text = '';
  let i = 0;
  while (i < bytes.length) {
    const length = sequenceLength(bytes, i);
    if (length === 0) {
      text += `%${bytes[i]!.toString(16).toUpperCase().padStart(2, '0')}`;
      i += 1;
      continue;
    }
    const character = coders().one.decode(bytes.subarray(i, i + length));
    text += character === '%' ? '%25' : character;
    i += length;
  }
  return text;
}

/** The bytes of a name that {@link decodeRawName} wrote. A `%` that is no escape stands for itself. */
export function encodeRawName(text: string): Uint8Array {
  const { encoder } = coders();
  if (!text.includes('%')) return encoder.encode(text);
  const out: number[] = [];
  for (let i = 0; i < text.length;) {
    const escape = /^%([0-9A-F]{2})/.exec(text.slice(i, i + 3));
    if (escape) {
      out.push(parseInt(escape[1]!, 16));
      i += 3;
      continue;
    }
    const character = String.fromCodePoint(text.codePointAt(i)!);
    out.push(...encoder.encode(character));
    i += character.length;
  }
  return Uint8Array.from(out);
}

/** Bytes of the valid UTF-8 sequence that starts at `i` (RFC 3629, table 3-7 of the Unicode Standard), or 0. */
function sequenceLength(b: Uint8Array, i: number): number {
  const first = b[i]!;
  const tail = (k: number, low = 0x80, high = 0xbf) => {
    const value = b[i + k];
    return value !== undefined && value >= low && value <= high;
  };
  if (first < 0x80) return 1;
  if (first >= 0xc2 && first <= 0xdf) return tail(1) ? 2 : 0;
  if (first >= 0xe0 && first <= 0xef) {
    const low = first === 0xe0 ? 0xa0 : 0x80;
    const high = first === 0xed ? 0x9f : 0xbf;
    return tail(1, low, high) && tail(2) ? 3 : 0;
  }
  if (first >= 0xf0 && first <= 0xf4) {
    const low = first === 0xf0 ? 0x90 : 0x80;
    const high = first === 0xf4 ? 0x8f : 0xbf;
    return tail(1, low, high) && tail(2) && tail(3) ? 4 : 0;
  }
  return 0;
}

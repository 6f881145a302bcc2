// Spoils what a format says: bytes and texts that are nearly what they should be. Every mutant comes from a seed and a number alone.

/** Numbers at which counts and lengths go wrong. */
const EDGES = [
  0, 1, 2, 0x7f, 0x80, 0xff, 0x7fff, 0x8000, 0xffff, 0x7fffffff, 0x80000000, 0xfffffff0, 0xffffffff,
];
/** Changes made to one mutant: one finds a single weak place, several find what only meets behind it. */
const MOST_CHANGES = 6;

/** `from`: bytes before it stay, so that the format's first check is passed. */
function changeBytes(bytes, { below, pick }, from) {
  const room = Math.max(1, bytes.length - from);
  const at = Math.min(bytes.length - 1, from + below(room));
  const many = 1 + below(Math.min(64, room));
  const start = bytes.subarray(0, at);
  const fill = Buffer.from(Array.from({ length: many }, () => below(256)));
  switch (pick(['flip', 'edge', 'edge', 'edge', 'insert', 'delete', 'double', 'cut', 'noise'])) {
    case 'flip':
      bytes[at] ^= 1 << below(8);
      return bytes;
    case 'edge': {
      const [width, order] = [pick([1, 2, 4]), pick(['LE', 'BE'])];
      if (at + width > bytes.length) return bytes;
      const value = pick([...EDGES, bytes.length, bytes.length - 1, at]);
      if (width === 1) bytes[at] = value & 0xff;
      else if (width === 2) bytes[`writeUInt16${order}`](value & 0xffff, at);
      else bytes[`writeUInt32${order}`](value >>> 0, at);
      return bytes;
    }
    case 'insert':
      return Buffer.concat([start, fill, bytes.subarray(at)]);
    case 'delete':
      return Buffer.concat([start, bytes.subarray(Math.min(bytes.length, at + many))]);
    case 'double':
      return Buffer.concat([bytes.subarray(0, at), bytes.subarray(at, at + many), bytes.subarray(at)]);
    case 'cut':
      return Buffer.from(bytes.subarray(0, Math.max(from, at)));
    default:
      fill.copy(bytes, at);
      return bytes;
  }
}

/** `head`: bytes by which the format is known. Two of three mutants keep them, half of these are spoilt near the beginning, where lengths stand. */
export function mutateBytes(seed, random, head) {
  let bytes = Buffer.from(seed);
  const deep = random.below(3) > 0;
  const near = deep && random.below(2) === 0;
  for (let n = 1 + random.below(MOST_CHANGES); n > 0 && bytes.length > 0; n--) {
    const from = deep ? Math.min(head, bytes.length - 1) : 0;
    if (near && bytes.length > 4096) {
      const first = changeBytes(Buffer.from(bytes.subarray(0, 4096)), random, from);
      bytes = Buffer.concat([first, bytes.subarray(4096)]);
    } else bytes = changeBytes(bytes, random, from);
  }
  return { bytes, deep };
}

const SIGNS = [
  ...[
    '(',
    ')',
    '"',
    "'",
    '“',
    '”',
    '\\',
    '/',
    '..',
    '\u0000',
    '\n',
    '\u2028',
    '\ud800',
    '🦩',
    'é',
    'e\u0301',
    '%',
    '%00',
    '%2e%2e%2f',
  ],
  ...[
    '<',
    '>',
    '&',
    '&amp;',
    '<!DOCTYPE x [<!ENTITY a "aaaa">]>',
    '&a;',
    '{',
    '}',
    '{{',
    '[',
    ']',
    ':',
    ',',
    ';',
    '=',
    '≥',
    '!',
    '-',
    '*',
    '|',
  ],
  ...[
    '0',
    '-1',
    '1e309',
    '9'.repeat(40),
    'NaN',
    'null',
    'true',
    'x'.repeat(300),
    ' '.repeat(50),
    '('.repeat(200),
    '['.repeat(500),
  ],
];

export function mutateText(seed, { below, pick }) {
  let text = seed;
  for (let n = 1 + below(MOST_CHANGES); n > 0; n--) {
    const at = below(text.length + 1);
    const many = 1 + below(8);
    switch (pick(['sign', 'sign', 'delete', 'double', 'swap', 'repeat'])) {
      case 'sign':
        text = text.slice(0, at) + pick(SIGNS) + text.slice(at);
        break;
      case 'delete':
        text = text.slice(0, at) + text.slice(at + many);
        break;
      case 'double':
        text = text.slice(0, at) + text.slice(at, at + many) + text.slice(at);
        break;
      case 'swap':
        text = text.slice(at) + text.slice(0, at);
        break;
      default:
        // Not so long that the limit on its length is all that is tried.
        text = text.slice(0, at) + text.slice(at, at + many).repeat(1 + below(12)) + text.slice(at + many);
    }
  }
  return text;
}

/** A value of JSON with one of its parts another kind of thing. */
export function mutateValue(value, random) {
  const { below, pick } = random;
  const odd = () =>
    pick([
      null,
      true,
      -1,
      0,
      1e308,
      0.5,
      '',
      'x'.repeat(5000),
      [],
      {},
      [[[[]]]],
      { __proto__: null, constructor: 1 },
      'ﷺ',
      '\u0000',
    ]);
  if (value === null || typeof value !== 'object' || below(4) === 0) return odd();
  const copy = Array.isArray(value) ? [...value] : { ...value };
  const keys = Object.keys(copy);
  if (keys.length === 0 || below(8) === 0) {
    // A list is sent without names; `__proto__` is sent only where it is a property of its own.
    if (Array.isArray(copy)) copy.push(odd());
    else {
      const name = pick(['__proto__', 'constructor', 'length', 'id', 'ﷺ']);
      Object.defineProperty(copy, name, {
        value: odd(),
        enumerable: true,
        configurable: true,
        writable: true,
      });
    }
    return copy;
  }
  const key = pick(keys);
  if (below(6) === 0) delete copy[key];
  else copy[key] = mutateValue(copy[key], random);
  return copy;
}

/** A colour space of red, green and blue: chromaticities (CIE 1931 x, y), and its tone curve as a power. */
export interface RgbSpace {
  name: string;
  red: readonly [number, number];
  green: readonly [number, number];
  blue: readonly [number, number];
  white: readonly [number, number];
  gamma: number;
}

/**
 * DCF's optional colour space (JEITA CP-3461B, 4.2.7): what a camera means that writes `R03` in Exif's interoperability
 * and, as the standard has it, puts no profile into the file.
 */
export const DCF_OPTIONAL: RgbSpace = {
  name: 'DCF optional colour space',
  red: [0.64, 0.33],
  green: [0.21, 0.71],
  blue: [0.15, 0.06],
  white: [0.3127, 0.329],
  // 2 + 51/256, as ICC profiles write it.
  gamma: 2.19921875,
};

type Vector = [number, number, number];
type Matrix = [Vector, Vector, Vector];

/** ICC's profile connection space stands in the light of D50 (ICC.1:2010, 6.3.1). */
const D50: Vector = [0.9642, 1, 0.8249];
/** From CIE XYZ to what the eye's cones take (Bradford; ICC.1:2010, annex E). */
const CONES: Matrix = [
  [0.8951, 0.2664, -0.1614],
  [-0.7502, 1.7135, 0.0367],
  [0.0389, -0.0685, 1.0296],
];

const times = (m: Matrix, [x, y, z]: Vector): Vector => m.map(([a, b, c]) => a * x + b * y + c * z) as Vector;

function inverse([[a, b, c], [d, e, f], [g, h, i]]: Matrix): Matrix {
  const det = a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g);
  return [
    [(e * i - f * h) / det, (c * h - b * i) / det, (b * f - c * e) / det],
    [(f * g - d * i) / det, (a * i - c * g) / det, (c * d - a * f) / det],
    [(d * h - e * g) / det, (b * g - a * h) / det, (a * e - b * d) / det],
  ];
}

const xyzOf = ([x, y]: readonly [number, number]): Vector => [x / y, 1, (1 - x - y) / y];

/** XYZ of full red, green and blue under D50. */
function primaries(space: RgbSpace): [Vector, Vector, Vector] {
  const [r, g, b, white] = [space.red, space.green, space.blue, space.white].map(xyzOf) as [
    Vector,
    Vector,
    Vector,
    Vector,
  ];
  const columns: Matrix = [
    [r[0], g[0], b[0]],
    [r[1], g[1], b[1]],
    [r[2], g[2], b[2]],
  ];
  const [sr, sg, sb] = times(inverse(columns), white);
  const [from, to] = [times(CONES, white), times(CONES, D50)];
  const adapted = (xyz: Vector): Vector =>
    times(inverse(CONES), times(CONES, xyz).map((cone, i) => (cone * to[i]!) / from[i]!) as Vector);
  return [r, g, b].map((xyz, i) => adapted(xyz.map((v) => v * [sr, sg, sb][i]!) as Vector)) as [
    Vector,
    Vector,
    Vector,
  ];
}

/** A colour space as an ICC profile of three primaries and a curve (ICC.1:2001-04, version 2.1), some 500 bytes. */
export function iccProfile(space: RgbSpace): Uint8Array {
  const xyz = ([x, y, z]: Vector) =>
    tagged(
      'XYZ ',
      [x, y, z].map((v) => Math.round(v * 65536)),
    );
  const curve = bytesOf(14, (view) => {
    ascii(view, 0, 'curv');
    view.setUint32(8, 1);
    view.setUint16(12, Math.round(space.gamma * 256));
  });
  const [red, green, blue] = primaries(space).map(xyz) as [Uint8Array, Uint8Array, Uint8Array];
  const tags: [string, Uint8Array][] = [
    ['desc', description(space.name)],
    ['cprt', text('No rights reserved.')],
    ['wtpt', xyz(D50)],
    ['rXYZ', red],
    ['gXYZ', green],
    ['bXYZ', blue],
    ['rTRC', curve],
    ['gTRC', curve],
    ['bTRC', curve],
  ];
  let at = 132 + tags.length * 12;
  const placed = tags.map(([name, data]) => {
    const start = at;
    at += Math.ceil(data.length / 4) * 4;
    return { name, data, start };
  });
  return bytesOf(at, (view, bytes) => {
    view.setUint32(0, at);
    view.setUint32(8, 0x02100000);
    ascii(view, 12, 'mntrRGB XYZ ');
    // A date must be one: when this was written down.
    [2026, 11, 26, 0, 0, 0].forEach((part, i) => view.setUint16(24 + i * 2, part));
    ascii(view, 36, 'acsp');
    D50.forEach((v, i) => view.setInt32(68 + i * 4, Math.round(v * 65536)));
    view.setUint32(128, tags.length);
    placed.forEach(({ name, data, start }, i) => {
      ascii(view, 132 + i * 12, name);
      view.setUint32(136 + i * 12, start);
      view.setUint32(140 + i * 12, data.length);
      bytes.set(data, start);
    });
  });
}

function bytesOf(length: number, fill: (view: DataView, bytes: Uint8Array) => void): Uint8Array {
  const bytes = new Uint8Array(length);
  fill(new DataView(bytes.buffer), bytes);
  return bytes;
}

const ascii = (view: DataView, at: number, words: string): void =>
  [...words].forEach((letter, i) => view.setUint8(at + i, letter.charCodeAt(0)));

const tagged = (type: string, values: number[]): Uint8Array =>
  bytesOf(8 + values.length * 4, (view) => {
    ascii(view, 0, type);
    values.forEach((value, i) => view.setInt32(8 + i * 4, value));
  });

const text = (words: string): Uint8Array =>
  bytesOf(9 + words.length, (view) => {
    ascii(view, 0, 'text');
    ascii(view, 8, words);
  });

/** A description in ASCII; what other scripts it could be in is left empty (ICC.1:2001-04, 6.5.17). */
const description = (words: string): Uint8Array =>
  bytesOf(12 + words.length + 1 + 78, (view) => {
    ascii(view, 0, 'desc');
    view.setUint32(8, words.length + 1);
    ascii(view, 12, words);
  });

import fc from 'fast-check';
import type { Grey } from './grey';
import { tiltOf } from './horizon';
import { packMeasures, unpackMeasures } from './keptMeasures';
import { greyOf, lightOf, type Rgb } from './light';
import { adviceOf, measuredFacts, measuresIn, measuresOf, measuresText, type Measures } from './measures';
import { blurred, changed, chance, grainy, leaves, scene } from './scenes.testing';
import { sharpestSpot, sharpnessOf } from './sharpness';

// Looked up once: in a test's own world each look at a global costs as much as a pixel.
const { abs, max, min, round, tan, PI } = Math;

/** Each pixel the mean of `length` beside it, to both sides, along a way. */
function moved({ width, height, data }: Grey, length: number, [dx, dy]: readonly [number, number]): Grey {
  const out = new Float32Array(data.length);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      let sum = 0;
      for (let n = -length; n <= length; n++) {
        const [px, py] = [min(width - 1, max(0, x + n * dx)), min(height - 1, max(0, y + n * dy))];
        sum += data[py * width + px]!;
      }
      out[y * width + x] = sum / (2 * length + 1);
    }
  return { width, height, data: out };
}

/** A picture that is in focus at the left, and not at the right. */
function halfInFocus(sharp: Grey, soft: Grey): Grey {
  const data = Float32Array.from(sharp.data, (value, i) =>
    i % sharp.width < sharp.width / 2 ? value : soft.data[i]!,
  );
  return { ...sharp, data };
}

describe('sharpness', () => {
  const clear = leaves(720, 480, 5);
  const soft = blurred(clear, 4);
  const sharpOf = (grey: Grey) => sharpnessOf(grey).sharp!;

  it('falls with blur, step by step', () => {
    const [one, two, three] = [clear, blurred(clear, 1), soft].map(sharpOf);
    expect(one!).toBeGreaterThan(1.5 * two!);
    expect(two!).toBeGreaterThan(1.3 * three!);
  });

  it('is the same however bright the picture is, and however much contrast it has', () => {
    const of = sharpOf(clear);
    for (const [gain, offset] of [
      [0.35, 0],
      [0.5, 60],
      [0.8, 40],
    ] as const)
      expect(abs(sharpOf(changed(clear, (value) => gain * value + offset)) / of - 1)).toBeLessThan(0.1);
  });

  it('is not raised by grain: a soft picture with much of it stays below a sharp one', () => {
    for (const grain of [4, 10]) {
      const [sharp, other] = [clear, soft].map((grey) => sharpnessOf(grainy(grey, grain, 9)));
      // Where grain drowns what is left of it, nothing is said.
      expect(sharp!.sharp!).toBeGreaterThan(1.6 * (other!.sharp ?? 0));
      expect(abs(other!.grain / grain - 1)).toBeLessThan(0.1);
    }
  });

  it('is that of the part in focus, though all behind it is blurred, and stands where that part is', () => {
    const half = halfInFocus(clear, soft);
    expect(abs(sharpOf(half) / sharpOf(clear) - 1)).toBeLessThan(0.15);
    expect(sharpestSpot(sharpnessOf(half)).x).toBeLessThan(0.5);
    const { tiles, across } = sharpnessOf(half);
    const sum = (left: boolean) =>
      [...tiles].filter((_, i) => i % across < across / 2 === left).reduce((a, b) => a + b, 0);
    expect(sum(true)).toBeGreaterThan(5 * sum(false));
  });

  it('tells a hand that shook from missed focus, and which way it went', () => {
    // A lens leaves no steps at edges.
    const seen = blurred(clear, 1);
    for (const [way, angle] of [
      [[1, 0], 0],
      [[0, 1], 90],
      // Rows count downwards: this one rises to the right.
      [[1, -1], 45],
      [[1, 1], 135],
    ] as const) {
      const { shake, sharp } = sharpnessOf(moved(seen, 3, way));
      expect(shake.strength).toBeGreaterThan(0.6);
      const off = abs(shake.angle - angle);
      expect(min(off, 180 - off)).toBeLessThan(12);
      expect(sharp!).toBeLessThan(0.7 * sharpOf(seen));
    }
    expect(sharpnessOf(soft).shake.strength).toBeLessThan(0.3);
    expect(sharpnessOf(clear).shake.strength).toBeLessThan(0.3);
  });

  it('is not known where nothing is to be seen', () => {
    const flat = { width: 300, height: 200, data: new Float32Array(60_000).fill(90) };
    expect(sharpnessOf(flat)).toMatchObject({ sharp: null, grain: 0, shake: { strength: 0 } });
    expect(sharpnessOf(grainy(flat, 9, 3)).sharp).toBeNull();
    expect(sharpnessOf({ width: 6, height: 4, data: new Uint8Array(24) }).tiles).toHaveLength(1);
  });
});

/** A picture of one colour with some of another: a share of its pixels, from the left. */
const coloured = (share: number, first: readonly number[], second: readonly number[]): Rgb => {
  const data = new Uint8Array(480 * 320 * 3);
  for (let i = 0; i < data.length; i++)
    data[i] = ((i / 3) | 0) % 480 < 480 * share ? first[i % 3]! : second[i % 3]!;
  return { width: 480, height: 320, data };
};

describe('light', () => {
  it('tells what is white without any drawing from a colour of which one channel is full', () => {
    const white = lightOf(coloured(0.1, [255, 255, 254], [120, 120, 120]));
    expect([white.blown, white.white, white.drowned]).toEqual([0.1, 0.1, 0]);
    const red = lightOf(coloured(0.25, [255, 40, 30], [0, 1, 0]));
    expect([red.blown, red.white, red.drowned]).toEqual([0.25, 0, 0.75]);
  });

  it('counts in stops: half of the light is one less', () => {
    // sRGB (IEC 61966-2-1): 188 is half of 255's light, 137 a quarter.
    const levels = [255, 188, 137].map((v) => lightOf(coloured(1, [v, v, v], [])).level);
    [0, -1, -2].forEach((stops, i) => expect(abs(levels[i]! - stops)).toBeLessThan(0.03));
    expect(lightOf(coloured(1, [0, 0, 0], [])).level).toBe(-12);
  });

  it('knows colour beside grey, as much in the dark as in the light', () => {
    const grey = lightOf(coloured(1, [90, 90, 90], []));
    expect([grey.blue, grey.red].map((v) => abs(v) < 0.5)).toEqual([true, true]);
    const [warm, darker] = [lightOf(coloured(1, [180, 120, 80], [])), lightOf(coloured(1, [90, 60, 40], []))];
    expect(warm.red).toBeGreaterThan(10);
    expect(warm.blue).toBeLessThan(-10);
    expect(abs(warm.red - darker.red)).toBeLessThan(1);
  });

  it('is of as much weight in each channel as JPEG says', () => {
    const { data } = greyOf({ width: 3, height: 1, data: Uint8Array.of(255, 0, 0, 0, 255, 0, 0, 0, 255) });
    expect([...data]).toEqual([76, 150, 29]);
  });
});

describe('a level line', () => {
  /** A sea below a sky, its line turned by so many degrees counter-clockwise, with things standing around. */
  const sea = (degrees: number): Grey => {
    const [width, height] = [640, 420];
    const random = chance(11);
    const data = new Float32Array(width * height);
    const slope = tan((degrees * PI) / 180);
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++)
        data[y * width + x] = 70 + 120 * min(1, max(0, 210.5 - y - slope * (x - 320)));
    for (let n = 0; n < 30; n++) {
      const [left, top, size] = [random() * 600, 250 + random() * 120, 10 + random() * 30];
      for (let y = round(top); y < min(height, top + size); y++)
        for (let x = round(left); x < min(width, left + size / 2); x++)
          data[y * width + x] = 30 + 200 * random();
    }
    return grainy({ width, height, data }, 3, 5);
  };

  it('is known to a quarter of a degree', () => {
    for (const degrees of [-7.3, -0.4, 1.2, 5])
      expect(abs(tiltOf(sea(degrees))! - degrees)).toBeLessThan(0.25);
  });

  it('is not looked for beyond ten degrees, and is none where there is no line', () => {
    expect(tiltOf(sea(25))).toBeNull();
    expect(
      tiltOf(grainy({ width: 640, height: 420, data: new Float32Array(640 * 420).fill(90) }, 9, 4)),
    ).toBeNull();
    expect(tiltOf(scene(640, 420, 8))).toBeNull();
  });
});

const some: Measures = {
  ...{ sharp: 60, shake: { strength: 0.2, angle: 12 }, x: 0.5, y: 0.5, blown: 0, white: 0, level: -2.4 },
  ...{ brightest: 240, blue: 0, red: 0, tilt: null },
};

describe('measures', () => {
  it('come back from their text, as finely as they are told', () => {
    const number = (low: number, high: number) => fc.double({ min: low, max: high, noNaN: true });
    const any = fc.record({
      sharp: fc.option(number(0, 120), { nil: null }),
      shake: fc.record({ strength: number(0, 6), angle: number(0, 179) }),
      ...{
        x: number(0, 1),
        y: number(0, 1),
        blown: number(0, 1),
        white: number(0, 1),
        level: number(-12, 0),
      },
      ...{ brightest: fc.nat(255), blue: number(-60, 60), red: number(-60, 60) },
      tilt: fc.option(number(-10, 10), { nil: null }),
    });
    fc.assert(
      fc.property(any, (measures) => {
        const text = measuresText(measures);
        expect(text).not.toMatch(/NaN|e-|-0 /);
        const back = measuresIn(text)!;
        expect(measuresText(back)).toBe(text);
        expect([back.sharp === null, back.tilt === null]).toEqual([
          measures.sharp === null,
          measures.tilt === null,
        ]);
        expect(abs(back.level - measures.level)).toBeLessThanOrEqual(0.005001);
      }),
    );
    for (const text of [null, '', '1 2 3', `${measuresText(some)} 4`, measuresText(some).replace('60', 'x')])
      expect(measuresIn(text)).toBeNull();
  });

  it('are kept with where the picture is sharp, each tile to a few hundredths, in a byte a tile', () => {
    const grey = scene(480, 320, 5);
    const made = measuresOf(grey, coloured(0.2, [200, 180, 170], [40, 50, 60]));
    const bytes = packMeasures(made);
    const back = unpackMeasures(bytes);
    expect(measuresText(back.measures)).toBe(measuresText(made.measures));
    const { across, down, tiles } = made.sharpness;
    expect(back.sharpness).toMatchObject({ across, down });
    back.sharpness.tiles.forEach((tile, i) =>
      expect(abs(tile - tiles[i]!)).toBeLessThanOrEqual(0.03 * tiles[i]! + 0.05),
    );
    expect(() => unpackMeasures(bytes.subarray(0, 5))).toThrow('no kept measures');
    expect(() => unpackMeasures(bytes.subarray(0, 40))).toThrow('have 40 bytes');
    expect(() => unpackMeasures(Uint8Array.from(bytes, (byte, i) => (i === 0 ? 1 : byte)))).toThrow(
      'no kept',
    );
    expect(() => unpackMeasures(Uint8Array.from(bytes, (byte, i) => (i === 9 ? 120 : byte)))).toThrow(
      'no kept',
    );
  });
});

describe('advice', () => {
  it('is what is seen of a picture by itself, in words that filters know', () => {
    const of = (change: Partial<Measures>) => adviceOf({ ...some, ...change });
    expect(of({})).toEqual([]);
    expect(of({ sharp: 15 })).toEqual(['soft']);
    expect(of({ sharp: 30, shake: { strength: 1.4, angle: 0 } })).toEqual(['shaken']);
    expect(of({ sharp: null, shake: { strength: 3, angle: 0 } })).toEqual([]);
    // Sharp one way, and very sharp the other: no hand shook.
    expect(of({ sharp: 70, shake: { strength: 1.4, angle: 0 } })).toEqual([]);
    expect(of({ white: 0.2 })).toEqual(['over-exposed']);
    expect(of({ brightest: 80 })).toEqual(['under-exposed']);
    expect(of({ tilt: -2 })).toEqual(['tilted']);
    expect(of({ tilt: 0.3 })).toEqual([]);
  });

  it('is known to filters and orders from the text alone, and none before it is measured', () => {
    expect(measuredFacts(measuresText({ ...some, white: 0.3, tilt: 3 }))).toEqual({
      sharpness: 60,
      advice: 'over-exposed+tilted',
    });
    expect(measuredFacts(null)).toEqual({ sharpness: null, advice: '' });
  });
});

import { transform } from './fourier';
import { cut, halved, type Grey } from './grey';
import { shiftBetween, SURE } from './registration';
import { isSure, detailFrom, detailIn, similarityBetween } from './similarity';
import { packSharpness, unpackSharpness } from './keptSharpness';
import { sharpnessOf } from './sharpness';

// Looked up once: in a test's own world each look at a global costs as much as a pixel.
const { abs, cos, hypot, max, min, round, sin } = Math;

/** Numbers 0 … 1 that look like chance and are the same each time (Park and Miller 1988). */
function chance(seed: number): () => number {
  let state = seed;
  return () => (state = (state * 48271) % 2147483647) / 2147483647;
}

/** Boxes of many sizes and greys: structure with edges, as pictures have. */
function scene(width: number, height: number, seed: number): Grey {
  const random = chance(seed);
  const data = new Float32Array(width * height).fill(110);
  for (let n = 0; n < 220; n++) {
    const [w, h] = [4 + random() * 60, 4 + random() * 60];
    const [left, top, grey] = [random() * width - w / 2, random() * height - h / 2, 30 + random() * 190];
    for (let y = max(0, round(top)); y < min(height, top + h); y++)
      for (let x = max(0, round(left)); x < min(width, left + w); x++) data[y * width + x] = grey;
  }
  return { width, height, data };
}

const changed = (grey: Grey, change: (value: number) => number): Grey => ({
  ...grey,
  data: Float32Array.from(grey.data, (value) => min(255, max(0, change(value)))),
});

/** Each pixel the mean of those around it, some times over: close to a Gauss. */
function blurred(grey: Grey, times: number): Grey {
  let { data } = grey;
  const { width, height } = grey;
  for (let n = 0; n < times; n++) {
    const out = new Float32Array(data.length);
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        let [sum, of] = [0, 0];
        for (let dy = -1; dy <= 1; dy++)
          for (let dx = -1; dx <= 1; dx++) {
            const [px, py] = [x + dx, y + dy];
            if (px < 0 || py < 0 || px >= width || py >= height) continue;
            sum += data[py * width + px]!;
            of += 1;
          }
        out[y * width + x] = sum / of;
      }
    data = out;
  }
  return { width, height, data };
}

const grainy = (grey: Grey, deviation: number, seed: number): Grey => {
  const random = chance(seed);
  // Twelve even chances added up are close to Gauss, of variance 1.
  const gauss = () => Array.from({ length: 12 }, random).reduce((a, b) => a + b, -6);
  return changed(grey, (value) => value + gauss() * deviation);
};

describe('the Fourier transform', () => {
  it('goes there and back, and finds a wave where it is', () => {
    const side = 16;
    const re = Float64Array.from({ length: side * side }, (_, i) =>
      cos((2 * Math.PI * 3 * (i % side)) / side),
    );
    const im = new Float64Array(side * side);
    const before = [...re];
    transform(re, im, side);
    const strong = [...re].flatMap((value, i) => (hypot(value, im[i]!) > 1e-6 ? [i] : []));
    expect(strong).toEqual([3, side - 3]);
    transform(re, im, side, true);
    re.forEach((value, i) => expect(value).toBeCloseTo(before[i]!, 9));
  });

  it('refuses a side that is no power of two', () => {
    expect(() => transform(new Float64Array(9), new Float64Array(9), 3)).toThrow('no power of two');
  });
});

describe('parts and halves of a picture', () => {
  const grey = { width: 3, height: 2, data: new Uint8Array([0, 10, 20, 30, 40, 50]) };
  it('halve to the mean of four, and go on at the edges', () => {
    expect([...halved(grey).data]).toEqual([20]);
    expect([...cut(grey, -1, 1, 3, 2).data]).toEqual([30, 30, 40, 30, 30, 40]);
  });
});

describe('the shift between two pictures', () => {
  const whole = scene(700, 520, 7);
  const first = cut(whole, 100, 80, 480, 320);
  it.each([
    [0, 0],
    [13, -7],
    [-60, 41],
    [96, 64],
  ])('is found to the pixel: %d, %d', (dx, dy) => {
    const found = shiftBetween(first, cut(whole, 100 - dx, 80 - dy, 480, 320));
    expect(hypot(found.dx - dx, found.dy - dy)).toBeLessThan(1.5);
    expect(found.sureness).toBeGreaterThan(SURE);
  });

  it('is found though one is brighter, flatter and has grain', () => {
    const other = grainy(
      changed(cut(whole, 70, 95, 480, 320), (value) => value * 0.6 + 70),
      10,
      3,
    );
    const found = shiftBetween(first, other);
    expect(hypot(found.dx - 30, found.dy + 15)).toBeLessThan(2);
    expect(found.sureness).toBeGreaterThan(SURE);
  });

  it('is sure of nothing between pictures of different things', () => {
    for (let seed = 11; seed < 23; seed++)
      expect(shiftBetween(first, scene(480, 320, seed)).sureness).toBeLessThan(SURE);
  });

  it('is not asked of pictures of two sizes', () => {
    expect(() => shiftBetween(first, cut(whole, 0, 0, 320, 480))).toThrow('480 × 320 and 320 × 480');
  });
});

/** What a camera sees of a larger scene: its middle moved, turned and closer. */
function seen(whole: Grey, scale: number, angle: number, dx: number, dy: number): Grey {
  const [width, height] = [480, 320];
  const data = new Float32Array(width * height);
  const [c, s] = [cos(angle) / scale, sin(angle) / scale];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const [px, py] = [x - width / 2, y - height / 2];
      const wx = round(whole.width / 2 + c * px + s * py - dx);
      const wy = round(whole.height / 2 - s * px + c * py - dy);
      data[y * width + x] =
        whole.data[min(whole.height - 1, max(0, wy)) * whole.width + min(whole.width - 1, max(0, wx))]!;
    }
  return { width, height, data };
}

describe('how one picture lies over another', () => {
  const whole = scene(1100, 900, 5);
  const first = seen(whole, 1, 0, 0, 0);
  const degrees = Math.PI / 180;
  it.each([
    [1, 0, 20, -15],
    [1, 3, 12, 8],
    [1, -8, -20, 25],
    [1.15, 0, 0, 0],
    [0.88, 2, 18, -22],
    [1.2, -5, -14, 10],
    [1.3, 12, 5, 5],
  ])(
    'follows a detail through a change of size %d, a turn of %d° and a shift of %d, %d',
    (scale, turn, dx, dy) => {
      const second = grainy(
        changed(seen(whole, scale, turn * degrees, dx, dy), (value) => value * 0.8 + 20),
        6,
        9,
      );
      const found = similarityBetween(first, second);
      expect(isSure(found)).toBe(true);
      // Corners of the middle half: a detail there lies within two pixels of where it is.
      for (const [x, y] of [
        [0.25, 0.25],
        [0.75, 0.25],
        [0.5, 0.75],
      ] as const) {
        const [px, py] = [(x - 0.5) * 480 + dx, (y - 0.5) * 320 + dy];
        const [c, s] = [cos(turn * degrees) * scale, sin(turn * degrees) * scale];
        const truth = { x: (c * px - s * py) / 480 + 0.5, y: (s * px + c * py) / 320 + 0.5 };
        const at = detailIn(found, first, { x, y });
        expect(hypot((at.x - truth.x) * 480, (at.y - truth.y) * 320)).toBeLessThan(2.5);
        const back = detailFrom(found, first, at);
        expect([back.x, back.y].map((share, i) => abs(share - [x, y][i]!) < 1e-9)).toEqual([true, true]);
      }
    },
  );

  it('is unsure between pictures of different things', () => {
    for (let seed = 31; seed < 43; seed++)
      expect(isSure(similarityBetween(first, scene(480, 320, seed)))).toBe(false);
  });
});

describe('sharpness', () => {
  const sharp = scene(720, 480, 5);
  it('falls with blur, and stands in the tiles that are sharp', () => {
    const soft = blurred(sharp, 1);
    const softer = blurred(sharp, 6);
    const best = [sharp, soft, softer].map((grey) => sharpnessOf(grey).best);
    expect(best[1]!).toBeLessThan(best[0]! * 0.5);
    expect(best[2]!).toBeLessThan(best[1]! * 0.3);
    // The left half in focus, the right half not.
    const half = {
      ...sharp,
      data: Float32Array.from(sharp.data, (value, i) => (i % 720 < 360 ? value : softer.data[i]!)),
    };
    const { tiles, across } = sharpnessOf(half);
    const mean = (left: boolean) => {
      const own = [...tiles].filter((_, i) => i % across < across / 2 === left);
      return own.reduce((a, b) => a + b, 0) / own.length;
    };
    expect(mean(true)).toBeGreaterThan(10 * mean(false));
  });

  it('of a blurred picture with strong grain stays far below that of a sharp one with the same grain', () => {
    for (const grain of [12, 25]) {
      const [clear, soft] = [sharp, blurred(sharp, 6)].map((grey) => sharpnessOf(grainy(grey, grain, 9)));
      expect(clear!.best).toBeGreaterThan(5 * soft!.best);
      expect(soft!.grain).toBeGreaterThan(grain * 0.9);
      expect(soft!.grain).toBeLessThan(grain * 1.1);
    }
  });

  it('is none where nothing is', () => {
    const { best, grain } = sharpnessOf({ width: 100, height: 60, data: new Uint8Array(6000).fill(90) });
    expect([best, grain]).toEqual([0, 0]);
  });

  it('has one tile where the picture is hardly one', () => {
    expect(sharpnessOf({ width: 6, height: 4, data: new Uint8Array(24) }).tiles).toHaveLength(1);
  });
});

describe('sharpness as it is kept', () => {
  it('comes back, each tile to a few hundredths, in a byte a tile', () => {
    const measured = sharpnessOf(scene(480, 320, 5));
    const bytes = packSharpness(measured);
    expect(bytes).toHaveLength(14 + measured.tiles.length);
    const back = unpackSharpness(bytes);
    expect(back).toMatchObject({ across: measured.across, down: measured.down });
    expect(back.best).toBeCloseTo(measured.best, 1);
    back.tiles.forEach((tile, i) => {
      expect(abs(tile - measured.tiles[i]!)).toBeLessThanOrEqual(0.03 * measured.tiles[i]! + 0.05);
    });
  });

  it('is refused where the bytes are something else', () => {
    const bytes = packSharpness(sharpnessOf(scene(96, 64, 1)));
    expect(() => unpackSharpness(bytes.subarray(0, 9))).toThrow('no kept sharpness');
    expect(() => unpackSharpness(bytes.subarray(0, 20))).toThrow('has 20 bytes');
    expect(() => unpackSharpness(Uint8Array.from(bytes, (byte, i) => (i === 0 ? 9 : byte)))).toThrow(
      'no kept',
    );
  });
});

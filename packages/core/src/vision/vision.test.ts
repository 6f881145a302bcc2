import { transform } from './fourier';
import { cut, halved, type Grey } from './grey';
import { shiftBetween, SURE } from './registration';
import { isSure, detailFrom, detailIn, similarityBetween } from './similarity';
import { changed, grainy, scene } from './scenes.testing';

// Looked up once: in a test's own world each look at a global costs as much as a pixel.
const { abs, cos, hypot, max, min, round, sin } = Math;

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

import { clippingOver, focusOver, pooled, tonesOf, type Rgba } from './tones';

/** A picture by its pixels' values. */
function picture(width: number, height: number, at: (x: number, y: number) => readonly number[]): Rgba {
  const data = new Uint8ClampedArray(width * height * 4);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) data.set([...at(x, y), 255], (y * width + x) * 4);
  return { width, height, data };
}
/** Grain that is the same in each run: sums of a generator's values are nearly normal. */
function grain(deviation: number): () => number {
  let seed = 7;
  const next = () => {
    seed = (seed * 1103515245 + 12345) % 2147483648;
    return seed / 2147483648 - 0.5;
  };
  return () => {
    let sum = 0;
    for (let i = 0; i < 12; i++) sum += next();
    return sum * deviation;
  };
}
const covered = (over: Uint8ClampedArray): number => {
  let n = 0;
  for (let i = 3; i < over.length; i += 4) if (over[i]! > 0) n += 1;
  return n;
};

describe('the tones of a picture', () => {
  it('are counted channel by channel, and what is clipped as a share of all pixels', () => {
    const tones = tonesOf(
      picture(10, 10, (x, y) => (y === 0 ? [255, 10, 10] : y === 1 ? [0, 1, 0] : [x, 128, 200])),
    );
    expect(tones.blown).toBeCloseTo(0.1);
    expect(tones.drowned).toBeCloseTo(0.1);
    expect([tones.red[255], tones.green[128], tones.blue[200]]).toEqual([10, 80, 80]);
    expect(tones.red.reduce((a, b) => a + b)).toBe(100);
  });

  it('are shown where they are clipped, and nowhere else', () => {
    const over = clippingOver(
      picture(
        3,
        1,
        (x) =>
          [
            [255, 0, 0],
            [0, 0, 1],
            [250, 2, 0],
          ][x]!,
      ),
    );
    expect([over[3]! > 0, over[7]! > 0, over[11]! > 0]).toEqual([true, true, false]);
    expect(over[0]! > over[2]!).toBe(true);
    expect(over[6]! > over[4]!).toBe(true);
    expect(tonesOf(picture(0, 0, () => [0, 0, 0])).blown).toBe(0);
  });
});

describe('an overlay that is made smaller', () => {
  it('keeps each spot, and stays empty elsewhere', () => {
    const over = clippingOver(picture(9, 6, (x, y) => (x === 4 && y === 1 ? [255, 0, 9] : [100, 100, 100])));
    const small = pooled(over, 9, 6, 3);
    expect([small.width, small.height]).toEqual([3, 2]);
    expect([...Array(6).keys()].map((i) => small.data[i * 4 + 3]! > 0)).toEqual([
      ...[false, true, false],
      ...[false, false, false],
    ]);
    expect(pooled(over, 9, 6, 1).data).toBe(over);
  });
});

describe('what is sharp', () => {
  const edge = (blur: number) => (x: number) => {
    const v = blur === 0 ? (x < 32 ? 40 : 200) : 40 + 160 / (1 + Math.exp((32 - x) / blur));
    return [v, v, v];
  };

  it('is an edge of one pixel, and not one that goes over ten', () => {
    expect(covered(focusOver(picture(64, 40, edge(0))))).toBeGreaterThanOrEqual(38);
    expect(covered(focusOver(picture(64, 40, edge(4))))).toBe(0);
  });

  it('is not the grain, however strong, while an edge in it still is', () => {
    for (const deviation of [4, 12, 24]) {
      const noise = grain(deviation);
      const flat = focusOver(picture(200, 200, () => Array(3).fill(120 + noise()) as number[]));
      expect(covered(flat) / (200 * 200)).toBeLessThan(0.002);
    }
    const noise = grain(4);
    const seen = focusOver(picture(64, 40, (x) => edge(0)(x).map((v) => v + noise())));
    expect(covered(seen)).toBeGreaterThanOrEqual(38);
  });
});

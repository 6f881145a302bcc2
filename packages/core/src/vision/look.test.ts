import { dctHash, differenceHash, bitsSet, hashDistance } from './hashes';
import { keypointsOf } from './keypoints';
import { likenessOf } from './likeness';
import type { Rgb } from './light';
import { lookOf, packLook, unpackLook } from './look';
import { commonOf } from './matching';
import type { Grey } from './grey';

// Looked up once: in a test's own world each look at a global costs as much as a pixel.
const { min, max, floor } = Math;

/** Numbers 0 … 1 that look like chance and are the same each time (Park and Miller 1988). */
function chance(seed: number): () => number {
  let state = seed;
  return () => (state = (state * 48271) % 2147483647) / 2147483647;
}

interface Box {
  x: number;
  y: number;
  w: number;
  h: number;
  colour: readonly [number, number, number];
}

/** Boxes of many sizes and colours in a world of 1,000 × 700. */
function world(seed: number, many = 160): Box[] {
  const random = chance(seed);
  return Array.from({ length: many }, () => ({
    ...{ x: random() * 1000, y: random() * 700, w: 10 + random() * 90, h: 10 + random() * 70 },
    colour: [40 + random() * 180, 40 + random() * 180, 40 + random() * 180] as const,
  }));
}

const painted = new WeakMap<readonly Box[], Uint8Array>();

/** The world as it is looked at, pixel by pixel. */
function paint(boxes: readonly Box[]): Uint8Array {
  const known = painted.get(boxes);
  if (known) return known;
  const data = new Uint8Array(1000 * 700 * 3);
  for (let i = 0; i < data.length; i++) data[i] = i % 3 === 0 ? 96 : i % 3 === 1 ? 90 : 84;
  for (const { x, y, w, h, colour } of boxes)
    for (let py = Math.round(y); py < Math.min(700, y + h); py++)
      for (let px = Math.round(x), at = (py * 1000 + px) * 3; px < Math.min(1000, x + w); px++, at += 3)
        for (let i = 0; i < 3; i++) data[at + i] = colour[i]!;
  painted.set(boxes, data);
  return data;
}

/** What a camera sees of it: `scale` times as large, turned by `angle` about its middle, from a place; brighter by `gain`. */
function shot(
  boxes: readonly Box[],
  { scale = 1, angle = 0, x = 0, y = 0, gain = 1, grain = 0, seed = 9 } = {},
): Rgb {
  const [width, height] = [480, 320];
  const random = chance(seed);
  const seen = paint(boxes);
  const data = new Uint8Array(width * height * 3);
  const [c, s] = [Math.cos(-angle) / scale, Math.sin(-angle) / scale];
  for (let py = 0; py < height; py++)
    for (let px = 0; px < width; px++) {
      const ox = px - width / 2;
      const oy = py - height / 2;
      const wx = min(999, max(0, floor(c * ox - s * oy + 500 + x)));
      const wy = min(699, max(0, floor(s * ox + c * oy + 350 + y)));
      for (let i = 0; i < 3; i++) {
        const noise = grain === 0 ? 0 : (random() + random() + random() - 1.5) * 2 * grain;
        const value = seen[(wy * 1000 + wx) * 3 + i]! * gain + noise;
        data[(py * width + px) * 3 + i] = min(255, max(0, value));
      }
    }
  return { width, height, data };
}

function greyOf({ width, height, data }: Rgb): Grey {
  const grey = new Float32Array(width * height);
  for (let i = 0, at = 0; i < grey.length; i++, at += 3)
    grey[i] = 0.299 * data[at]! + 0.587 * data[at + 1]! + 0.114 * data[at + 2]!;
  return { width, height, data: grey };
}

const SCENE = world(3);

describe('hashes', () => {
  it('count bits as their binary form shows them', () => {
    const random = chance(5);
    for (let n = 0; n < 200; n++) {
      const word = Math.floor(random() * 2 ** 32) >>> 0;
      expect(bitsSet(word)).toBe(word.toString(2).split('1').length - 1);
    }
  });

  it.each([
    ['cosine', dctHash],
    ['difference', differenceHash],
  ])('by %s stay through exposure and grain, and differ for another picture', (_, hash) => {
    const own = hash(greyOf(shot(SCENE)));
    expect(hashDistance(own, hash(greyOf(shot(SCENE, { gain: 0.6 }))))).toBeLessThanOrEqual(4);
    expect(hashDistance(own, hash(greyOf(shot(SCENE, { grain: 20 }))))).toBeLessThanOrEqual(6);
    expect(hashDistance(own, hash(greyOf(shot(world(77)))))).toBeGreaterThan(18);
  });

  it('by cosine have no bit for the mean, and tell a wave across from one downwards', () => {
    const wave = (across: boolean): Grey => ({
      ...{ width: 64, height: 64 },
      data: Float32Array.from(
        { length: 4096 },
        (_, i) => 128 + 90 * Math.cos((Math.PI * (across ? i % 64 : i >> 6)) / 63),
      ),
    });
    const [across, down] = [dctHash(wave(true)), dctHash(wave(false))];
    expect(across[0] & 1).toBe(0);
    // The first wave across is the second term of the first row, the first downwards the first of the second row.
    expect([across[0] & 2, down[0] & 256]).toEqual([2, 256]);
  });

  it('by difference say which of two neighbours is brighter', () => {
    const ramp = (sign: number): Grey => ({
      ...{ width: 90, height: 80 },
      data: Float32Array.from({ length: 7200 }, (_, i) => 128 + sign * (i % 90)),
    });
    expect(differenceHash(ramp(1))).toEqual([0xffffffff, 0xffffffff]);
    expect(differenceHash(ramp(-1))).toEqual([0, 0]);
  });
});

describe('keypoints', () => {
  it('are none in a flat picture, and the same each time in others', () => {
    expect(keypointsOf({ width: 480, height: 320, data: new Uint8Array(480 * 320).fill(90) }).count).toBe(0);
    const [a, b] = [keypointsOf(greyOf(shot(SCENE))), keypointsOf(greyOf(shot(SCENE)))];
    expect(a.count).toBeGreaterThan(100);
    expect(a).toEqual(b);
  });

  it.each([
    ['a shift', { x: 40, y: -25 }],
    ['a turn', { angle: 0.3 }],
    ['a zoom', { scale: 1.5, x: 10 }],
    ['less light, and grain', { gain: 0.5, grain: 8, x: 15 }],
    ['all of it', { scale: 1.2, angle: -0.15, x: -20, y: 12, gain: 1.3 }],
  ])('lead from one picture to the other over %s', (_, change) => {
    const { way, inliers } = commonOf(
      keypointsOf(greyOf(shot(SCENE))),
      keypointsOf(greyOf(shot(SCENE, change))),
    );
    const { scale = 1, angle = 0, x = 0, y = 0 } = change as Record<string, number>;
    expect(inliers).toBeGreaterThanOrEqual(10);
    expect(Math.hypot(way!.a, way!.b)).toBeCloseTo(scale, 1);
    expect(Math.abs(Math.atan2(way!.b, way!.a) - angle)).toBeLessThan(0.02);
    // The middle of the first goes to where the camera's move has put it.
    const [mx, my] = [
      way!.a * 240 - way!.b * 160 + way!.dx - 240,
      way!.b * 240 + way!.a * 160 + way!.dy - 160,
    ];
    const [c, s] = [Math.cos(angle) * scale, Math.sin(angle) * scale];
    expect(Math.hypot(mx + c * x - s * y, my + s * x + c * y)).toBeLessThan(3);
  });

  it('of unrelated pictures hardly agree on any way', () => {
    const own = keypointsOf(greyOf(shot(SCENE)));
    for (let seed = 20; seed < 26; seed++)
      expect(commonOf(own, keypointsOf(greyOf(shot(world(seed))))).inliers).toBeLessThan(6);
  });
});

describe('a look', () => {
  it('is kept as some ten kilobytes and comes back as it was', () => {
    const look = lookOf(shot(SCENE));
    const bytes = packLook(look);
    expect(bytes.length).toBeLessThan(12_000);
    expect(unpackLook(bytes)).toEqual(look);
  });

  it('of a picture higher than wide, and of a black one, comes back too', () => {
    const black = lookOf({ width: 321, height: 479, data: new Uint8Array(321 * 479 * 3) });
    expect(unpackLook(packLook(black))).toEqual(black);
  });

  it('is none of other bytes', () => {
    const bytes = packLook(lookOf(shot(SCENE)));
    expect(() => unpackLook(bytes.subarray(0, 900))).toThrow(RangeError);
    expect(() => unpackLook(Uint8Array.of(9, 9, ...bytes.subarray(2)))).toThrow(/version/);
  });
});

describe('likeness', () => {
  const subject = (x: number, colour: Box['colour'], h = 120): Box[] => [{ x, y: 300, w: 80, h, colour }];
  const RED = [190, 40, 40] as const;
  const look = (boxes: readonly Box[], change = {}) => lookOf(shot(boxes, change));

  it('finds the same picture again, whatever its exposure, with nothing changed', () => {
    const found = likenessOf(look(SCENE), look(SCENE, { gain: 0.55, x: 12 }));
    expect(found.changed).toBeLessThan(0.1);
    expect(found.colour).toBeLessThan(0.1);
    expect(found.dx * 480).toBeCloseTo(-12, -0.5);
  });

  it('tells a subject that moved before a still ground from another subject before it', () => {
    const own = look([...SCENE, ...subject(450, RED)]);
    const moved = likenessOf(own, look([...SCENE, ...subject(540, RED)]));
    const another = likenessOf(own, look([...SCENE, ...subject(450, [40, 60, 190])]));
    expect(moved.inliers).toBeGreaterThan(20);
    expect(another.inliers).toBeGreaterThan(20);
    expect(another.other).toBeGreaterThan(moved.other * 1.8);
  });
});

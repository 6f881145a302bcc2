import { dctHash, differenceHash, bitsSet, hashDistance } from './hashes';
import { keypointsOf } from './keypoints';
import { likenessOf, pixelsApart } from './likeness';
import type { Rgb } from './light';
import { lookOf, packLook, unpackLook } from './look';
import { commonOf } from './matching';
import type { Grey } from './grey';
import { chance, shot, world, type Box } from './scenes.testing';

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

  it('tells by its pixels from which of two frames of one scene a cut of one was made', () => {
    const part = (change = {}) => {
      const { width, height, data } = shot(SCENE, change);
      const cut = new Uint8Array(data.length);
      for (let i = 0; i < width * height; i++) {
        const [x, y] = [30 + Math.floor((i % width) * 0.8), 20 + Math.floor(Math.floor(i / width) * 0.8)];
        cut.set(data.subarray((y * width + x) * 3, (y * width + x) * 3 + 3), i * 3);
      }
      return lookOf({ width, height, data: cut });
    };
    const [usual, darker] = [look(SCENE), look(SCENE, { gain: 0.7 })];
    expect(pixelsApart(part(), usual)).toBeLessThan(pixelsApart(part(), darker) / 2);
    expect(pixelsApart(part({ gain: 0.7 }), darker)).toBeLessThan(
      pixelsApart(part({ gain: 0.7 }), usual) / 2,
    );
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

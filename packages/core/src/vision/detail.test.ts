import { byDetail, SURELY, surelyOf, type Detailed, type Original } from './detail';
import type { Grey } from './grey';
import { greyOf, type Rgb } from './light';
import { lookOf } from './look';
import { shot, world, type Box } from './scenes.testing';

const boxes = world(11);
/** The next frame of a burst: one thing of the scene stands a little further on, and the grain is another. */
const next = (by: number): Box[] => boxes.map((box, i) => (i === 120 ? { ...box, x: box.x + by } : box));
const frame = (its: readonly Box[], seed: number, more: Parameters<typeof shot>[1] = {}): Rgb =>
  shot(its, { scale: 0.5, grain: 3, seed, ...more });

/** A part of it, of `share` of each side, as large as the whole: pixels in a straight line between their neighbours. */
function part({ width, height, data }: Rgb, share: number, left: number, top: number): Rgb {
  const out = new Uint8Array(data.length);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const [sx, sy] = [(left + (x / width) * share) * width, (top + (y / height) * share) * height];
      const [x0, y0] = [Math.min(width - 2, Math.floor(sx)), Math.min(height - 2, Math.floor(sy))];
      const [rx, ry] = [sx - x0, sy - y0];
      for (let i = 0; i < 3; i++) {
        const at = (y0 * width + x0) * 3 + i;
        const high = data[at]! * (1 - rx) + data[at + 3]! * rx;
        const low = data[at + width * 3]! * (1 - rx) + data[at + width * 3 + 3]! * rx;
        out[(y * width + x) * 3 + i] = high * (1 - ry) + low * ry;
      }
    }
  return { width, height, data: out };
}

const toned = ({ data, ...its }: Rgb, tone: (value: number) => number): Rgb => ({
  ...its,
  data: data.map((value) => Math.min(255, Math.max(0, tone(value)))),
});

const detailed = (rgb: Rgb): Detailed => ({ look: lookOf(rgb), grey: greyOf(rgb) });

const nearest = (of: Detailed, among: readonly Detailed[]): Original => byDetail(of, among)[0]!;

/** The picture as one that has no places by which it could be laid over another. */
const blind = ({ grey, look: { points, ...look } }: Detailed): Detailed => ({
  grey,
  look: { ...look, points: { ...points, count: 0 } },
});

describe('of frames of a burst', () => {
  const burst = [0, 3, 6, 9].map((by, i) => frame(next(by), 20 + i));
  const among = burst.map(detailed);

  it.each([
    ['a part', (rgb: Rgb) => part(rgb, 0.6, 0.3, 0.2)],
    ['a toned part', (rgb: Rgb) => toned(part(rgb, 0.7, 0.1, 0.2), (value) => 255 * (value / 255) ** 1.6)],
    ['all of it, harder', (rgb: Rgb) => toned(rgb, (value) => 1.4 * value - 40)],
  ])('that one is told from which %s was made, whichever it is', (_, made) => {
    for (const [nth, rgb] of burst.entries()) {
      const found = nearest(detailed(made(rgb)), among);
      expect(found.nth).toBe(nth);
      expect(found.apart).toBeLessThan(SURELY);
    }
  });

  it('in which nobody moved that one is told by its grain', () => {
    const still = [40, 41, 42].map((seed) => frame(boxes, seed));
    const looked = still.map(detailed);
    for (const [nth, rgb] of still.entries())
      expect(nearest(detailed(part(rgb, 0.6, 0.25, 0.3)), looked).nth).toBe(nth);
  });

  it('of which the detail is one that one is told by its light, as long as nobody toned the copy', () => {
    const flash = [0, 6, 12].map((more) => toned(frame(boxes, 5, { gain: 0.8 }), (value) => value + more));
    const looked = flash.map(detailed);
    for (const [nth, rgb] of flash.entries()) expect(nearest(detailed(rgb), looked).nth).toBe(nth);
  });

  it('that one is told in a small copy', () => {
    const { grey, look } = among[2]!;
    const small: Grey = { width: 120, height: 80, data: new Float32Array(120 * 80) };
    for (let i = 0; i < small.data.length; i++) {
      const at = Math.floor(i / 120) * 4 * grey.width + (i % 120) * 4;
      let sum = 0;
      for (let y = 0; y < 4; y++) for (let x = 0; x < 4; x++) sum += grey.data[at + y * grey.width + x]!;
      small.data[i] = sum / 16;
    }
    expect(nearest({ look, grey: small }, among).nth).toBe(2);
  });
});

it('of frames from one tripod the way that is found to one leads to the one whose own is not found', () => {
  const own = blind(detailed(frame(boxes, 5)));
  const beside = detailed(frame(next(9), 6));
  const copy = detailed(part(frame(boxes, 5), 0.6, 0.3, 0.2));
  expect(nearest(copy, [own]).apart).toBeGreaterThan(SURELY);
  expect(nearest(copy, [beside, own]).nth).toBe(1);
});

it('what lies a little beside, turned by a little, is brought to where it is', () => {
  const own = blind(detailed(frame(boxes, 5)));
  for (const more of [{ x: 14, y: -9 }, { angle: 0.02 }, { scale: 0.515 }])
    expect(nearest(detailed(frame(boxes, 6, more)), [own]).apart).toBeLessThan(0.25);
});

it('a picture of something else is far from all', () => {
  const among = [30, 31, 32].map((seed) => detailed(frame(world(seed), seed)));
  expect(nearest(detailed(frame(boxes, 5)), among).apart).toBeGreaterThan(SURELY);
});

it('what stands before the same ground as something else is not that', () => {
  const [one, other] = [50, 51].map((seed) => detailed(frame(world(seed, 6), seed, { grain: 0 })));
  expect(nearest(one!, [other!]).apart).toBeGreaterThan(SURELY);
  expect(nearest(one!, [one!]).apart).toBeLessThan(0.01);
});

it('a picture that shows more than the frame lacks what the frame does not show', () => {
  const [wide, close] = [frame(boxes, 5), frame(boxes, 5, { scale: 1 })].map(detailed);
  expect(nearest(close!, [wide!]).apart).toBeLessThan(SURELY);
  expect(nearest(wide!, [close!]).apart).toBeGreaterThan(SURELY);
});

it('of no frames none is told', () => {
  expect(byDetail(detailed(frame(boxes, 5)), [])).toEqual([]);
  expect(surelyOf([])).toBe(-1);
});

it('a flat picture, or one of a few pixels, is in nothing', () => {
  const speck = new Uint8Array(480 * 320 * 3).fill(90);
  for (let y = 100; y < 110; y++) speck.fill(30, (y * 480 + 200) * 3, (y * 480 + 210) * 3);
  const sky = detailed({ width: 480, height: 320, data: speck });
  expect(nearest(sky, [sky]).apart).toBe(1);
  const flat = { width: 60, height: 40, data: new Uint8Array(60 * 40 * 3).fill(90) };
  const tiny = { width: 6, height: 4, data: new Uint8Array(6 * 4 * 3).fill(90) };
  for (const rgb of [flat, tiny])
    expect(nearest(detailed(rgb), [detailed(frame(boxes, 5))]).apart).toBeGreaterThan(SURELY);
});

it('is surely of one where the next lacks twice as much of its detail, or clearly more', () => {
  const told = (...apart: number[]) => surelyOf(apart.map((its, i) => ({ nth: i + 4, apart: its })));
  expect([told(0.1, 0.21), told(0.1, 0.19)]).toEqual([4, -1]);
  expect([told(0.4, 0.61), told(0.4, 0.59)]).toEqual([4, -1]);
  expect([told(0.49), told(0.51), told(0.51, 0.9)]).toEqual([4, -1, -1]);
});

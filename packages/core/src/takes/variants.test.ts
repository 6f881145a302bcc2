import fc from 'fast-check';
import { likenessOf } from '../vision/likeness';
import { lookOf, type Look } from '../vision/look';
import { shot, world } from '../vision/scenes.testing';
import { bandsBeside, bandsOf, FOUND_WITHIN, hashDistance, hashOfBands, type Hash } from '../vision/hashes';
import { candidatesFor, picturesOf, SAME_PICTURE, sameness, toldOf, type MomentFrame } from './variants';

const BODY = 'Ockham · Five · 1';
const frame = (original: string, body: string | null = BODY): MomentFrame => ({
  id: original,
  original,
  body,
});
const never = () => {
  throw new Error('names told it already');
};

describe('of two frames of one moment', () => {
  it.each([
    ['OCK_0012', 'OCK_0012-bw', 'same'],
    ['OCK_0012', 'OCK_0012', 'same'],
    ['OCK_0012', 'OCK_0013', 'other'],
    ['OCK_0012', 'web-0012', 'looks'],
    ['OCK_0012', 'cover', 'looks'],
    ['OCK_0012', 'OCK_00125', 'looks'],
  ])('%s and %s are, by their names: %s', (a, b, told) => {
    expect(toldOf(frame(a), frame(b))).toBe(told);
    expect(toldOf(frame(b), frame(a))).toBe(told);
  });

  it('those of two cameras are never one picture; where a file names no camera, it may be of any', () => {
    expect(toldOf(frame('OCK_0012'), frame('OCK_0012', 'Ockham · Five · 2'))).toBe('other');
    expect(toldOf(frame('OCK_0012'), frame('OCK_0012-bw', null))).toBe('same');
  });
});

describe('the frames of one moment', () => {
  it('are parted into pictures by their names, and presses of a burst stay apart', () => {
    const frames = ['OCK_0012', 'OCK_0013', 'OCK_0012-bw', 'OCK_0014', 'OCK_0013-web'].map((name) =>
      frame(name),
    );
    expect(picturesOf(frames, never)).toEqual([
      ['OCK_0012', 'OCK_0012-bw'],
      ['OCK_0013', 'OCK_0013-web'],
    ]);
  });

  it('whose names tell nothing are asked what they show', () => {
    const frames = ['OCK_0012', 'OCK_0013', 'cover'].map((name) => frame(name));
    expect(picturesOf(frames, (a, b) => a === 'OCK_0013' && b === 'cover')).toEqual([['OCK_0013', 'cover']]);
    expect(picturesOf(frames, () => false)).toEqual([]);
  });

  it('never bring two presses together by something that looks like both', () => {
    const frames = ['cover', 'OCK_0012', 'OCK_0013'].map((name) => frame(name));
    expect(picturesOf(frames, () => true)).toEqual([['cover', 'OCK_0012']]);
  });
});

describe('hashes that differ by few bits', () => {
  it('share a band, or nearly: what is looked up beside the bands of one finds the other', () => {
    const word = fc.nat(0xffffffff);
    const changes = fc.uniqueArray(fc.nat(63), { maxLength: FOUND_WITHIN });
    fc.assert(
      fc.property(fc.tuple(word, word), changes, (hash: Hash, bits) => {
        const other: [number, number] = [...hash];
        for (const bit of bits) other[bit >> 5] = (other[bit >> 5]! ^ (1 << (bit & 31))) >>> 0;
        expect(hashDistance(hash, other)).toBe(bits.length);
        expect(hashOfBands(bandsOf(hash))).toEqual(hash);
        const wanted = bandsOf(hash).map(bandsBeside);
        expect(bandsOf(other).some((band, i) => wanted[i]!.includes(band))).toBe(true);
      }),
    );
  });

  it('are not all found so from eight on', () => {
    // Two bits in each band.
    const found = bandsOf([0x00030003, 0x00030003]).some((band, i) =>
      bandsBeside(bandsOf([0, 0])[i]!).includes(band),
    );
    expect(found).toBe(false);
  });
});

describe('frames that a picture may have been made from', () => {
  const boxes = world(11);
  const whole = lookOf(shot(boxes, { scale: 0.5 }));
  const part = (share: number, more: Parameters<typeof shot>[1] = {}) =>
    lookOf(shot(boxes, { scale: 0.5 / share, x: 60, y: -40, grain: 4, gain: 0.9, seed: 3, ...more }));
  const grey = ({ width, height, data }: ReturnType<typeof shot>) => ({
    ...{ width, height },
    data: data.map(
      (_, i) => 0.299 * data[i - (i % 3)]! + 0.587 * data[i - (i % 3) + 1]! + 0.114 * data[i - (i % 3) + 2]!,
    ),
  });
  const others = Array.from({ length: 6 }, (_, i) => lookOf(shot(world(30 + i))));
  const order = (look: Look, among: readonly Look[]) => candidatesFor(look, among).map(({ nth }) => nth);

  it('are told by a part of them, of which what was cut off is no change; in grey as in colours', () => {
    expect(sameness(part(0.6), whole)).toBeLessThan(SAME_PICTURE);
    expect(candidatesFor(part(0.6), [whole])).toMatchObject([{ nth: 0, likely: true }]);
    const greyPart = lookOf(grey(shot(boxes, { scale: 0.5 / 0.7 })));
    for (const its of [part(0.7), part(0.6), greyPart]) expect(order(its, [...others, whole])[0]).toBe(6);
  });

  it('stand by their pixels, however many places they share; then those that share a few', () => {
    const dark = lookOf(shot(boxes, { scale: 0.5, gain: 0.5 }));
    const grainy = lookOf(shot(boxes, { scale: 0.5, grain: 8 }));
    const [dearer, nearer] = [dark, grainy].map((its) => likenessOf(part(0.7), its).inliers);
    expect(dearer).toBeGreaterThan(nearer!);
    expect(nearer).toBeGreaterThanOrEqual(10);
    expect(order(part(0.7), [dark, grainy])).toEqual([1, 0]);
    const small = lookOf(shot(boxes, { scale: 1.25, x: 60, y: -40 }));
    const [close, wide] = [lookOf(shot(boxes, { scale: 1, x: 60, y: -40 })), whole];
    expect(likenessOf(small, wide).inliers).toBeLessThan(10);
    expect(order(small, [wide, close])).toEqual([1, 0]);
  });

  it('are none of another scene', () => {
    expect(order(part(0.7), others)).toEqual([]);
  });
});

import fc from 'fast-check';
import { likenessOf } from '../vision/likeness';
import { lookOf } from '../vision/look';
import { shot, world } from '../vision/scenes.testing';
import { bandsBeside, bandsOf, FOUND_WITHIN, hashDistance, hashOfBands, type Hash } from '../vision/hashes';
import {
  isMadeFrom,
  originalAmong,
  picturesOf,
  SAME_PICTURE,
  sameness,
  toldOf,
  type MomentFrame,
} from './variants';

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

describe('the frame that a picture was made from', () => {
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

  it('is told by a part of it, of which what was cut off is no change', () => {
    for (const share of [0.7, 0.6]) expect(isMadeFrom(part(share), whole)).toBe(true);
    expect(sameness(part(0.6), whole)).toBeLessThan(SAME_PICTURE);
    expect(isMadeFrom(lookOf(grey(shot(boxes, { scale: 0.5 / 0.7 }))), whole)).toBe(true);
  });

  it('is none of another scene, nor one of this scene in which most is another', () => {
    for (let seed = 30; seed < 36; seed++)
      expect(isMadeFrom(part(0.7), lookOf(shot(world(seed))))).toBe(false);
    // The same wall, and somebody in black before it: colours are taken out.
    const other = [...boxes, { x: 380, y: 160, w: 300, h: 300, colour: [10, 10, 10] as const }];
    const its = lookOf(shot(other, { scale: 0.5 }));
    expect(likenessOf(part(0.7), its).inliers).toBeGreaterThanOrEqual(10);
    expect(isMadeFrom(part(0.7), its)).toBe(false);
  });

  it('is of several that surely show it the one whose pixels are nearest', () => {
    const [early, late] = [
      boxes,
      boxes.map((box, i) => (i % 12 === 0 ? { ...box, x: box.x + 14 } : box)),
    ].map((its) => lookOf(shot(its, { scale: 0.5, seed: 20, grain: 4 })));
    expect(isMadeFrom(part(0.7), late!)).toBe(true);
    expect(originalAmong(part(0.7), [late!, early!])).toBe(1);
    expect(originalAmong(part(0.7), [lookOf(shot(world(31)))])).toBe(-1);
  });
});

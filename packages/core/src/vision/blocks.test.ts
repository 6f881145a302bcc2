import { blocksOf } from './blocks';
import type { Grey } from './grey';

const plain = (width: number, height: number, grey = 245): Grey => ({
  ...{ width, height },
  data: new Uint8Array(width * height).fill(grey),
});
/** Something that no line of is plain. */
const drawn = (onto: Grey, left: number, top: number, width: number, height: number): Grey => {
  for (let y = top; y < top + height; y++)
    for (let x = left; x < left + width; x++)
      onto.data[y * onto.width + x] = 128 + 100 * Math.sin(x / 3 + y / 5);
  return onto;
};
const pixels = (grey: Grey) =>
  blocksOf(grey).map(({ left, top, width, height }) =>
    [left * grey.width, top * grey.height, width * grey.width, height * grey.height].map(Math.round),
  );

describe('what could be a picture in a shot of a screen', () => {
  it('is none in a picture, and none in one colour', () => {
    expect(blocksOf(drawn(plain(480, 320), 0, 0, 480, 320))).toEqual([]);
    expect(blocksOf(plain(480, 320))).toEqual([]);
  });

  it('is what borders stand around', () =>
    expect(pixels(drawn(plain(480, 320), 60, 40, 300, 200))).toEqual([[60, 40, 300, 200]]));

  it('is what stands between bars, words and columns, the largest first', () => {
    const page = plain(270, 480, 20);
    // A bar with a name, a picture as wide as the screen, buttons, words beneath.
    drawn(page, 10, 10, 60, 12);
    drawn(page, 0, 60, 270, 180);
    drawn(page, 10, 252, 100, 14);
    for (const y of [290, 310, 330]) drawn(page, 10, y, 220, 8);
    expect(pixels(page)).toContainEqual([0, 60, 270, 180]);
    const [first] = pixels(page);
    expect(first![3]).toBeGreaterThan(180);
  });

  it('is each of two that stand side by side', () => {
    const two = drawn(drawn(plain(480, 320), 20, 60, 200, 200), 240, 60, 220, 200);
    expect(pixels(two)).toEqual(
      expect.arrayContaining([
        [20, 60, 200, 200],
        [240, 60, 220, 200],
      ]),
    );
  });

  it('is not parted by one plain line of its own', () => {
    const page = drawn(plain(480, 320), 60, 40, 300, 200);
    for (let x = 60; x < 360; x++) page.data[140 * 480 + x] = 90;
    expect(pixels(page)).toEqual([[60, 40, 300, 200]]);
  });

  it('does not reach as far as a scroll bar that lies over its edge', () => {
    const page = drawn(drawn(plain(270, 480, 20), 0, 60, 270, 180), 266, 240, 3, 200);
    expect(pixels(page)).toContainEqual([0, 60, 270, 180]);
  });
});

import { pagesOf } from './sideCommands';

const take = (frames: number) => Array.from({ length: frames }, (_, i) => `f${i + 1}`);
const lengths = (frames: number) => pagesOf(take(frames)).map((page) => page.length);

describe('a take side by side', () => {
  it.each([
    [2, [2]],
    [6, [6]],
    [8, [6, 2]],
    [12, [6, 6]],
    [30, [6, 6, 6, 6, 6]],
  ])('of %d frames has pages of six: %j', (frames, pages) => {
    expect(lengths(frames)).toEqual(pages);
    expect(pagesOf(take(frames)).flat()).toEqual(take(frames));
  });

  it('whose last frame would stand alone has the one before it beside it again', () => {
    expect(pagesOf(take(7))).toEqual([take(6), ['f6', 'f7']]);
    expect(lengths(301).at(-1)).toBe(2);
  });

  it('of one frame has nothing to stand beside', () => {
    expect(pagesOf(take(1))).toEqual([]);
  });
});

import { isWithin, type HeldFile } from './within';

const file = (sha256: string | null, copies = 2): HeldFile => ({ sha256, copies });

describe('a frame is held by another', () => {
  it('where each of its files is there as well, and no other way round', () => {
    const [picture, both] = [[file('a')], [file('a'), file('b')]];
    expect([isWithin(picture, both), isWithin(both, picture), isWithin(both, both)]).toEqual([
      true,
      false,
      true,
    ]);
  });

  it('only by as many sound copies: one copy does not stand for two, and none for nothing', () => {
    expect(isWithin([file('a', 2)], [file('a', 1)])).toBe(false);
    expect(isWithin([file('a', 1)], [file('a', 2)])).toBe(true);
    expect(isWithin([file('a', 0)], [file('a', 0)])).toBe(false);
  });

  it('never where a file was not read whole, or there is none', () => {
    expect(isWithin([file(null)], [file(null)])).toBe(false);
    expect(isWithin([file('a')], [file(null)])).toBe(false);
    expect(isWithin([], [file('a')])).toBe(false);
  });
});

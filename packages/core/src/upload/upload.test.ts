import * as fc from 'fast-check';
import { isLinkOpen, isSendable, leftOfLink, sentNameTrouble } from './upload';

describe('A link by which others send', () => {
  it('leaves what was not used of it, and never less than nothing', () => {
    expect(leftOfLink({ most: 100, came: 30 }, 20)).toBe(50);
    fc.assert(
      fc.property(fc.nat(), fc.nat(), fc.nat(), (most, came, coming) => {
        const left = leftOfLink({ most, came }, coming);
        expect(left).toBeGreaterThanOrEqual(0);
        expect(left).toBeLessThanOrEqual(most);
      }),
    );
  });

  it('is open until its time, or until it is taken back', () => {
    expect(isLinkOpen({ until: null, revokedAt: null }, 5)).toBe(true);
    expect(isLinkOpen({ until: 6, revokedAt: null }, 5)).toBe(true);
    expect(isLinkOpen({ until: 5, revokedAt: null }, 5)).toBe(false);
    expect(isLinkOpen({ until: null, revokedAt: 1 }, 5)).toBe(false);
  });
});

describe('The name of a file that is sent', () => {
  it.each([
    ['DCIM/100OCKHM/OCK_0001.DNG', null],
    ['Été à l’étang/IMG 1 (2).jpg', null],
    [`${'a'.repeat(237)}.jpg`, 'long'],
    // Letters of three bytes each.
    [`${'写'.repeat(80)}.jpg`, 'long'],
    [Array.from({ length: 110 }, () => 'folder 01').join('/'), 'long'],
    ['a\nb.jpg', 'signs'],
    ['a\u2028b.jpg', 'signs'],
    ['a\u0000.jpg', 'signs'],
  ])('%j: %s', (path, trouble) => expect(sentNameTrouble(path)).toBe(trouble));

  it('is that of a picture, a clip or what belongs to one', () => {
    expect(['a.JPG', 'x/b.cr3', 'c.mov', 'd.wav', 'd.xmp', 'e.HEIC'].every(isSendable)).toBe(true);
    expect(['a.exe', 'a.jpg.html', 'jpg', '.jpg', 'Thumbs.db', ''].some(isSendable)).toBe(false);
  });
});

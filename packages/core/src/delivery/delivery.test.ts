import { manifestText, parseManifest } from './manifest';
import { outputSize, printPixels } from './outputSpec';

describe('output size', () => {
  it.each([
    [6000, 4000, 2000, 2000, 1333],
    [4000, 6000, 2000, 1333, 2000],
    [1200, 800, 2000, 1200, 800],
    [10000, 3, 100, 100, 1],
  ])('of %i × %i at %i is %i × %i', (w, h, side, width, height) =>
    expect(outputSize(w, h, side)).toEqual({ width, height }),
  );

  it('of a print is inches times resolution', () => expect(printPixels(10, 200)).toBe(2000));
});

describe('manifest', () => {
  // The form of GNU coreutils, “cksum output modes”.
  it('escapes backslashes and line breaks and says so in front', () => {
    const lines = [
      { sha256: 'a'.repeat(64), path: 'plain name.jpg' },
      { sha256: 'b'.repeat(64), path: 'odd\\na\nme.jpg' },
    ];
    const text = manifestText(lines);
    expect(text.split('\n')[1]).toBe(`\\${'b'.repeat(64)}  odd\\\\na\\nme.jpg`);
    expect(parseManifest(text)).toEqual(lines);
  });
});

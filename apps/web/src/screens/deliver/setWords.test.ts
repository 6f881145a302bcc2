import { alongWords, changesWords, remakeWords } from './setWords';

const changes = (more: object) => ({ fresh: 0, changed: 0, gone: 0, names: [], problem: null, ...more });

describe('the words of a set', () => {
  it('say what goes along', () => {
    expect(alongWords({ raws: null, sheet: false, bag: false })).toBe('');
    expect(alongWords({ raws: 'camera', sheet: true, bag: true })).toBe(
      'raws in “camera”, a proof sheet, as a bag',
    );
  });

  it('say how it differs from what it would be, and what bringing it up to date does to which files', () => {
    expect(changesWords(changes({}))).toBe('');
    const some = changes({ fresh: 1, changed: 2, gone: 3 });
    expect(changesWords(some)).toBe(
      '1 file not in it yet, 2 files other by now, 3 files no part of it any more',
    );
    expect(remakeWords(some)).toBe(
      'Bringing it up to date makes 3 files, takes 3 files out of the folder, and makes manifest and zip anew. All others stay as they are, under their names.',
    );
    expect(remakeWords(changes({ gone: 1 }))).toContain(
      'up to date takes 1 file out of the folder, and makes',
    );
  });
});

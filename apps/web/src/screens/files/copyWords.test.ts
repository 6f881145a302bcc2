import { goesWords } from './copyWords';

describe('what goes to a drive', () => {
  const plan = { files: 12, bytes: 340_000_000, previews: 0 };

  it('is said in files and previews before it goes', () => {
    expect(goesWords(plan, 'Travel', { keepers: null, previews: false })).toBe(
      '12 files, 340 MB, with their sidecars; each is read back. Nothing is taken from elsewhere.',
    );
    expect(goesWords({ ...plan, previews: 1 }, 'Travel', { keepers: 5, previews: false })).toBe(
      '12 files, 340 MB, with their sidecars; each is read back. Previews of 1 frame. Nothing is taken from elsewhere.',
    );
    expect(goesWords({ files: 0, bytes: 0, previews: 40 }, 'Travel', { keepers: 5, previews: false })).toBe(
      'Previews of 40 frames. Nothing is taken from elsewhere.',
    );
  });

  it('is said of a single file as of one', () =>
    expect(goesWords({ ...plan, files: 1 }, 'Travel', { keepers: null, previews: false })).toContain(
      '1 file, 340 MB, with its sidecar; it is read back.',
    ));

  it('is said where it is nothing, and why', () => {
    const none = { files: 0, bytes: 0, previews: 0 };
    expect(goesWords(none, 'Travel', { keepers: null, previews: false })).toBe(
      '“Travel” holds all of it already.',
    );
    expect(goesWords(none, 'Travel', { keepers: 5, previews: false })).toBe(
      '“Travel” holds all keepers already.',
    );
    expect(goesWords(none, 'Travel', { keepers: 5, previews: true })).toBe(
      '“Travel” holds all keepers, and the others or their previews, already.',
    );
    expect(goesWords({ ...none, previews: 40 }, 'Travel', { keepers: 0, previews: false })).toBe(
      'No frame of it is kept yet: keep some first, or copy all of it.',
    );
  });

  it('is previews alone where nothing is kept yet and they are wanted', () =>
    expect(goesWords({ files: 0, bytes: 0, previews: 40 }, 'Travel', { keepers: 0, previews: true })).toBe(
      'Previews of 40 frames. Nothing is taken from elsewhere.',
    ));
});

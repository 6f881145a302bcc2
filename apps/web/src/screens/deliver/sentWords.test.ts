import type { Api } from '../../data/http';
import { namesIn, sentWords } from './sentWords';

describe('what is said of a set that was sent', () => {
  const sent = (more: Partial<Api['SentSetDto']>): Api['SentSetDto'] => ({
    ...{ id: 's', deliveryId: 'd', destination: 'Client', place: 'https://there/', folder: 'set' },
    ...{ carried: false, confirmedAt: null, at: 1, finishedAt: 2, files: 40, bytes: 210e6 },
    ...{ arrived: 40, failed: 0, frames: null, older: false, ...more },
  });

  it.each([
    [{}, '40 files, 210 MB: all read back there, and the same'],
    [{ finishedAt: null, arrived: 12 }, '40 files: 12 there so far'],
    [{ arrived: 37, failed: 3 }, '37 of 40 files arrived, 3 did not'],
    // What was given up is no failure of a file, and has not arrived either.
    [{ arrived: 37, failed: 0 }, '37 of 40 files arrived, 3 did not'],
    [{ older: true }, 'as it was then, 40 files, 210 MB: all read back there, and the same'],
    [{ older: true, arrived: 39 }, 'as it was then, 39 of 40 files arrived, 1 did not'],
    [{ carried: true }, '40 files: handed to sync, arrival not proven'],
    [{ carried: true, confirmedAt: 3 }, '40 files: handed to sync, and said to have arrived'],
    [{ carried: true, arrived: 39, failed: 1 }, '39 of 40 files arrived, 1 did not'],
    [
      { frames: 1, files: 2, arrived: 2, bytes: 1000 },
      '1 frame, 2 files, 1 kB: all read back there, and the same',
    ],
  ])('is what was proven: %j', (more, words) => expect(sentWords(sent(more))).toBe(words));
});

describe('frames of a set', () => {
  it('are chosen by the ends of their names, and one that is not there is named', () => {
    const names = ['night_0104', 'night_0118', 'other_0118'];
    const ids = ['a', 'b', 'c'];
    expect(namesIn('0104, 0118', names, ids)).toEqual({ ids: ['a', 'b', 'c'], unknown: [] });
    expect(namesIn('night_0118 9', names, ids)).toEqual({ ids: ['b'], unknown: ['9'] });
    expect(namesIn(' ', names, ids)).toEqual({ ids: [], unknown: [] });
  });
});

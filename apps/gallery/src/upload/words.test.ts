import type { Sending } from '@arkiv/sending';
import { arrivedWords, leftOutWords, sentWords, shareOf } from './words';

const file = (state: Sending['state'], size: number, sent: number): Sending =>
  ({ path: 'a', file: { size } as File, state, sent, reason: null }) as Sending;

describe('What the page of a link says', () => {
  it('is how much has arrived of what was chosen, with what was there and what is not', () => {
    expect(sentWords([])).toBe('');
    expect(sentWords([file('sending', 2e6, 1e6)])).toBe('0 of 1 file arrived and proven, 1.0 MB of 2.0 MB');
    const files = [file('whole', 2e9, 2e9), file('there', 1e6, 1e6), file('failed', 1e6, 0)];
    expect(sentWords(files)).toBe(
      '2 of 3 files arrived and proven, 2.0 GB of 2.0 GB; 1 was there already; 1 is not',
    );
    expect(shareOf([file('whole', 3, 3), file('sending', 1, 0)])).toBe(0.75);
    expect(shareOf([file('whole', 0, 0)])).toBe(1);
  });

  it('names what is left out, a few of many', () => {
    expect(leftOutWords([])).toBe('');
    expect(leftOutWords(['DCIM/INDEX.DAT'])).toContain('sound: INDEX.DAT.');
    expect(leftOutWords(['a', 'b', 'c', 'd', 'e'])).toContain('a, b, c, and 2 more.');
  });

  it('thanks for as many as arrived', () => {
    expect(arrivedWords(1)).toContain('1 file arrived as you sent it');
    expect(arrivedWords(12)).toContain('12 files arrived as you sent them');
  });
});

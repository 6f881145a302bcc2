import { choosingWords, closingWords } from './choosing';

const DAY = 24 * 60 * 60 * 1000;
const NOW = Date.UTC(2026, 10, 28, 12);
const GALLERY = { until: NOW + 3 * DAY, closedAt: null, most: 8, chosen: [], sent: null };

describe('A gallery in which a client chooses', () => {
  it('warns a week before it closes, while something is left to be chosen', () => {
    expect(closingWords(GALLERY, NOW)).toBe('It closes in 3 days, and the choice is not made.');
    expect(closingWords({ ...GALLERY, until: NOW + DAY / 2 }, NOW)).toContain('within a day');
    const none = [
      { until: null },
      { until: NOW + 8 * DAY },
      { until: NOW },
      { closedAt: NOW },
      { most: null },
      { sent: { by: 'Wilma', at: NOW } },
      { most: 2, chosen: [{}, {}] },
    ];
    for (const change of none) expect(closingWords({ ...GALLERY, ...change } as never, NOW)).toBe('');
  });

  it('stands on the Desk while it closes soon, and when its choice was sent', () => {
    const its = { until: NOW + 3 * DAY, most: 8, chosen: 3, sent: null };
    expect(choosingWords(its, NOW)).toBe('It closes in 3 days, and 3 of 8 are chosen.');
    expect(choosingWords({ ...its, most: 0, chosen: 2 }, NOW)).toContain('2 pictures are chosen');
    expect(choosingWords({ ...its, sent: { by: 'Wilma', at: NOW - DAY } }, NOW)).toBe(
      'Wilma sent the choice: 3 of 8.',
    );
    const none = [
      { until: null },
      { until: NOW + 8 * DAY },
      { chosen: 8 },
      { sent: { by: 'Wilma', at: NOW - 8 * DAY } },
    ];
    for (const change of none) expect(choosingWords({ ...its, ...change }, NOW)).toBe('');
  });
});

import { DEFAULT_RULES } from '@arkiv/core';
import type { LoadedFrame } from '../../../data/frames';
import { progressWords } from './PassLine';
import { decisionsOverTime, keptShares } from './passResults';

describe('what came of a pass', () => {
  it('is shown as decisions over time, in stretches of one length', () => {
    expect(decisionsOverTime([])).toMatchObject({ counts: [] });
    expect(decisionsOverTime([5000])).toMatchObject({ counts: [1] });
    expect(decisionsOverTime([0, 1, 9999, 10_000, 35_000])).toEqual({
      ...{ stretchMillis: 10_000, counts: [3, 1, 0, 1] },
    });
    const long = decisionsOverTime(Array.from({ length: 600 }, (_, i) => i * 6000));
    expect(long.counts.length).toBeLessThanOrEqual(24);
    expect(long.counts.reduce((a, b) => a + b)).toBe(600);
  });

  it('is what was kept of all that have the same', () => {
    const frames = [
      { body: 'B', verdict: 'keep' },
      { body: 'A', verdict: 'reject' },
      { body: 'A', verdict: 'keep' },
    ] as LoadedFrame[];
    expect(keptShares(frames, DEFAULT_RULES, ({ body }) => body!)).toEqual([
      { words: 'A', kept: 1, frames: 2 },
      { words: 'B', kept: 1, frames: 1 },
    ]);
  });

  it('is said while it goes', () => {
    const progress = { name: 'undecided', total: 1200, seen: 1140, kept: 210, rejected: 400 };
    expect(progressWords({ ...progress, perMinute: 30.4, minutesLeft: 1.97 })).toBe(
      '1,140 of 1,200 seen · 60 left · 210 kept · 400 rejected · 30 a minute · about 2 min left',
    );
    expect(progressWords({ ...progress, seen: 1200, perMinute: null, minutesLeft: null })).toBe(
      '1,200 of 1,200 seen · 210 kept · 400 rejected',
    );
  });
});

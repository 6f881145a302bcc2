import { FrameOrder } from '../../data/frameOrder';
import type { LoadedFrame } from '../../data/frames';
import { ChangingValues } from './changingValues';

describe('values that marks bring', () => {
  const frames = [{ keywords: '' }, { keywords: 'pier\nheron' }] as LoadedFrame[];
  const order = new FrameOrder(['a', 'b']);
  const shoot = (version: number, now: readonly LoadedFrame[], changed: readonly number[] | null) => ({
    ...{ order, version, frames: now, changedSince: () => changed },
  });

  it('are in the list once a frame has them, by a look at what was marked alone', () => {
    const values = new ChangingValues('keywords');
    const words = (...args: Parameters<typeof shoot>) =>
      values.of(shoot(...args)).map(({ words: its }) => its);
    expect(words(1, frames, null)).toEqual(['heron', 'pier', 'no keyword']);
    // Only the first was marked: nothing else is looked at.
    const marked = [{ keywords: 'fish' }] as LoadedFrame[];
    expect(words(2, marked, [0])).toEqual(['fish', 'heron', 'pier', 'no keyword']);
    expect(words(3, marked, [])).toEqual(['fish', 'heron', 'pier', 'no keyword']);
    expect(words(4, marked, null)).toEqual(['fish']);
  });
});

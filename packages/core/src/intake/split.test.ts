import { parseExifTime } from '../time/captureTime';
import { splitFrames, type SplitFrame, type SplitRule } from './split';

const at = (key: string, time: string | null): SplitFrame => ({
  key,
  capture: time === null ? null : parseExifTime(`2031:04:${time}`),
});
const EVENING = [
  at('a', '18 18:00:00'),
  at('b', '18 18:40:00'),
  at('clip', null),
  at('c', '18 23:55:00'),
  at('d', '19 01:30:00'),
  at('e', '19 09:00:00'),
];
const keys = (rule: SplitRule, frames = EVENING) =>
  splitFrames(frames, rule, 0, 4).map((part) => part.keys.join(''));

describe('splitting a card', () => {
  it('leaves it whole unless asked', () => expect(keys({ by: 'none' })).toEqual(['abclipcde']));

  it('by day keeps a night together, since a day begins at four', () =>
    expect(keys({ by: 'day' })).toEqual(['abclipcd', 'e']));

  it.each([
    [30, ['a', 'bclip', 'c', 'd', 'e']],
    [40, ['abclip', 'c', 'd', 'e']],
    [95, ['abclip', 'cd', 'e']],
    [600, ['abclipcde']],
  ])('at pauses of more than %i minutes; a pause of just so many is none', (minutes, parts) =>
    expect(keys({ by: 'gap', minutes })).toEqual(parts),
  );

  it('by hand before the frames that are named', () =>
    expect(keys({ by: 'hand', before: ['c', 'e'] })).toEqual(['abclip', 'cd', 'e']));

  it('says of each part its day and its hours', () =>
    expect(splitFrames(EVENING, { by: 'day' }, 0, 4)).toMatchObject([
      { day: '2031-04-18', from: '18:00', to: '01:30' },
      { day: '2031-04-19', from: '09:00', to: '09:00' },
    ]));

  it('goes by corrected times', () => {
    const late = { ...EVENING[1]!, capture: { ...EVENING[1]!.capture!, correctionMillis: 3_600_000 } };
    expect(keys({ by: 'gap', minutes: 60 }, [EVENING[0]!, late])).toEqual(['a', 'b']);
  });

  it('serves frames without any time, and none at all', () => {
    expect(splitFrames([at('x', null)], { by: 'day' }, 0, 4)).toEqual([
      { keys: ['x'], day: null, from: null, to: null },
    ]);
    expect(splitFrames([], { by: 'day' }, 0, 4)).toEqual([]);
  });
});

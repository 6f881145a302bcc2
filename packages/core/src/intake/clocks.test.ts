import { factsFromTags } from '../metadata/facts';
import { orderFrames } from './plan';
import { formatClockShift, MAX_CORRECTION, parseClockShift, withCorrections } from './clocks';
import type { PlanFrame } from './types';

const frame = (key: string, serial: string, local: string | null): PlanFrame => ({
  key,
  base: key,
  files: [],
  facts: {
    ...factsFromTags({}),
    model: 'Ockham',
    serial,
    capture: local ? { local, millis: 0, offsetMinutes: 120, correctionMillis: 0 } : null,
  },
});

describe('clock corrections', () => {
  // Two bodies at one leap: the second one's clock is 207 seconds behind.
  const frames = [
    frame('a1', '1', '2026-10-16T19:47:02'),
    frame('b1', '2', '2026-10-16T19:43:36'),
    frame('a2', '1', '2026-10-16T19:47:04'),
    frame('n', '2', null),
  ];
  const corrected = withCorrections(frames, [{ body: 'Ockham · 2', millis: 207_000 }]);

  it('bring two bodies into one order', () => {
    expect(orderFrames(frames, 0).map((f) => f.key)).toEqual(['b1', 'a1', 'a2', 'n']);
    expect(orderFrames(corrected, 0).map((f) => f.key)).toEqual(['a1', 'b1', 'a2', 'n']);
  });

  it('leave the camera’s own words as they are', () => {
    expect(corrected[1]!.facts.capture).toEqual({
      local: '2026-10-16T19:43:36',
      millis: 0,
      offsetMinutes: 120,
      correctionMillis: 207_000,
    });
    expect(frames[1]!.facts.capture!.correctionMillis).toBe(0);
  });

  it('touch neither other bodies nor frames without a time', () => {
    expect(corrected[0]).toBe(frames[0]);
    expect(corrected[3]).toBe(frames[3]);
  });
});

describe('a typed clock shift', () => {
  it.each([
    ['+0:03:27', 207_000],
    ['3:27', 207_000],
    ['-2:00:00', -7_200_000],
    ['−2:00:00', -7_200_000],
    ['207', 207_000],
    ['0:00:00.5', 500],
    ['1,25', 1250],
    ['0', 0],
    ['100:00:00', 360_000_000],
  ])('%s is read', (text, millis) => expect(parseClockShift(text)).toBe(millis));

  it.each(['', 'x', '3:77', '1:60:00', '::1', '1.2345', `${MAX_CORRECTION}`])('%s is refused', (text) =>
    expect(parseClockShift(text)).toBeNull(),
  );

  it('reads back what is shown', () => {
    for (const millis of [0, 207_000, -207_100, 7_200_001, -1, 86_400_000 * 3])
      expect(parseClockShift(formatClockShift(millis))).toBe(millis);
    expect(formatClockShift(207_100)).toBe('+0:03:27.100');
  });
});

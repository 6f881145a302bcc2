import { finishedKey } from '@arkiv/core';
import { yearsOf } from './YearLine';
import { bytes, duration, many } from '../data/format';
import { lengthOf, placeholderOf, secondsOf } from '../data/frames';
import { cameraClockOf, clockOf, framesOf, NO_FRAME, numberOf, uprightSize } from '../data/frames';
import { including, moved, nearestTick, stripTicks, WHOLE, zoomed } from './stripView';

describe('the time strip', () => {
  const at = (seconds: number) => ({ instant: seconds * 1000, clock: `t${seconds}` });
  it('keeps the order of time, from end to end', () => {
    const ticks = stripTicks([at(0), at(0.2), at(3600), at(3600.5)]);
    expect(ticks[0]!.at).toBe(0);
    expect(ticks.at(-1)!.at).toBe(1);
    expect(ticks.map((t) => t.at)).toEqual([...ticks.map((t) => t.at)].sort((a, b) => a - b));
  });
  it('writes the time after a pause only', () =>
    expect(stripTicks([at(0), at(1), at(100)]).map((t) => t.clock)).toEqual(['t0', null, 't100']));
  it('serves one frame and none', () => {
    expect(stripTicks([at(5)])).toEqual([{ at: 0, clock: 't5' }]);
    expect(stripTicks([])).toEqual([]);
  });
  it('is looked at closer about a place that stays where it is, down to twenty frames', () => {
    const close = zoomed(WHOLE, 0.25, 4, 1000);
    expect(close).toEqual({ from: 0.1875, to: 0.4375 });
    expect((0.25 - close.from) / (close.to - close.from)).toBeCloseTo(0.25);
    const closest = zoomed(close, 0.25, 1e9, 1000);
    expect(closest.to - closest.from).toBeCloseTo(20 / 1000);
    expect(zoomed(closest, 0.25, 1 / 1e9, 1000)).toEqual(WHOLE);
    expect(zoomed(WHOLE, 0.5, 4, 12)).toEqual(WHOLE);
  });
  it('goes along to both ends and no further, and to a frame that is stepped to', () => {
    const view = { from: 0.25, to: 0.5 };
    expect(moved(view, -1)).toEqual({ from: 0, to: 0.25 });
    expect(moved(view, 1)).toEqual({ from: 0.75, to: 1 });
    expect(including(view, 0.4)).toBe(view);
    expect(including(view, 0.75)).toEqual({ from: 0.625, to: 0.875 });
    expect(including(view, 1)).toEqual({ from: 0.75, to: 1 });
  });
  it('gives the frame that stands nearest, the first of several at one place', () => {
    const ticks = [0, 0.4, 0.4, 1].map((at) => ({ at, clock: null }));
    expect([-1, 0.19, 0.21, 0.69, 0.71, 2].map((at) => nearestTick(ticks, at))).toEqual([0, 0, 1, 1, 3, 3]);
    expect(nearestTick([], 0.5)).toBe(-1);
  });
});

describe('frames and figures', () => {
  it('come back from columns', () =>
    expect(framesOf({ count: 2, columns: { id: ['a', 'b'], stars: [2, 1], raw: ['none', 'pair'] } })).toEqual(
      [
        { ...NO_FRAME, id: 'a', stars: 2, raw: 'none' },
        { ...NO_FRAME, id: 'b', stars: 1, raw: 'pair' },
      ],
    ));
  it('show the corrected time, and the camera’s own beside it', () => {
    const [frame] = framesOf({
      count: 1,
      columns: {
        local: ['2031-04-18T19:35:04'],
        millis: [630],
        offsetMinutes: [null],
        correctionMillis: [368_500],
      },
    });
    expect(clockOf(frame!)).toBe('19:41:13.13');
    expect(cameraClockOf(frame!)).toBe('camera’s clock 19:35:04.63');
    expect(cameraClockOf({ ...frame!, correctionMillis: 0 })).toBeNull();
  });
  it.each([
    ['press-night_20261016_0042', '0042'],
    ['holiday', 'holiday'],
  ])('give %s the short number %s', (name, number) => expect(numberOf(name)).toBe(number));
  it('tell bursts apart by hundredths', () =>
    expect(clockOf({ time: '2026-10-16T09:14:07.329' })).toBe('09:14:07.32'));
  it('turn the size with the picture', () =>
    expect(uprightSize({ width: 3, height: 2, orientation: 8, picture: null })).toEqual({
      width: 2,
      height: 3,
    }));
  it('know how much of a finished picture is left', () =>
    expect(
      uprightSize({
        width: 300,
        height: 200,
        orientation: 8,
        picture: finishedKey('a', 'crop=1:1:0.5:0.5:0.5'),
      }),
    ).toEqual({ width: 100, height: 100 }));
  it.each([
    [0, '0 bytes'],
    [999, '999 bytes'],
    [1500, '1.5 kB'],
    [210e6, '210 MB'],
    [1.94e9, '1.9 GB'],
  ])('show %i bytes as %s', (n, text) => expect(bytes(n)).toBe(text));
  it('count one and many', () =>
    expect([many(1, 'file'), many(2, 'file'), many(0, 'file')]).toEqual(['1 file', '2 files', '0 files']));
  it('show time left', () =>
    expect([duration(42), duration(95), duration(7260)]).toEqual(['42 s', '1 min 35 s', '2 h 1 min']));
});

describe('the archive’s time line', () => {
  it('runs from the first year with a shoot to the last, twelve months each, empty ones too', () => {
    const years = yearsOf([
      { month: '2024-03', frames: 10, shoots: 1 },
      { month: '2026-10', frames: 147, shoots: 2 },
    ]);
    expect(years.map((y) => y.year)).toEqual(['2024', '2025', '2026']);
    expect(years.every((y) => y.months.length === 12)).toBe(true);
    expect(years[0]!.months[2]).toEqual({ month: '2024-03', frames: 10, shoots: 1 });
    expect(years[2]!.months[9]).toEqual({ month: '2026-10', frames: 147, shoots: 2 });
    expect(years[1]!.months.every((m) => m.shoots === 0)).toBe(true);
  });

  it('is empty for an empty archive', () => expect(yearsOf([])).toEqual([]));
});

describe('what stands under and in the place of a picture', () => {
  it('is seconds and hundredths, and nothing where there is no time', () => {
    expect(secondsOf({ time: '2031-04-18T20:05:09.250' })).toBe('09.25');
    expect(secondsOf({ time: null })).toBe('');
  });

  it('is what the file is, where it cannot be shown', () => {
    expect(placeholderOf({ role: 'original', format: 'jxl' })).toBe('JPEG XL, no picture');
    expect(placeholderOf({ role: 'clip', format: 'mp4', seconds: 74.6 })).toBe('clip, 1:15');
    expect(placeholderOf({ role: 'clip', format: 'mp4', seconds: null })).toBe('clip');
    expect(lengthOf(9.4)).toBe('0:09');
  });
});

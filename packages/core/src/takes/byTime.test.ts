import { TAKE_GAP, takesByTime, type TimedFrame } from './byTime';

const shot = (id: string, instant: number | null, body: string | null = 'a'): TimedFrame => ({
  id,
  instant,
  body,
});
const ids = (frames: TimedFrame[]) => takesByTime(frames).map((take) => take.ids.join(''));

describe('takes by time', () => {
  it('keep a burst together and part it from the next press', () => {
    expect(ids([shot('a', 0), shot('b', 120), shot('c', 240), shot('d', 9000), shot('e', 9100)])).toEqual([
      'abc',
      'de',
    ]);
  });

  it('reach from frame to frame, not from the first: a long burst stays one take', () => {
    const burst = Array.from({ length: 40 }, (_, i) => shot(`${i}.`, i * 500));
    expect(takesByTime(burst)).toHaveLength(1);
  });

  it('hold frames exactly the gap apart together, and part them one millisecond later', () => {
    expect(ids([shot('a', 0), shot('b', TAKE_GAP)])).toEqual(['ab']);
    expect(ids([shot('a', 0), shot('b', TAKE_GAP + 1)])).toEqual(['a', 'b']);
  });

  it('tell two bodies apart though their frames interleave', () => {
    const frames = [shot('a', 0), shot('x', 50, 'b'), shot('b', 100), shot('y', 150, 'b')];
    expect(ids(frames)).toEqual(['ab', 'xy']);
  });

  it('leave a frame without a time alone, and carry on with the burst around it', () => {
    expect(ids([shot('a', 0), shot('n', null), shot('b', 100)])).toEqual(['ab', 'n']);
  });

  it('are none for no frames', () => {
    expect(takesByTime([])).toEqual([]);
  });

  it('hold every frame exactly once', () => {
    const frames = Array.from({ length: 500 }, (_, i) =>
      shot(String(i), i % 17 === 0 ? null : i * 37 * ((i % 5) + 1), i % 3 === 0 ? 'a' : 'b'),
    );
    const held = takesByTime(frames).flatMap((take) => take.ids);
    expect(held).toHaveLength(500);
    expect(new Set(held).size).toBe(500);
  });
});

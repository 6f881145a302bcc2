import { detailIn } from '@arkiv/core';
import { Following } from './following';
import { ZoomStore } from './zoom';

const moved = { scale: 1.1, angle: 0.05, dx: 12, dy: -8, sureness: 0.5 };
const size = { width: 320, height: 240 };

describe('what stands side by side and is zoomed together', () => {
  it('shows the same detail in each, whichever is looked at, and equal places where that is unsure', () => {
    const following = new Following('a');
    expect(following.follows('b')).toBeNull();
    following.set('b', { similarity: moved, ...size });
    following.set('c', { similarity: { ...moved, sureness: 0.01 }, ...size });
    following.set('d', { similarity: null, ...size });
    expect(['a', 'b', 'c', 'd'].map((id) => following.follows(id))).toEqual([true, true, false, false]);
    const detail = { x: 0.3, y: 0.6 };
    const inB = following.place('a', 'b', detail)!;
    expect(inB).toEqual(detailIn(moved, size, detail));
    const back = following.place('b', 'a', inB)!;
    expect([back.x, back.y].map((share) => Math.round(share * 1e9) / 1e9)).toEqual([0.3, 0.6]);
    expect([following.place('a', 'c', detail), following.place('c', 'b', detail)]).toEqual([null, null]);

    const zoom = new ZoomStore();
    zoom.follow((from, to, at) => following.place(from, to, at));
    zoom.set('a', { scale: 1, ...detail });
    expect(zoom.of('b')).toEqual({ scale: 1, ...inB });
    expect(zoom.of('c')).toEqual({ scale: 1, ...detail });
    // Dragged in another one, the first follows that.
    zoom.set('b', { scale: 2, ...inB });
    expect(zoom.of('a').x).toBeCloseTo(0.3, 9);
    // Each alone, nothing follows; the whole frame has no place.
    zoom.link(false, 'b');
    zoom.set('a', { scale: 1, x: 0.9, y: 0.9 });
    expect(zoom.of('b').scale).toBe(2);
    zoom.link(true, 'a');
    expect(zoom.of('b')).toEqual({ scale: 1, ...following.place('a', 'b', { x: 0.9, y: 0.9 }) });
    zoom.set('a', { scale: null, x: 0.5, y: 0.5 });
    expect(zoom.of('b').scale).toBeNull();
    zoom.set('a', { scale: 1, ...detail });
    zoom.follow(null);
    expect(zoom.of('b')).toEqual({ scale: 1, ...detail });
  });
});

import fc from 'fast-check';
import {
  below,
  dragged,
  fitScale,
  middle,
  notched,
  placed,
  stepped,
  WHOLE,
  zoomedAt,
  ZoomStore,
} from './zoom';

const FRAME = { width: 6000, height: 4000 };
const ROOM = { width: 1200, height: 700 };

describe('a frame at a zoom', () => {
  it('whole is as large as its place allows, in the middle of it', () => {
    expect(placed(FRAME, ROOM, WHOLE, 1)).toEqual({ width: 1050, height: 700, left: 75, top: 0 });
  });

  it('at 100 % has one device pixel for each of its own, on a fine screen too', () => {
    expect(placed(FRAME, ROOM, { scale: 1, x: 0.5, y: 0.5 }, 1)).toMatchObject({ width: 6000, height: 4000 });
    expect(placed(FRAME, ROOM, { scale: 1, x: 0.5, y: 0.5 }, 2)).toMatchObject({ width: 3000, height: 2000 });
  });

  it('is never pushed past its edges', () => {
    expect(placed(FRAME, ROOM, { scale: 1, x: 0, y: 1 }, 1)).toMatchObject({ left: 0, top: 700 - 4000 });
    expect(middle(FRAME, ROOM, { scale: 1, x: 0, y: 1 }, 1)).toEqual({ x: 0.1, y: 1 - 350 / 4000 });
  });

  it('keeps the detail below the hand where it is, whatever is pointed at', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 1200 }),
        fc.integer({ min: 0, max: 700 }),
        fc.constantFrom(1, 2),
        (x, y, ratio) => {
          const at = { x, y };
          const before = below(at, FRAME, ROOM, WHOLE, ratio);
          const close = zoomedAt(1, at, FRAME, ROOM, WHOLE, ratio);
          const after = below(at, FRAME, ROOM, close, ratio);
          // Near an edge the frame's own edge stops it; elsewhere it is the same detail.
          const inside = before.x > 0.2 && before.x < 0.8 && before.y > 0.2 && before.y < 0.8;
          if (inside) {
            expect(after.x).toBeCloseTo(before.x, 6);
            expect(after.y).toBeCloseTo(before.y, 6);
          }
          expect(close.x).toBeGreaterThanOrEqual(0);
          expect(close.x).toBeLessThanOrEqual(1);
        },
      ),
    );
  });

  it('goes by 50, 100 and 200 % of real pixels, and back to the whole', () => {
    const at = (scale: number | null) => ({ ...WHOLE, scale });
    expect([null, 0.5, 1, 2].map((scale) => stepped(true, FRAME, ROOM, at(scale), 1))).toEqual([
      0.5, 1, 2, 2,
    ]);
    expect([2, 1, 0.5, null].map((scale) => stepped(false, FRAME, ROOM, at(scale), 1))).toEqual([
      1,
      0.5,
      null,
      null,
    ]);
    // What is smaller than its place is never shown smaller than that.
    expect(stepped(true, { width: 900, height: 600 }, ROOM, WHOLE, 1)).toBe(2);
  });

  it('is whole again when the wheel goes further than that', () => {
    const fit = fitScale(FRAME, ROOM, 1);
    expect(notched(false, FRAME, ROOM, { ...WHOLE, scale: fit * 1.1 }, 1)).toBeNull();
    expect(notched(true, FRAME, ROOM, WHOLE, 1)).toBeCloseTo(fit * 1.25);
    expect(notched(true, FRAME, ROOM, { ...WHOLE, scale: 8 }, 1)).toBe(8);
  });

  it('moves with the hand', () => {
    const close = { scale: 1, x: 0.5, y: 0.5 };
    expect(dragged({ x: 60, y: -40 }, FRAME, ROOM, close, 1)).toEqual({ scale: 1, x: 0.49, y: 0.51 });
    expect(dragged({ x: 60, y: 0 }, FRAME, ROOM, WHOLE, 1)).toBe(WHOLE);
  });
});

describe('pictures beside each other', () => {
  it('are zoomed together, each alone when they are looked at apart, and together again as the current one', () => {
    const store = new ZoomStore();
    const close = { scale: 1, x: 0.2, y: 0.3 };
    store.set('a', close);
    expect(store.of('b')).toEqual(close);
    store.link(false, 'a');
    store.set('b', { scale: 2, x: 0.9, y: 0.9 });
    expect([store.of('a'), store.of('b').scale]).toEqual([close, 2]);
    store.link(true, 'b');
    expect(store.of('a')).toEqual({ scale: 2, x: 0.9, y: 0.9 });
  });
});

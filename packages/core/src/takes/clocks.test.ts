import { lookOf } from '../vision/look';
import { chance, shot, world } from '../vision/scenes.testing';
import { clockBetween, momentsOf, type Moment } from './clocks';

/** Nine things that happened, each as two people saw it: one closer and darker than the other, and from beside. */
const SEEN = Array.from({ length: 9 }, (_, i) => {
  const boxes = world(500 + 7 * i);
  return [
    lookOf(shot(boxes, { seed: i + 1, grain: 4 })),
    lookOf(shot(boxes, { scale: 1.18, gain: 0.8, x: 20, y: -12, angle: 0.03, seed: i + 50, grain: 6 })),
  ] as const;
});
const HOUR = 3_600_000;

/** When they happened, milliseconds: no two gaps are alike. */
const random = chance(31);
const WHEN = SEEN.map(() => 0);
for (let i = 1; i < WHEN.length; i++) WHEN[i] = WHEN[i - 1]! + 9000 + random() ** 2 * 200_000;

/** What a body took of it, by its own clock; `late`: how much later than it happened the finger pressed. */
const body = (which: 0 | 1, clock: number, late: (i: number) => number): Moment[] =>
  WHEN.map((at, i) => ({ at: at + clock + late(i), id: `${which}-${i}`, look: SEEN[i]![which] }));

describe('the clock of a second body', () => {
  const finger = (seed: number) => {
    const pressed = chance(seed);
    const all = WHEN.map(() => (pressed() - 0.5) * 1200);
    return (i: number) => all[i]!;
  };
  const first = body(0, 9 * HOUR, finger(3));

  it('is off by what both saw at the same time, however much that is', () => {
    for (const off of [207_400, -3 * HOUR]) {
      const found = clockBetween(first, body(1, 9 * HOUR - off, finger(8)))!;
      expect(Math.abs(found.millis - off)).toBeLessThan(1000);
      expect(found.agree).toBeGreaterThanOrEqual(8);
      for (const [a, b] of found.pairs) expect(a.slice(2)).toBe(b.slice(2));
    }
  });

  it('is found though each missed a third of it, and pressed at other times as well', () => {
    const own = first.filter((_, i) => i % 4 !== 1);
    const others = body(1, 9 * HOUR - 207_400, finger(5)).filter((_, i) => i % 5 !== 2);
    const elsewhere = Array.from({ length: 4 }, (_, i) => ({
      ...{ at: others[0]!.at + 31_700 * i, id: `other-${i}`, look: lookOf(shot(world(900 + i))) },
    }));
    const all = [...others, ...elsewhere].sort((a, b) => a.at - b.at);
    const found = clockBetween(own, all)!;
    expect(Math.abs(found.millis - 207_400)).toBeLessThan(1000);
    expect(found.pairs.flat().some((id) => id.startsWith('other'))).toBe(false);
  });

  it('is not known where they saw the same things at other times', () => {
    const again = chance(77);
    let at = 9 * HOUR;
    const others = body(1, 0, () => 0).map((moment) => ({
      ...moment,
      at: (at += 9000 + again() ** 2 * 200_000),
    }));
    expect(clockBetween(first, others)).toBeNull();
  });

  it('is not known where they saw other things at the same times, or too little together', () => {
    const off = body(1, 9 * HOUR - 207_400, finger(8));
    // Each shows what happened four moments later.
    const other = off.map((moment, i) => ({ ...moment, look: off[(i + 4) % off.length]!.look }));
    expect(clockBetween(first, other)).toBeNull();
    expect(clockBetween(first, off.slice(0, 2))).toBeNull();
    expect(
      clockBetween(
        first,
        off.map((moment) => ({ ...moment, look: null })),
      ),
    ).toBeNull();
    expect(clockBetween([], off)).toBeNull();
  });
});

describe('moments', () => {
  it('are what was taken without a pause, and stand for it by the frame in the middle', () => {
    const frames = [0, 200, 400, 5000, 9000, 9900, 11_300].map((instant) => ({ id: `${instant}`, instant }));
    expect(momentsOf(frames)).toEqual([
      { at: 0, id: '200' },
      { at: 5000, id: '5000' },
      { at: 9000, id: '9900' },
    ]);
    expect(momentsOf([])).toEqual([]);
  });
});

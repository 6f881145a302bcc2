import fc from 'fast-check';
import { activeAfter, paceOf, placesOfText, placesText } from './pass';

describe('a pass', () => {
  it('counts time at work, and no pauses', () => {
    let [active, last] = [0, null as number | null];
    for (const now of [1000, 3000, 33_000, 33_000 + 20 * 60_000, 33_000 + 20 * 60_000 + 500]) {
      active = activeAfter(active, last, now);
      last = now;
    }
    expect(active).toBe(32_500);
    // A clock that was put back takes nothing away.
    expect(activeAfter(active, last, 0)).toBe(32_500);
  });

  it('says its pace when there is one to say', () => {
    expect(paceOf({ total: 100, seen: 9, activeMillis: 9000 })).toEqual({
      perMinute: null,
      minutesLeft: null,
    });
    expect(paceOf({ total: 120, seen: 30, activeMillis: 60_000 })).toEqual({ perMinute: 30, minutesLeft: 3 });
    expect(paceOf({ total: 30, seen: 30, activeMillis: 60_000 }).minutesLeft).toBe(0);
  });

  it('keeps places as a text that reads back', () => {
    expect(placesText([3, 1, 2, 7, 7])).toBe('1-3,7');
    expect([...placesOfText('1-3,x,7,9-2,', 7)]).toEqual([1, 2, 3]);
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 400 })), (places) => {
        expect(placesOfText(placesText(places), 401)).toEqual(new Set(places));
      }),
    );
  });
});

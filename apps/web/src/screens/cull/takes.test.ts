import type { LoadedFrame } from '../../data/frames';
import { OfOrder } from '../../data/ofOrder';
import { madeShoot, marked, ordered } from '../../testing/madeShoot';
import { EVERYTHING } from '@arkiv/core';
import { Showing } from './shown';
import { Takes } from './takes';

const frame = (id: string) =>
  ({ id, verdict: 'undecided', stars: 0, label: null, note: null, piles: '' }) as LoadedFrame;
const shownOf = (ids: readonly string[]) => new Showing().of(madeShoot(ids.map(frame)), EVERYTHING, []);

describe('takes', () => {
  // a b | c d e | x, of two bodies whose frames interleave: c x d e
  const shown = shownOf(['a', 'b', 'c', 'x', 'd', 'e']);
  const takes = new Takes([{ ids: ['a', 'b'] }, { ids: ['c', 'd', 'e'] }, { ids: ['x'] }]);

  it('are stepped through by their first shown frames', () => {
    expect(takes.step(shown, 0, 1)).toBe(2);
    expect(takes.step(shown, 2, 1)).toBe(3);
    expect(takes.step(shown, 3, 1)).toBe(5);
  });

  it('are gone back to by their own first frame, and from there by the one before', () => {
    expect(takes.step(shown, 5, -1)).toBe(2);
    expect(takes.step(shown, 2, -1)).toBe(0);
    expect(takes.step(shown, 0, -1)).toBe(0);
  });

  it('whose first frame is hidden are entered at the first that is shown', () => {
    expect(takes.step(shownOf(['a', 'd', 'e']), 0, 1)).toBe(1);
  });

  it('lie on one strip where they stand side by side; a frame alone lies on none', () => {
    const places = (of: ReturnType<typeof shownOf>) =>
      Array.from({ length: of.length }, (_, i) => takes.placeOf(of, i));
    expect(places(shown)).toEqual(['first', 'last', null, null, 'first', 'last']);
    expect(places(shownOf(['c', 'd', 'e']))).toEqual(['first', 'middle', 'last']);
    expect(places(shownOf(['zz']))).toEqual([null]);
  });

  it('give all frames of one, and a frame of none alone', () => {
    expect(takes.idsWith('d')).toEqual(['c', 'd', 'e']);
    expect(takes.idsWith('zz')).toEqual(['zz']);
  });
});

describe('what is made of the order of frames', () => {
  it('is made again when frames come, and not when they are marked', () => {
    const kept = new OfOrder<number>();
    const made = jest.fn((frames: readonly LoadedFrame[]) => frames.length);
    const shoot = madeShoot(['a', 'b'].map(frame));
    expect(kept.of(shoot, made)).toBe(2);
    expect(kept.of(marked(shoot, { a: { stars: 3 } }), made)).toBe(2);
    expect(made).toHaveBeenCalledTimes(1);
    expect(kept.of(ordered(shoot, ['a', 'b', 'c'].map(frame)), made)).toBe(3);
  });
});

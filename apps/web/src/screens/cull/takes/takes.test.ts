import type { LoadedFrame } from '../../../data/frames';
import { OfOrder } from '../../../data/ofOrder';
import { madeShoot, marked, ordered } from '../../../testing/madeShoot';
import { BY_TIME, EVERYTHING, type Take } from '@arkiv/core';
import { Showing } from '../shown';
import { Grouping, stripRows, Takes } from './takes';

const frame = (id: string) =>
  ({ id, verdict: 'undecided', stars: 0, label: null, note: null, piles: '' }) as LoadedFrame;
const take = (...ids: string[]): Take => ({
  ...{ key: ids[0]!, ids, lead: ids[0]!, corrected: false },
  kind: ids.length > 1 ? 'burst' : null,
});
const shownOf = (ids: readonly string[]) => new Showing().of(madeShoot(ids.map(frame)), EVERYTHING, []);

describe('takes', () => {
  // a b | c d e | x, of two bodies whose frames interleave: c x d e
  const shown = shownOf(['a', 'b', 'c', 'x', 'd', 'e']);
  const takes = new Takes([take('a', 'b'), take('c', 'd', 'e'), take('x')]);

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

describe('the takes of a shoot', () => {
  const shot = (id: string, at: number, more: Partial<LoadedFrame> = {}) =>
    ({
      ...frame(id),
      instant: at * 1000,
      serial: 'one',
      body: null,
      close: null,
      take: null,
      ...more,
    }) as LoadedFrame;
  const shots = [shot('a', 0), shot('b', 0.2), shot('c', 9), shot('d', 9.2)];

  it('stay through marks, and are made anew by what is found or said of them', () => {
    const kept = new Grouping();
    const shoot = madeShoot(shots);
    const first = kept.of(shoot, 0);
    const kept4 = marked(shoot, { a: { stars: 4 } });
    expect(kept.of(kept4, 0)).toBe(first);
    const cut = marked(kept4, { b: { take: 'cut' } });
    expect(kept.of(cut, 0).length).toBe(3);
    const close = marked(cut, { c: { close: 9 } });
    expect(kept.of(close, 0).idsWith('c')).toEqual(['b', 'c', 'd']);
  });

  it('are made anew by how strictly they are to be grouped', () => {
    const kept = new Grouping();
    const shoot = madeShoot([shot('a', 0), shot('b', 3, { close: -2 })]);
    expect([kept.of(shoot, -1).length, kept.of(shoot, 1).length]).toEqual([1, 2]);
  });

  it('of two bodies stand whole in the order of time, and folded one frame stands for each', () => {
    const mixed = [
      shot('a', 0),
      shot('x', 0.1, { serial: 'two' }),
      shot('b', 0.2),
      shot('y', 0.3, { serial: 'two' }),
    ];
    const shoot = madeShoot(mixed);
    const takes = new Grouping().of(shoot, 0);
    const shown = new Showing().of(shoot, EVERYTHING, [], BY_TIME, null, takes.rows);
    expect(shown.slice()).toEqual(['a', 'b', 'x', 'y']);
    expect(shown.folded(takes).slice()).toEqual(['a', 'x']);
    expect([shown.indexOf('x'), shown.folded(takes).indexOf('x'), shown.folded(takes).indexOf('b')]).toEqual([
      2, 1, -1,
    ]);
  });

  it('of two bodies have a lane each on the strip, and of more than three the last is shared', () => {
    const serials = ['one', 'two', 'one', 'three', 'four'];
    const frames = serials.map((serial, i) => shot('abcde'[i]!, i * 0.1, { serial }));
    const rows = stripRows(frames, new Grouping().of(madeShoot(frames), 0));
    expect(rows.lanes).toBe(3);
    expect([0, 1, 2, 3, 4].map(rows.laneOf)).toEqual([0, 1, 0, 2, 2]);
    expect(rows.takeOf(0)).toBe(rows.takeOf(2));
    expect(new Set([1, 0, 3, 4].map(rows.takeOf)).size).toBe(4);
  });

  it('of which nothing is kept are counted among what is shown', () => {
    const shoot = madeShoot(shots);
    const takes = new Grouping().of(shoot, 0);
    const all = new Showing().of(shoot, EVERYTHING, []);
    expect(takes.withoutKeeper(all, (id) => id === 'b')).toBe(1);
    expect(takes.withoutKeeper({ has: (id) => id < 'c' }, () => false)).toBe(1);
  });

  it('of two bodies at one moment are one where that is wanted', () => {
    const mixed = [shot('a', 0), shot('x', 0.1, { serial: 'two' }), shot('b', 0.2)];
    const shoot = madeShoot(mixed);
    const kept = new Grouping();
    expect([kept.of(shoot, 0).length, kept.of(shoot, 0, true).length]).toEqual([2, 1]);
  });

  it('have their lead stand for them, or the first that the filter lets through', () => {
    const shoot = madeShoot([
      shot('a', 0, { stars: 1 }),
      shot('b', 0.2, { take: 'lead' }),
      shot('c', 0.4, { stars: 1 }),
    ]);
    const takes = new Grouping().of(shoot, 0);
    const all = new Showing().of(shoot, EVERYTHING, []);
    expect(all.folded(takes).slice()).toEqual(['b']);
    const starred = new Showing().of(shoot, { field: 'stars', atLeast: 1 }, []);
    expect(starred.folded(takes).slice()).toEqual(['a']);
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

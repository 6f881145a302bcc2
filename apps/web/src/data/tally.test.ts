import { UNMARKED } from '@arkiv/core';
import { madeShoot, marked, ordered } from '../testing/madeShoot';
import type { LoadedFrame } from './frames';
import { OverMarks } from './overMarks';
import { Tally, tallyKey, type Counts, type KeysOf } from './tally';

const frame = (id: string, stars = 0) =>
  ({
    id,
    ...UNMARKED,
    stars,
  }) as LoadedFrame;
const byStars: KeysOf = ({ stars }) =>
  stars > 0 ? [[tallyKey('stars', stars)], [tallyKey('stars', 'any')]] : [];
const counted = (counts: Counts) => [1, 2, 'any'].map((value) => counts.of('stars', value));

describe('counts over a shoot', () => {
  it('follow marks by looking at the marked frames alone', () => {
    const keysOf = jest.fn(byStars);
    const tally = new Tally();
    let shoot = madeShoot([frame('a', 1), frame('b', 2), frame('c')]);
    expect(counted(tally.of(shoot, keysOf))).toEqual([1, 1, 2]);
    expect(keysOf).toHaveBeenCalledTimes(3);
    shoot = marked(shoot, { c: { stars: 2 } });
    shoot = marked(shoot, { a: { stars: 0 } });
    const counts = tally.of(shoot, keysOf);
    expect(counted(counts)).toEqual([0, 2, 2]);
    expect(keysOf).toHaveBeenCalledTimes(5);
    expect(tally.of(shoot, keysOf)).toBe(counts);
  });

  it('are made anew when frames come, and for another question', () => {
    const tally = new Tally();
    const shoot = madeShoot([frame('a', 1)]);
    tally.of(shoot, byStars);
    const more = ordered(shoot, [frame('a', 1), frame('b', 1)]);
    expect(tally.of(more, byStars).of('stars', 'any')).toBe(2);
    const all = tally.of(more, () => [[tallyKey('all', null)]]);
    expect([all.of('all', null), all.of('stars', 'any')]).toEqual([2, 0]);
  });
});

describe('marks that lie over the server’s', () => {
  const operation = (id: string, subject: string, to: number) =>
    ({ id, subject, kind: 'stars', from: 0, to }) as never;

  it('are given by frame, in the order made, until they are taken away', () => {
    const over = new OverMarks();
    const kept = { ...UNMARKED, verdict: 'keep' as const };
    over.add(operation('1', 'a', 2));
    over.add(operation('2', 'b', 5));
    over.add(operation('3', 'a', 4));
    expect(over.of('a').map(({ id }) => id)).toEqual(['1', '3']);
    expect(over.over('a', kept)).toEqual({ ...kept, stars: 4 });
    expect(over.delete('3')).toBe(true);
    expect(over.delete('3')).toBe(false);
    expect(over.over('a', kept).stars).toBe(2);
    expect([over.has('1'), over.has('3'), over.ids]).toEqual([true, false, ['1', '2']]);
    expect(over.all).toHaveLength(2);
  });
});

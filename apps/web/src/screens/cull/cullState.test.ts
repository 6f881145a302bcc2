import { matches } from '@arkiv/core';
import type { LoadedFrame } from '../../data/frames';
import { NO_FILTER, toFilter } from './cullFilter';
import { reduceCull, CELLS, START, type CullState } from './cullState';

const frame = (id: string, change: Partial<LoadedFrame> = {}): LoadedFrame =>
  ({ id, verdict: 'undecided', stars: 0, label: null, instant: 0, ...change }) as LoadedFrame;
const frames = ['a', 'b', 'c', 'd', 'e'].map((id, i) =>
  frame(id, { stars: i, instant: i < 3 ? i * 100 : 60_000 + i * 100 }),
);
const visible = frames.map((f) => f.id);

describe('the filter of Cull', () => {
  it('lets everything through when nothing is chosen', () =>
    expect(frames.every((f) => matches(toFilter(NO_FILTER), f))).toBe(true));
});

describe('choosing frames', () => {
  const pick = (state: CullState, id: string, how: 'only' | 'toggle' | 'range') =>
    reduceCull(state, { type: 'pick', id, how, visible });

  it('takes a range from the anchor, in either direction', () => {
    const start = pick(START, 'c', 'only');
    expect(pick(start, 'e', 'range').selection).toEqual(['c', 'd', 'e']);
    expect(pick(pick(start, 'e', 'range'), 'a', 'range').selection).toEqual(['a', 'b', 'c']);
  });

  it('adds and takes out single frames, beginning with the current one', () => {
    const two = pick(pick(START, 'a', 'only'), 'c', 'toggle');
    expect(two.selection).toEqual(['a', 'c']);
    expect(pick(two, 'a', 'toggle').selection).toEqual(['c']);
  });

  it('is over with the next plain step', () =>
    expect(reduceCull({ ...START, selection: ['a', 'b'] }, { type: 'go', id: 'c' }).selection).toEqual([]));
});

describe('the size of thumbnails', () => {
  const size = (cell: number, by: 1 | -1) => reduceCull({ ...START, cell }, { type: 'size', by }).cell;

  it('goes by steps, from any size that the slider left', () => {
    expect([size(220, 1), size(220, -1), size(250, 1), size(250, -1)]).toEqual([290, 170, 290, 220]);
  });

  it('stops at both ends', () => {
    expect([size(CELLS[0], -1), size(CELLS.at(-1)!, 1)]).toEqual([CELLS[0], CELLS.at(-1)]);
    expect(reduceCull(START, { type: 'cell', cell: 9999 }).cell).toBe(CELLS.at(-1));
  });
});

describe('walking', () => {
  it('moves on without giving up the selection, and space adds to it', () => {
    const visible = ['a', 'b', 'c'];
    const start = { ...START, current: 'a', anchor: 'a' };
    const walked = reduceCull(start, { type: 'walk', id: 'c' });
    expect(walked).toMatchObject({ current: 'c', selection: ['a'] });
    expect(reduceCull(walked, { type: 'pick', id: 'c', how: 'toggle', visible }).selection).toEqual([
      'a',
      'c',
    ]);
    const again = reduceCull(walked, { type: 'walk', id: 'b' });
    expect(again.selection).toEqual(['a']);
  });
});

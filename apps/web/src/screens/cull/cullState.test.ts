import { matches } from '@arkiv/core';
import type { LoadedFrame } from '../../data/frames';
import { NO_FILTER, toFilter } from './cullFilter';
import { CELLS, layoutOf, reduceCull, START, type CullState } from './cullState';

const frame = (id: string, change: Partial<LoadedFrame> = {}): LoadedFrame =>
  ({
    id,
    verdict: 'undecided',
    stars: 0,
    label: null,
    note: null,
    piles: '',
    albums: '',
    ...{ caption: null, keywords: '', persons: '', texts: '', finish: '' },
    instant: 0,
    ...change,
  }) as LoadedFrame;
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
    // By a link one stands at a frame that nobody has gone to.
    const linked = { ...start, anchor: null };
    expect(pick(pick(linked, 'd', 'range'), 'e', 'range').selection).toEqual(['c', 'd', 'e']);
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

describe('side by side', () => {
  const side = reduceCull(
    { ...START, current: 'a', selection: ['a', 'b', 'c'] },
    { type: 'side', panes: ['a', 'b', 'c'], current: 'b' },
  );

  it('goes between its frames, and puts any other in the place of the current one', () => {
    expect(side).toMatchObject({ view: 'side', current: 'b', selection: [] });
    expect(reduceCull(side, { type: 'go', id: 'c' }).panes).toEqual(['a', 'b', 'c']);
    expect(reduceCull(side, { type: 'go', id: 'e' })).toMatchObject({ current: 'e', panes: ['a', 'e', 'c'] });
  });

  it('drops a frame, and is the single view when one is left', () => {
    const two = reduceCull(side, { type: 'drop' });
    expect(two).toMatchObject({ view: 'side', panes: ['a', 'c'], current: 'c' });
    expect(reduceCull(two, { type: 'drop' })).toMatchObject({ view: 'single', current: 'a' });
  });
});

describe('Escape', () => {
  it('leaves one thing at a time, what lies over the pictures first', () => {
    let state: CullState = {
      ...START,
      ...{ view: 'run', jump: true, alone: true, drawer: true, current: 'a', selection: ['a', 'b'] },
    };
    const left: string[] = [];
    for (let i = 0; i < 5; i++) {
      const next = reduceCull(state, { type: 'leave' });
      left.push(
        (['jump', 'alone', 'drawer', 'view', 'selection'] as const).filter(
          (key) => next[key] !== state[key],
        )[0]!,
      );
      state = next;
    }
    expect(left).toEqual(['jump', 'alone', 'drawer', 'view', 'selection']);
  });
});

describe('what is drawn over the sheet', () => {
  it('is selected instead of what was, or besides it', () => {
    const before = { ...START, current: 'a', selection: ['a', 'b'] };
    expect(reduceCull(before, { type: 'lasso', ids: ['c', 'd'], add: false })).toMatchObject({
      ...{ view: 'sheet', current: 'd', selection: ['c', 'd'] },
    });
    expect(reduceCull(before, { type: 'lasso', ids: ['b', 'c'], add: true }).selection).toEqual([
      'a',
      'b',
      'c',
    ]);
  });
});

describe('a layout that is kept', () => {
  it('brings back how Cull looked, and leaves where one stands', () => {
    const kept = layoutOf({ ...START, view: 'sheet', cell: 380, drawer: true, facts: 'full' });
    const now = { ...START, current: 'c', view: 'side' as const, panes: ['c', 'd'], alone: true };
    expect(reduceCull(now, { type: 'layout', layout: kept })).toMatchObject({
      ...{ view: 'sheet', cell: 380, drawer: true, facts: 'full', current: 'c', alone: false },
    });
    // One of an earlier version, which knew less.
    expect(reduceCull(now, { type: 'layout', layout: { view: 'sheet' } }).cell).toBe(START.cell);
  });

  it('goes by paces from a riffle to a slow look in the run-through', () => {
    let state: CullState = START;
    for (let i = 0; i < 9; i++) state = reduceCull(state, { type: 'pace', by: -1 });
    expect(state.run.seconds).toBe(0.5);
    expect(reduceCull(state, { type: 'pace', by: 1 }).run.seconds).toBe(1);
  });
});

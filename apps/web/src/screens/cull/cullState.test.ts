import { matches } from '@arkiv/core';
import type { LoadedFrame } from '../../data/frames';
import {
  nearest,
  NO_FILTER,
  reduceCull,
  takePlaces,
  takeStep,
  CELLS,
  START,
  toFilter,
  visibleFrames,
  type CullState,
} from './cullState';
import { detailOf } from './SingleView';

const frame = (id: string, change: Partial<LoadedFrame> = {}): LoadedFrame =>
  ({ id, verdict: 'undecided', stars: 0, label: null, instant: 0, ...change }) as LoadedFrame;
const frames = ['a', 'b', 'c', 'd', 'e'].map((id, i) =>
  frame(id, { stars: i, instant: i < 3 ? i * 100 : 60_000 + i * 100 }),
);
const visible = frames.map((f) => f.id);

describe('the filter of Cull', () => {
  it('lets everything through when nothing is chosen', () =>
    expect(frames.every((f) => matches(toFilter(NO_FILTER), f))).toBe(true));

  it.each([
    ['atLeast', ['d', 'e']],
    ['is', ['d']],
    ['atMost', ['a', 'b', 'c', 'd']],
  ] as const)('by stars (%s 3) shows %j', (kind, ids) => {
    const filter = toFilter({ verdicts: [], stars: { kind, n: 3 } });
    expect(visibleFrames(frames, filter, []).map((f) => f.id)).toEqual(ids);
  });

  it('finds a frame by its name or by the one its camera gave, in any case', () => {
    const named = [
      frame('a', { name: 'regatta_0001', original: 'OCK_9968' }),
      frame('b', { name: 'regatta_9968', original: 'OCK_0002' }),
      frame('c', { name: 'regatta_0003', original: 'OCK_0003' }),
    ];
    const found = (text: string) =>
      visibleFrames(named, toFilter({ ...NO_FILTER, text }), []).map((f) => f.id);
    expect(found('9968')).toEqual(['a', 'b']);
    expect(found(' ock_00 ')).toEqual(['b', 'c']);
    expect(found('')).toEqual(['a', 'b', 'c']);
  });

  it('holds a frame that a mark made leave, until the next step', () => {
    const filter = toFilter({ verdicts: [], stars: { kind: 'atLeast', n: 3 } });
    expect(visibleFrames(frames, filter, ['b']).map((f) => f.id)).toEqual(['b', 'd', 'e']);
    const held = reduceCull({ ...START, current: 'b' }, { type: 'marked', held: ['b'] });
    expect(held.held).toEqual(['b']);
    expect(reduceCull(held, { type: 'go', id: 'd' }).held).toEqual([]);
  });

  it('stands at the nearest frame when the current one is hidden', () => {
    expect(nearest(frames, [frames[0]!, frames[3]!], 'b')).toBe('d');
    expect(nearest(frames, [frames[0]!], 'e')).toBe('a');
    expect(nearest(frames, [], 'e')).toBeNull();
    expect(nearest(frames, frames, null)).toBe('a');
  });
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

describe('takes', () => {
  // a b | c d e | x, of two bodies whose frames interleave: c x d e
  const shown = ['a', 'b', 'c', 'x', 'd', 'e'];
  const takeOf = new Map([...'ab'].map((id) => [id, 0] as [string, number]));
  for (const id of 'cde') takeOf.set(id, 1);
  takeOf.set('x', 2);

  it('are stepped through by their first shown frames', () => {
    expect(takeStep(shown, takeOf, 0, 1)).toBe(2);
    expect(takeStep(shown, takeOf, 2, 1)).toBe(3);
    expect(takeStep(shown, takeOf, 3, 1)).toBe(5);
  });

  it('are gone back to by their own first frame, and from there by the one before', () => {
    expect(takeStep(shown, takeOf, 5, -1)).toBe(2);
    expect(takeStep(shown, takeOf, 2, -1)).toBe(0);
    expect(takeStep(shown, takeOf, 0, -1)).toBe(0);
  });

  it('whose first frame is hidden are entered at the first that is shown', () => {
    expect(takeStep(['a', 'd', 'e'], takeOf, 0, 1)).toBe(1);
  });

  it('lie on one strip where they stand side by side; a frame alone lies on none', () => {
    expect(takePlaces(shown, takeOf)).toEqual(['first', 'last', null, null, 'first', 'last']);
    expect(takePlaces(['c', 'd', 'e'], takeOf)).toEqual(['first', 'middle', 'last']);
    expect(takePlaces(['zz'], takeOf)).toEqual([null]);
  });
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

describe('the sign of detail', () => {
  it('is full when the picture has a pixel for each of the screen’s', () => {
    expect(detailOf(2560, 6000, 1200, false).full).toBe(true);
    expect(detailOf(600, 600, 1200, false).full).toBe(true);
  });

  it('names the pixels when it has fewer', () =>
    expect(detailOf(1620, 6000, 2400, true)).toEqual({
      words: '1620 of 2400 px, loading full detail',
      full: false,
    }));
});

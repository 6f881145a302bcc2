import { renderHook } from '@testing-library/react';
import { newestOf, useFollowNewest } from './useFollowNewest';

const frames = (...ids: number[]) => ids.map((id) => ({ id: `01M8H4${id}` }));
const shownOf = (all: ReturnType<typeof frames>) => ({
  length: all.length,
  frame: (i: number) => all[i],
  version: all,
});

describe('The newest frame', () => {
  it('is the one that came last, wherever it stands', () => {
    const newest = (...ids: number[]) => newestOf(ids.length, (i) => frames(...ids)[i]);
    expect(newest(1, 5, 3)).toBe('01M8H45');
    expect(newest()).toBeNull();
  });
});

describe('Following it', () => {
  const follow = () => {
    const went: string[] = [];
    const dispatch = (action: { type: string; id?: string }) => void went.push(action.id!.slice(-1));
    const view = renderHook(
      ({ on, all, at }: { on: boolean; all: ReturnType<typeof frames>; at: number }) =>
        useFollowNewest(on, shownOf(all), `01M8H4${at}`, dispatch as never),
      { initialProps: { on: false, all: frames(1, 2), at: 1 } },
    );
    return { went, ...view };
  };

  it('goes there at once, and on to each that comes', () => {
    const { went, rerender } = follow();
    expect(went).toEqual([]);
    rerender({ on: true, all: frames(1, 2), at: 1 });
    expect(went).toEqual(['2']);
    rerender({ on: true, all: frames(1, 3, 2), at: 2 });
    expect(went).toEqual(['2', '3']);
  });

  it('leaves whoever has gone to another frame there, and goes on from the newest', () => {
    const { went, rerender, result } = follow();
    rerender({ on: true, all: frames(1, 2), at: 2 });
    rerender({ on: true, all: frames(1, 2), at: 1 });
    rerender({ on: true, all: frames(1, 2, 3), at: 1 });
    expect([went, result.current]).toEqual([[], '01M8H43']);
    rerender({ on: true, all: frames(1, 2, 3), at: 3 });
    rerender({ on: true, all: frames(1, 2, 3, 4), at: 3 });
    expect(went).toEqual(['4']);
  });

  it('goes nowhere when frames go, or when it is not wanted any more', () => {
    const { went, rerender } = follow();
    rerender({ on: true, all: frames(1, 2, 3), at: 3 });
    rerender({ on: true, all: frames(2, 3), at: 3 });
    rerender({ on: false, all: frames(2, 3, 4), at: 3 });
    expect(went).toEqual([]);
  });
});

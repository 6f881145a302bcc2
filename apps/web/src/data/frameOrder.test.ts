import fc from 'fast-check';
import { before, FrameOrder, withArrived } from './frameOrder';
import type { LoadedFrame } from './frames';

const frame = (id: string, instant: number | null, name = id) => ({ id, instant, name }) as LoadedFrame;

describe('frames that arrive', () => {
  it('take their place in the order of time, those without one last, then by name', () => {
    const here = [frame('a', 10), frame('c', 30), frame('z', null)];
    const came = [frame('y', null), frame('b', 20), frame('d', 30)];
    const merged = withArrived(here, new Set(['y', 'b', 'd']), came);
    expect(merged.map(({ id }) => id)).toEqual(['a', 'b', 'c', 'd', 'y', 'z']);
  });

  it('replace what was known of them, and those that did not come are gone', () => {
    const here = [frame('a', 10), frame('b', 20), frame('c', 30)];
    const merged = withArrived(here, new Set(['a', 'b']), [frame('a', 25)]);
    expect(merged.map(({ id, instant }) => [id, instant])).toEqual([
      ['a', 25],
      ['c', 30],
    ]);
  });

  it('in any parts end as if all had been loaded at once', () => {
    const made = fc.uniqueArray(
      fc.tuple(fc.string({ minLength: 1, unit: 'grapheme-ascii' }), fc.option(fc.nat(20))),
      {
        selector: ([id]) => id,
      },
    );
    fc.assert(
      fc.property(made, fc.nat(), (all, cut) => {
        const frames = all.map(([id, instant]) => frame(id, instant));
        const sorted = [...frames].sort((a, b) => (before(a, b) ? -1 : 1));
        const at = frames.length === 0 ? 0 : cut % frames.length;
        const first = frames.slice(0, at).sort((a, b) => (before(a, b) ? -1 : 1));
        const rest = frames.slice(at);
        expect(withArrived(first, new Set(rest.map(({ id }) => id)), rest)).toEqual(sorted);
      }),
    );
  });

  it('have a place that is found by id', () => {
    const order = new FrameOrder(['b', 'a']);
    expect([order.placeOf('a'), order.placeOf('x'), order.has('b'), order.length]).toEqual([1, -1, true, 2]);
  });
});

import fc from 'fast-check';
import { EVERYTHING, matches, type Filter } from '@arkiv/core';
import type { LoadedFrame } from '../../data/frames';
import type { ShootState } from '../../data/shootStore';
import { madeShoot, marked, ordered } from '../../testing/madeShoot';
import { NO_FILTER, toFilter } from './cullFilter';
import { reduceCull, START } from './cullState';
import { Showing } from './shown';

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
    sharpness: null,
    measures: null,
    advice: '',
    instant: 0,
    name: id,
    ...change,
  }) as LoadedFrame;
const frames = ['a', 'b', 'c', 'd', 'e'].map((id, i) => frame(id, { stars: i }));
const shoot = madeShoot(frames);
const show = (filter: Filter, held: string[] = [], of = shoot) => new Showing().of(of, filter, held);

describe('what is shown', () => {
  it.each([
    ['atLeast', ['d', 'e']],
    ['is', ['d']],
    ['atMost', ['a', 'b', 'c', 'd']],
  ] as const)('by stars (%s 3) is %j', (kind, ids) => {
    expect(show(toFilter({ verdicts: [], stars: { kind, n: 3 } })).slice()).toEqual(ids);
  });

  it('by sharpness stands anew with what is measured, and by anything else stays as it is', () => {
    const showing = new Showing();
    const bySharpness = { by: 'sharpness', reverse: false, heading: 'none' } as const;
    const filter = toFilter(NO_FILTER);
    const held: string[] = [];
    const learned = (of: ShootState, sharpness: Record<string, number>) => ({
      ...marked(
        of,
        Object.fromEntries(Object.entries(sharpness).map(([id, its]) => [id, { sharpness: its }])),
      ),
      measured: of.measured + 1,
    });
    expect(showing.of(shoot, filter, held, bySharpness).slice()).toEqual(['a', 'b', 'c', 'd', 'e']);
    const some = learned(shoot, { c: 5, e: 9 });
    expect(showing.of(some, filter, held, bySharpness).slice()).toEqual(['e', 'c', 'a', 'b', 'd']);
    const all = learned(some, { a: 7, b: 1, d: 2 });
    expect(showing.of(all, filter, held, bySharpness).slice()).toEqual(['e', 'a', 'c', 'd', 'b']);
    expect(showing.of(all, filter, held).slice()).toEqual(['a', 'b', 'c', 'd', 'e']);
  });

  it('is found by the frame’s name or by the one its camera gave, in any case', () => {
    const named = madeShoot([
      frame('a', { name: 'regatta_0001', original: 'OCK_9968' }),
      frame('b', { name: 'regatta_9968', original: 'OCK_0002' }),
      frame('c', { name: 'regatta_0003', original: 'OCK_0003' }),
    ]);
    const found = (text: string) => show(toFilter({ ...NO_FILTER, text }), [], named).slice();
    expect(found('9968')).toEqual(['a', 'b']);
    expect(found(' OCK_0002')).toEqual(['b']);
    expect(found('ock 99')).toEqual(['a', 'b']);
    // A word that is ended is whole.
    expect(found('ock_00 ')).toEqual([]);
    expect(found('ock "0003"')).toEqual(['c']);
    expect(found('regatta -9968')).toEqual(['c']);
    expect(found('≥1★')).toEqual([]);
    expect(found('')).toEqual(['a', 'b', 'c']);
  });

  const best = toFilter({ verdicts: [], stars: { kind: 'atLeast', n: 3 } });

  it('holds a frame that a mark made leave, until the next step', () => {
    expect(show(best, ['b']).slice()).toEqual(['b', 'd', 'e']);
    const held = reduceCull({ ...START, current: 'b' }, { type: 'marked', held: ['b'] });
    expect(held.held).toEqual(['b']);
    expect(reduceCull(held, { type: 'go', id: 'd' }).held).toEqual([]);
  });

  it('stands at the nearest frame when the current one is hidden', () => {
    expect(show(best).nearest('b')).toBe('d');
    expect(show(toFilter({ verdicts: [], stars: { kind: 'is', n: 0 } })).nearest('e')).toBe('a');
    expect(show(toFilter({ verdicts: ['reject'], stars: NO_FILTER.stars })).nearest('e')).toBeNull();
    expect(show(EVERYTHING).nearest(null)).toBe('a');
  });

  it('knows where each frame stands, what it hides, and how many it hides', () => {
    const shown = show(best, ['b']);
    expect(['a', 'b', 'c', 'd', 'e', 'x'].map((id) => shown.indexOf(id))).toEqual([-1, 0, -1, 1, 2, -1]);
    expect(['a', 'b', 'd'].map(shown.hidesFrame)).toEqual([true, true, false]);
    expect(shown.hidden).toBe(3);
    expect([0, 1, 2, 3, 4, 5].map((place) => shown.countBefore(place))).toEqual([0, 0, 1, 1, 2, 3]);
  });

  it('is the same list as long as marks change nobody’s place in it', () => {
    const showing = new Showing();
    const before = showing.of(shoot, best, []);
    const after = marked(shoot, { d: { stars: 5 }, a: { label: 'M' } });
    expect(showing.of(after, best, [])).toBe(before);
  });

  it('stays as it was for whoever holds it, when a mark changes it', () => {
    const showing = new Showing();
    const before = showing.of(shoot, best, []);
    const after = showing.of(marked(shoot, { a: { stars: 4 }, e: { stars: 0 } }), best, []);
    expect(before.slice()).toEqual(['d', 'e']);
    expect(before.hides(0)).toBe(true);
    expect(after.slice()).toEqual(['a', 'd']);
    expect(after.hidden).toBe(3);
  });

  it('is, after any marks, steps and arrivals, what judging all frames anew would give', () => {
    const ids = Array.from({ length: 12 }, (_, i) => `f${i}`);
    const step = fc.oneof(
      fc.record({
        kind: fc.constant('mark' as const),
        ids: fc.subarray(ids, { maxLength: 4 }),
        stars: fc.integer({ min: 0, max: 5 }),
      }),
      fc.record({ kind: fc.constant('hold' as const), ids: fc.subarray(ids, { maxLength: 3 }) }),
      fc.record({ kind: fc.constant('filter' as const), n: fc.integer({ min: 0, max: 5 }) }),
      fc.record({ kind: fc.constant('arrive' as const), ids: fc.subarray(ids, { minLength: 1 }) }),
    );
    fc.assert(
      fc.property(fc.array(step, { maxLength: 25 }), (steps) => {
        const showing = new Showing();
        let now = madeShoot(ids.map((id, i) => frame(id, { stars: i % 6 })));
        let filter: Filter = EVERYTHING;
        let held: readonly string[] = [];
        for (const one of steps) {
          if (one.kind === 'mark')
            now = marked(
              now,
              Object.fromEntries(
                one.ids.filter((id) => now.order.has(id)).map((id) => [id, { stars: one.stars }]),
              ),
            );
          else if (one.kind === 'hold') held = one.ids;
          else if (one.kind === 'filter') filter = { field: 'stars', atLeast: one.n };
          else
            now = ordered(
              now,
              one.ids.map((id) => now.byId.get(id) ?? frame(id, { stars: 1 })),
            );
          const shown = showing.of(now, filter, held);
          const expected = now.frames
            .filter((f) => held.includes(f.id) || matches(filter, f))
            .map((f) => f.id);
          expect(shown.slice()).toEqual(expected);
          expect(shown.hidden).toBe(now.frames.filter((f) => !matches(filter, f)).length);
          expect(expected.map((id) => shown.indexOf(id))).toEqual(expected.map((_, i) => i));
        }
      }),
      { numRuns: 200 },
    );
  });
});

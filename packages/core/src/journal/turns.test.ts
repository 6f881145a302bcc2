import fc from 'fast-check';
import { turned, type Undoing } from './turns';

const step = (id: string, undoes: string, at: number): Undoing => ({ id, undoes, at });

describe('where a decision stands', () => {
  it('is as it was made, undone, done again, by what took it back last', () => {
    const undoings = [step('u', 'a', 1), step('r', 'u', 2), step('w', 'r', 3), step('x', 'other', 4)];
    expect(turned('a', [])).toEqual({ last: 'a', isUndone: false, at: null });
    expect(turned('a', undoings.slice(0, 1))).toEqual({ last: 'u', isUndone: true, at: 1 });
    expect(turned('a', undoings.slice(0, 2))).toEqual({ last: 'r', isUndone: false, at: 2 });
    expect(turned('a', undoings)).toEqual({ last: 'w', isUndone: true, at: 3 });
    expect(turned('b', undoings)).toEqual({ last: 'b', isUndone: false, at: null });
  });

  it('counts the later one where two windows took the same back', () => {
    expect(turned('a', [step('u', 'a', 1), step('v', 'a', 2), step('r', 'v', 3)])).toMatchObject({
      last: 'r',
      isUndone: false,
    });
  });

  it('is told of any journal, one that goes in a circle too', () => {
    const id = fc.constantFrom('a', 'b', 'c', 'd');
    fc.assert(
      fc.property(fc.array(fc.tuple(id, id)), (pairs) => {
        const undoings = pairs.map(([its, undoes], at) => step(its, undoes, at));
        const { last, isUndone, at } = turned('a', undoings);
        expect(at === null).toBe(last === 'a' && !isUndone && !undoings.some(({ undoes }) => undoes === 'a'));
      }),
    );
  });
});

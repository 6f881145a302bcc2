import { UNMARKED, type MarkOperation, type Marks } from '../marks/marks';
import { comparedPasses, marksInPass } from './comparison';

const operation = (change: Partial<MarkOperation>): MarkOperation => ({
  ...{ id: 'o', subject: 'f', kind: 'verdict', from: 'undecided', to: 'keep', at: 10, by: '', group: 'g' },
  ...{ pass: null, window: 'w', undoes: null },
  ...change,
});
const now = (change: Partial<Marks>): Marks => ({ ...UNMARKED, ...change });
const first = { id: 'P1', begunAt: 20 };

describe('what a frame was in a pass', () => {
  it('is what was decided in it, whatever came after', () =>
    expect(
      marksInPass(
        now({ verdict: 'reject', stars: 2 }),
        [
          operation({ at: 21, pass: 'P1' }),
          operation({ at: 22, pass: 'P1', kind: 'stars', from: 0, to: 2 }),
          operation({ at: 30, from: 'keep', to: 'reject' }),
        ],
        first,
      ),
    ).toMatchObject({ verdict: 'keep', stars: 2 }));

  it('is what it was before the pass where nothing was decided, not what others decide meanwhile', () =>
    expect(
      marksInPass(
        now({ verdict: 'reject' }),
        [operation({ at: 10 }), operation({ at: 25, pass: 'P2', from: 'keep', to: 'reject' })],
        first,
      ).verdict,
    ).toBe('keep'));

  it('is what it came with where no operation says so', () => {
    const came = now({ verdict: 'keep', stars: 3 });
    expect(marksInPass(came, [], first)).toEqual(came);
    const since = [operation({ at: 40, kind: 'stars', from: 3, to: 0 })];
    expect(marksInPass({ ...came, stars: 0 }, since, first).stars).toBe(3);
  });
});

describe('two passes', () => {
  it('are compared frame by frame', () => {
    const kept: Record<string, readonly [boolean, boolean]> = {
      ...{ a: [true, true], b: [true, false], c: [false, true], d: [false, false] },
    };
    expect(comparedPasses('abcd', (id) => kept[id]!)).toEqual({
      both: ['a'],
      onlyFirst: ['b'],
      onlySecond: ['c'],
      neither: ['d'],
    });
  });
});

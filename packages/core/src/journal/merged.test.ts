import * as fc from 'fast-check';
import { mergedDecisions } from './merged';
import type { Operation } from './operation';

let n = 0;
const op = (subject: string, kind: string, to: unknown, at: number): Operation => ({
  ...{ id: `o${++n}`, kind, subject, from: null, to, at, by: '', group: `g${n}` },
  ...{ pass: null, window: 'w', undoes: null },
});

describe('Decisions of two places', () => {
  it('hold each where only one side made any, field by field', () => {
    const theirs = [op('a', 'stars', 3, 5), op('a', 'stars', 4, 6), op('b', 'verdict', 'keep', 7)];
    const mine = [op('a', 'label', 'M', 9), op('c', 'stars', 1, 9)];
    expect(mergedDecisions(theirs, mine)).toEqual({ apply: theirs, keep: [], both: [] });
  });

  it('are the later ones where both made some, and are named', () => {
    const [late, early] = [op('a', 'stars', 5, 20), op('b', 'stars', 1, 3)];
    const mine = [op('a', 'stars', 2, 10), op('b', 'stars', 4, 10)];
    expect(mergedDecisions([late, early], mine)).toEqual({
      apply: [late],
      keep: [early],
      both: [
        { subject: 'a', kind: 'stars', here: 2, there: 5, stands: 'there' },
        { subject: 'b', kind: 'stars', here: 4, there: 1, stands: 'here' },
      ],
    });
  });

  it('are no dispute where both came to the same, or in the same moment to another: then here holds', () => {
    const [same, tied] = [op('a', 'stars', 5, 20), op('b', 'stars', 1, 10)];
    const { apply, keep, both } = mergedDecisions(
      [same, tied],
      [op('a', 'stars', 5, 10), op('b', 'stars', 4, 10)],
    );
    expect([apply, keep, both.map(({ stands }) => stands)]).toEqual([[], [same, tied], ['here']]);
  });

  it('are all in one of both lists in their order, and end the same whichever side takes the other’s', () => {
    const some = fc.array(
      fc.record({
        subject: fc.constantFrom('a', 'b'),
        kind: fc.constantFrom('stars', 'label'),
        to: fc.integer({ min: 0, max: 3 }),
      }),
      { maxLength: 12 },
    );
    fc.assert(
      fc.property(some, some, (there, here) => {
        // Clocks go on, and never show the same moment on both sides.
        const theirs = there.map(({ subject, kind, to }, i) => op(subject, kind, to, 2 * i));
        const mine = here.map(({ subject, kind, to }, i) => op(subject, kind, to, 2 * i + 1));
        const one = mergedDecisions(theirs, mine);
        expect([...one.apply, ...one.keep].sort(byId)).toEqual([...theirs].sort(byId));
        const state = (base: Operation[], more: Operation[]) =>
          new Map([...base, ...more].map(({ subject, kind, to }) => [`${subject} ${kind}`, to]));
        const other = mergedDecisions(mine, theirs);
        expect(sorted(state(mine, one.apply))).toEqual(sorted(state(theirs, other.apply)));
      }),
    );
  });
});

const byId = (a: Operation, b: Operation) => (a.id < b.id ? -1 : 1);
const sorted = (map: Map<string, unknown>) => [...map].sort(([a], [b]) => (a < b ? -1 : 1));

import { readFileSync } from 'node:fs';
import path from 'node:path';
import { describe as words, facet, filterProblem, matches, normalise, toSql, type Filter } from './filter';
import type { QueryFrame } from './fields';

const frame = (change: Partial<QueryFrame> = {}): QueryFrame => ({
  name: 'press-night_0001',
  original: 'OCK_0001',
  verdict: 'undecided',
  stars: 0,
  label: null,
  instant: 1000,
  body: 'Ockham',
  lens: null,
  aperture: 4,
  exposure: 0.01,
  iso: 400,
  focalLength: 50,
  role: 'original',
  format: 'jpeg',
  raw: 'none',
  sign: null,
  detail: 'full',
  sharpness: null,
  advice: '',
  voice: null,
  edited: null,
  finished: null,
  note: null,
  stage: null,
  take: null,
  piles: '',
  albums: '',
  ...{ caption: null, keywords: '', persons: '', texts: '', finish: '' },
  ...change,
});

describe('filters', () => {
  it.each<[Filter, Partial<QueryFrame>, boolean]>([
    [{ field: 'stars', atLeast: 3 }, { stars: 3 }, true],
    [{ field: 'stars', atMost: 3 }, { stars: 4 }, false],
    [{ field: 'iso', between: [100, 400] }, { iso: 400 }, true],
    [{ field: 'verdict', oneOf: ['keep', 'reject'] }, { verdict: 'reject' }, true],
    [{ field: 'name', contains: 'NIGHT' }, {}, true],
    [{ field: 'body', contains: 'ock' }, { body: 'Öckham' }, true],
    [{ field: 'lens', none: true }, {}, true],
    [{ field: 'lens', contains: '' }, {}, false],
    [{ field: 'iso', atLeast: 0 }, { iso: null }, false],
    [{ not: { field: 'iso', atLeast: 0 } }, { iso: null }, true],
    [{ all: [] }, {}, true],
    [{ any: [] }, {}, false],
  ])('%j on %j gives %s', (filter, change, expected) =>
    expect(matches(filter, frame(change))).toBe(expected),
  );

  it('say what hides the frames', () => {
    expect(
      words({
        all: [
          { field: 'verdict', oneOf: ['keep'] },
          { field: 'stars', atLeast: 4 },
        ],
      }),
    ).toBe('keep, ≥ 4★');
    expect(words({ all: [] })).toBe('');
    expect(words({ not: { field: 'stars', is: 2 } })).toBe('not exactly 2★');
  });

  it('become simpler without changing their meaning', () => {
    const long: Filter = {
      all: [{ all: [{ field: 'stars', is: 1 }] }, { not: { not: { field: 'iso', is: 400 } } }],
    };
    expect(normalise(long)).toEqual({
      all: [
        { field: 'stars', is: 1 },
        { field: 'iso', is: 400 },
      ],
    });
  });

  it('keep values out of the SQL text', () => {
    const sql = toSql({ field: 'name', contains: "'; DROP TABLE frame; --" });
    expect(sql.where).not.toMatch(/DROP/i);
    expect(sql.parameters).toEqual(["'; drop table frame; --"]);
  });

  it.each([
    [{ field: 'nope', is: 1 }],
    [{ field: 'stars' }],
    [{ field: 'stars', is: 1, atLeast: 2 }],
    [{ field: 'stars', between: [1] }],
    // Of another type than the field's own: SQL would find “3” where the predicate does not.
    [{ field: 'stars', is: '3' }],
    [{ field: 'iso', oneOf: [100, '200'] }],
    [{ field: 'name', is: 3 }],
    [{ field: 'body', atLeast: 1 }],
    [{ field: 'stars', contains: '3' }],
    [{ all: 'x' }],
    ['text'],
    [null],
  ])('from outside are refused when they are none: %j', (value) =>
    expect(filterProblem(value)).not.toBeNull(),
  );

  it('from outside are refused when they nest too deeply', () => {
    let deep: unknown = { field: 'stars', is: 1 };
    for (let i = 0; i < 40; i++) deep = { not: deep };
    expect(filterProblem(deep)).toMatchObject({ expected: 'at most 16 levels' });
  });

  it('count each value, the unknown too', () => {
    const counts = facet('lens', [frame(), frame({ lens: 'A' }), frame({ lens: 'A' })]);
    expect([...counts]).toEqual([
      [null, 1],
      ['A', 2],
    ]);
  });
});

describe('the examples of docs/formats.md', () => {
  const docs = readFileSync(path.join(__dirname, '../../../../docs/formats.md'), 'utf8');
  const examples = JSON.parse(/```json\n([\s\S]*?)```/.exec(docs)![1]!) as { filter: Filter; says: string }[];

  it.each(examples)('hold: $says', ({ filter, says }) => {
    expect(filterProblem(filter)).toBeNull();
    expect(words(filter)).toBe(says);
  });
});

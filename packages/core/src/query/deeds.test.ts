import fc from 'fast-check';
import { LABELS, UNMARKED, type Marks } from '../marks/marks';
import { deedOf, type Deed } from './deeds';
import type { QueryFrame } from './fields';
import type { Filter } from './filter';
import { DEFAULT_RULES, standingOf, type KeeperRules } from './keeperRule';

const frameOf = (marks: Marks): QueryFrame => ({
  ...{ name: 'a', original: 'b', instant: 0, body: null, lens: null, aperture: null, exposure: null },
  ...{
    iso: null,
    focalLength: null,
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
    piles: '',
    albums: '',
    ...{ caption: null, keywords: '', persons: '', texts: '', finish: '' },
  },
  ...marks,
});
const marked = (rules: KeeperRules, deed: Deed, marks: Marks): Marks => {
  const now = { ...marks };
  for (const { field, to } of deedOf(rules, deed, frameOf(marks))) Object.assign(now, { [field]: to });
  return now;
};
const PLAIN: Marks = UNMARKED;
const stars = (n: number): Filter => ({ field: 'stars', atLeast: n });
const BY_STARS: KeeperRules = { keeper: stars(3), reject: { field: 'stars', is: 1 } };
const BY_LABEL: KeeperRules = {
  keeper: { field: 'label', is: 'M' },
  reject: { not: { field: 'label', is: 'M' } },
};

describe('what is decided at a key', () => {
  it('writes the verdict where the verdict is what the studio reads', () => {
    expect(deedOf(DEFAULT_RULES, 'keep', frameOf(PLAIN))).toEqual([{ field: 'verdict', to: 'keep' }]);
    expect(marked(DEFAULT_RULES, 'reject', { ...PLAIN, verdict: 'keep', stars: 4 })).toEqual({
      ...{
        verdict: 'reject',
        stars: 4,
        label: null,
        note: null,
        stage: null,
        take: null,
        piles: '',
        albums: '',
        caption: null,
        ...{ keywords: '', persons: '', texts: '', finish: '' },
      },
    });
  });

  it('writes five stars and one where stars are', () => {
    expect(marked(BY_STARS, 'keep', PLAIN)).toEqual({ ...PLAIN, stars: 5 });
    expect(marked(BY_STARS, 'reject', { ...PLAIN, stars: 4 })).toEqual({ ...PLAIN, stars: 1 });
    expect(marked(BY_STARS, 'undecide', { ...PLAIN, stars: 4 })).toEqual(PLAIN);
    // Three stars are enough there: a keeper stays as it is.
    expect(deedOf(BY_STARS, 'keep', frameOf({ ...PLAIN, stars: 3 }))).toEqual([]);
  });

  it('writes a label and none where what has no label is out', () => {
    expect(marked(BY_LABEL, 'keep', PLAIN)).toEqual({ ...PLAIN, label: 'M' });
    expect(marked(BY_LABEL, 'reject', { ...PLAIN, label: 'M', stars: 2 })).toEqual({ ...PLAIN, stars: 2 });
  });

  it('takes a keeper’s stars off where they would keep it in though it is struck', () => {
    const mixed: KeeperRules = { keeper: stars(4), reject: { field: 'verdict', is: 'reject' } };
    expect(marked(mixed, 'reject', { ...PLAIN, stars: 5 })).toEqual({
      ...PLAIN,
      verdict: 'reject',
      stars: 0,
    });
    expect(marked(mixed, 'reject', { ...PLAIN, stars: 2 })).toEqual({
      ...PLAIN,
      verdict: 'reject',
      stars: 2,
    });
  });

  it('brings a frame where it is wanted, by every rule that can be chosen and from any marks', () => {
    const keeper = fc.oneof(
      fc.constant<Filter>({ field: 'verdict', is: 'keep' }),
      fc.integer({ min: 1, max: 5 }).map(stars),
      fc.constantFrom(...LABELS).map((label): Filter => ({ field: 'label', is: label })),
    );
    const reject = fc.oneof(
      fc.constant<Filter>({ field: 'verdict', is: 'reject' }),
      fc.constant<Filter>({ field: 'stars', is: 1 }),
      fc.constantFrom(...LABELS).map((label): Filter => ({ field: 'label', is: label })),
    );
    const marks = fc.record<Marks>({
      verdict: fc.constantFrom('keep', 'reject', 'undecided'),
      stars: fc.integer({ min: 0, max: 5 }),
      label: fc.constantFrom(...LABELS, null),
      note: fc.constant(null),
      stage: fc.constant(null),
      take: fc.constant(null),
      piles: fc.constant(''),
      albums: fc.constant(''),
      caption: fc.constant(null),
      ...{
        keywords: fc.constant(''),
        persons: fc.constant(''),
        texts: fc.constant(''),
        finish: fc.constant(''),
      },
    });
    fc.assert(
      fc.property(keeper, reject, marks, (k, r, its) => {
        const rules = { keeper: k, reject: r };
        // One mark cannot mean both.
        fc.pre(
          JSON.stringify(k) !== JSON.stringify(r) &&
            !('atLeast' in k && k.atLeast === 1 && 'field' in r && r.field === 'stars'),
        );
        for (const [deed, standing] of [
          ['keep', 'keeper'],
          ['reject', 'reject'],
          ['undecide', 'left'],
        ] as const)
          expect([deed, standingOf(rules, frameOf(marked(rules, deed, its)))]).toEqual([deed, standing]);
      }),
      { numRuns: 500 },
    );
  });
});

import fc from 'fast-check';
import { AWAY, DEFAULT_RULES, INCOMPLETE, LABELS, matches, EDITED, VOICE_NOTE } from '@arkiv/core';
import type { LoadedFrame } from '../../data/frames';
import { tallyKey } from '../../data/tally';
import { NO_FILTER, toFilter, TRUTHS, type CullFilter } from './cullFilter';
import { CHOSEN, type Chosen, type Value } from './facetValues';
import { facetKeys, facetsOf, STARS_CHOICES, VERDICTS } from './facets';

const frame = fc.record({
  verdict: fc.constantFrom('keep', 'reject', 'undecided'),
  stars: fc.integer({ min: 0, max: 5 }),
  label: fc.constantFrom(...LABELS, null),
  stage: fc.constantFrom('to-edit', 'ready', null),
  format: fc.constantFrom('jpeg', 'dng', 'dng+jpeg', ''),
  role: fc.constantFrom('original', 'clip'),
  body: fc.constantFrom('A', 'B', null),
  lens: fc.constantFrom('35', '50', null),
  aperture: fc.constantFrom(2.8, 4, null),
  exposure: fc.constantFrom(0.01, 0.02, null),
  iso: fc.constantFrom(100, 400, null),
  focalLength: fc.constantFrom(35, 50.2, null),
  name: fc.constantFrom('press_1', 'press_2', 'other'),
  original: fc.constantFrom('OCK_1', 'OCK_2'),
  sign: fc.constantFrom(INCOMPLETE, null),
  detail: fc.constantFrom('full', 'developed', null),
  voice: fc.constantFrom(VOICE_NOTE, null),
  edited: fc.constantFrom(EDITED, null),
  away: fc.constantFrom(AWAY, null, undefined),
  piles: fc.constantFrom('', 'P1', 'P2', 'P1+P2'),
  advice: fc.constantFrom('', 'soft', 'soft+tilted'),
  caption: fc.constantFrom(null, 'at press time'),
  keywords: fc.constantFrom('', 'heron', 'grey heron\nheron'),
  persons: fc.constantFrom('', 'Ana Pinto', 'Bo Lind\nAna Pinto'),
  hour: fc.constantFrom(8, 9, 33, null),
});
const made = ({ hour, ...its }: Record<string, unknown> & { hour: number | null }): LoadedFrame => {
  const instant = hour === null ? null : Date.UTC(2031, 3, 18, hour);
  return {
    ...{
      id: 'x',
      raw: 'none',
      apertureText: null,
      exposureText: null,
      advice: '',
      keywords: '',
      persons: '',
    },
    ...its,
    instant,
    time: instant === null ? null : new Date(instant).toISOString().slice(0, 23),
  } as unknown as LoadedFrame;
};

describe('choices of the drawer', () => {
  it('count the frames that each would show with all else that is chosen', () => {
    fc.assert(
      fc.property(
        fc.array(frame.map(made), { minLength: 1, maxLength: 25 }),
        fc.record({
          verdicts: fc.subarray([...VERDICTS]),
          stars: fc.record({
            kind: fc.constantFrom('any', 'atLeast', 'is', 'atMost', 'not'),
            n: fc.integer({ min: 0, max: 5 }),
          }),
          chosen: fc.record({
            label: fc.subarray<Value>([...LABELS, null]),
            formats: fc.subarray<Value>(['jpeg', 'dng', null]),
            body: fc.subarray<Value>(['A', null]),
            iso: fc.subarray<Value>([100, 400]),
            advice: fc.subarray<Value>(['soft', 'tilted', null]),
            keywords: fc.subarray<Value>(['heron', 'grey heron', null]),
            persons: fc.subarray<Value>(['Ana Pinto', 'Bo Lind', null]),
          }),
          text: fc.constantFrom('', 'press', 'ock_1'),
          incomplete: fc.boolean(),
          voice: fc.boolean(),
          edited: fc.boolean(),
          away: fc.boolean(),
          piles: fc.subarray(['P1', 'P2', '']).map((ids) => ids.map((id) => ({ id, name: id }))),
          standing: fc.constantFrom('left', 'keeper', null),
        }) as fc.Arbitrary<CullFilter>,
        fc.boolean(),
        (frames, asked, oneHour) => {
          const facets = facetsOf(frames);
          const times = oneHour ? facets.times.hour.slice(0, 1) : [];
          const filter: CullFilter = { ...asked, times };
          const keys = facetKeys(filter, DEFAULT_RULES);
          const counted = (key: number) => frames.filter((one) => keys(one).flat().includes(key)).length;
          const shows = (change: Partial<CullFilter>) =>
            frames.filter((one) => matches(toFilter({ ...filter, ...change }), one)).length;
          for (const verdict of VERDICTS)
            expect([verdict, counted(tallyKey('verdict', verdict))]).toEqual([
              verdict,
              shows({ verdicts: [verdict] }),
            ]);
          const kind = filter.stars.kind === 'any' ? 'is' : filter.stars.kind;
          for (const n of STARS_CHOICES)
            expect([n, counted(tallyKey('stars', n))]).toEqual([n, shows({ stars: { kind, n } })]);
          for (const fact of CHOSEN)
            for (const { value } of facets.values[fact as Chosen])
              expect([fact, value, counted(tallyKey(fact, value))]).toEqual([
                fact,
                value,
                shows({ chosen: { ...filter.chosen, [fact]: [value] } }),
              ]);
          for (const stretch of ['day', 'hour'] as const)
            for (const one of facets.times[stretch])
              expect([one.key, counted(tallyKey(stretch, one.key))]).toEqual([
                one.key,
                shows({ times: [one] }),
              ]);
          for (const id of ['P1', 'P2', ''])
            expect([id, counted(tallyKey('piles', id))]).toEqual([id, shows({ piles: [{ id, name: id }] })]);
          for (const { part, fact, is } of TRUTHS)
            expect([part, counted(tallyKey(fact, is))]).toEqual([part, shows({ [part]: true })]);
        },
      ),
      { numRuns: 150 },
    );
  });

  it('are each value that occurs, in its order, and “unknown” where a frame has none', () => {
    const facets = facetsOf(
      [
        { iso: 1600, body: null, exposure: 0.01, exposureText: '1/100', format: 'dng+jpeg' },
        { iso: 200, body: 'B', exposure: null, exposureText: null, format: 'jpeg' },
      ].map((its) => ({ ...made({ hour: 8 }), ...its })) as LoadedFrame[],
    );
    expect(facets.values.iso.map(({ words }) => words)).toEqual(['200', '1600']);
    expect(facets.values.body.map(({ words }) => words)).toEqual(['B', 'unknown']);
    expect(facets.values.exposure.map(({ words }) => words)).toEqual(['1/100 s', 'unknown']);
    expect(facets.values.formats.map(({ words }) => words)).toEqual(['DNG', 'JPEG']);
    expect(NO_FILTER.chosen).toBeUndefined();
  });
});

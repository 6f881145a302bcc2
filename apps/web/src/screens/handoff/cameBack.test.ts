import type { Api } from '../../data/http';
import { freshWords } from './CopyPart';
import { isAsked, shortName, stateWords } from './CameBack';

const frame = (n: number) => ({ id: `id${n}`, name: `night_20290501_000${n}`, picture: null });
const its = (more: Partial<Api['ReturnDto']>): Api['ReturnDto'] => ({
  ...{ assetId: 'a', name: 'x.jpg', at: 0, state: 'matched', by: 'name', second: false },
  ...{ picture: null, place: null, originals: [], among: [] },
  ...more,
});

describe('what came back', () => {
  it('is called by its frames’ numbers and what was added to their names', () => {
    expect(shortName(its({ name: 'night_20290501_0001-bw.jpg', originals: [frame(1)] }))).toBe('0001-bw.jpg');
    expect(
      shortName(
        its({ name: 'night_20290501_0001+night_20290501_0002.tif', originals: [frame(1), frame(2)] }),
      ),
    ).toBe('0001+0002.tif');
    expect(shortName(its({ name: 'moon.jpg', originals: [frame(1)] }))).toBe('moon.jpg');
  });

  it('says of which frames it is, and what is unusual about it', () => {
    expect(stateWords(its({ originals: [frame(1)] }))).toBe('of 0001');
    expect(stateWords(its({ originals: [frame(1)], second: true }))).toContain('edited before');
    expect(stateWords(its({ originals: [frame(1), frame(2)] }))).toBe('of 2 frames, from 0001');
    expect(stateWords(its({ originals: [frame(1)], state: 'over' }))).toBe('of 0001 · saved over since');
    expect(stateWords(its({ state: 'matched' }))).toContain('gone');
    expect(stateWords(its({ state: 'aside' }))).toBe('of no frame of this shoot');
  });

  it('is asked about where nothing tells surely', () => {
    expect(stateWords(its({ state: 'asks', among: [frame(1)] }))).toBe('perhaps 0001: look');
    expect(stateWords(its({ state: 'asks', among: [frame(1), frame(2)] }))).toBe(
      'one of 2, or several: look',
    );
    expect(stateWords(its({ state: 'unknown' }))).toBe('nothing tells whose it is');
    const states = ['matched', 'asks', 'unknown', 'aside', 'over'] as const;
    expect(states.filter((state) => isAsked(its({ state })))).toEqual(['asks', 'unknown']);
  });
});

describe('what is new with editing', () => {
  it('tells files that are copied from what is only said, in sidecars and inside JPEGs', () => {
    const fresh = (files: number) => ({ frames: 1, files, bytes: 2_000_000 });
    expect(freshWords({ fresh: fresh(0), sidecars: 0, words: 0 })).toBe('nothing');
    expect(freshWords({ fresh: fresh(3), sidecars: 1, words: 1 })).toBe('2 files, 2 MB · words in 1 sidecar');
    expect(freshWords({ fresh: fresh(3), sidecars: 0, words: 3 })).toBe('words in 3 JPEGs');
    expect(freshWords({ fresh: fresh(3), sidecars: 1, words: 3 })).toBe('words in 1 sidecar and 2 JPEGs');
  });
});

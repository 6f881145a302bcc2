import type { Api } from '../../data/http';
import { decisionWords, saidWords, turnedWords, whoWords } from './decisionWords';

const NAMES = { labels: { M: 'Moss' }, stages: [{ id: 'editing', name: 'being edited' }] };
const ID = '01HZZZZZZZZZZZZZZZZZZZZZZZ';
const words = (kind: string, to: unknown, name: string | null = null): string =>
  saidWords({ kind, to: to as Api['SaidDto']['to'], name }, NAMES);

describe('what is said of a decision', () => {
  it('names each kind of mark, given and taken off', () => {
    expect([words('verdict', 'keep'), words('verdict', 'undecided')]).toEqual(['kept', 'undecided again']);
    expect([words('stars', 4), words('stars', 0)]).toEqual(['4★', 'no stars']);
    expect([words('label', 'M'), words('label', null)]).toEqual(['label Moss', 'no label']);
    expect([words('stage', 'editing'), words('stage', null)]).toEqual([
      'stage “being edited”',
      'back at the first stage',
    ]);
    expect([words('note', '[41.2 % 30 %] dust'), words('note', null)]).toEqual([
      'note “dust”',
      'note taken off',
    ]);
    expect([words(`pile ${ID}`, true, 'Cover'), words(`pile ${ID}`, false)]).toEqual([
      'into “Cover”',
      'out of a pile',
    ]);
    expect([words(`album ${ID}`, undefined, 'Best'), words(`album ${ID}`, null)]).toEqual([
      'into “Best”',
      'out of an album',
    ]);
    expect([words('keyword white heron', true), words('person Ana Pinto', false)]).toEqual([
      'keyword white heron',
      'person Ana Pinto taken off',
    ]);
    expect([words('finish exposure', 0.5), words('finish exposure', null)]).toEqual([
      'finish: exposure',
      'exposure as the camera took it',
    ]);
    expect([words('shoot title', 'Première'), words('shoot client', '')]).toEqual([
      'title of the shoot: “Première”',
      'no client for the shoot',
    ]);
    expect([words('caption', null), words('text city', 'Søby')]).toEqual([
      'caption taken off',
      'city “Søby”',
    ]);
  });

  it('says that each frame got its own, and cuts what is longer than a line', () => {
    expect([words('caption', undefined), words('stars', undefined)]).toEqual([
      'caption, each its own',
      'stars',
    ]);
    const long = words('caption', 'word '.repeat(40));
    expect(long.length).toBeLessThan(75);
    expect(long).toMatch(/…”$/);
  });

  it('counts the frames of each part where it is not all of them', () => {
    const said = [
      { kind: 'stars', to: 5, name: null, frames: 12 },
      { kind: 'keyword dusk', to: true, name: null, frames: 3 },
    ];
    expect(decisionWords({ said, more: 2, frames: 12 }, NAMES)).toBe(
      '5★, keyword dusk (3), 2 more · 12 frames',
    );
  });

  it('says who it was, where it was not somebody here', () => {
    expect(whoWords({ by: '', window: 'w' })).toBe('');
    expect(whoWords({ by: 'program', window: 'copies' })).toContain('in a copy');
    expect(whoWords({ by: 'client Ana', window: 'gallery' })).toBe('Ana, a client, in a gallery');
  });

  it('says what came of taking it back, and what stayed', () => {
    expect(turnedWords({ marks: 1, skipped: 0 }, true)).toBe('1 mark taken back');
    expect(turnedWords({ marks: 3, skipped: 2 }, false)).toBe(
      '3 marks done again · 2 marks changed since and stayed',
    );
    expect(turnedWords({ marks: 0, skipped: 0 }, true)).toBe('It was taken back already');
  });
});

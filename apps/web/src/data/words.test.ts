import { suggested, withSuggested, wordChanges, wordsOf } from './words';

const frame = (keywords: string[], caption: string | null = null) => ({
  keywords: keywords.join('\n'),
  caption,
});

describe('of some frames', () => {
  it('each keyword stands once, with how many have it, whatever its case', () => {
    const { keywords } = wordsOf([frame(['Heron', 'fish']), frame(['heron']), frame(['pier', 'fish'])]);
    expect(keywords).toEqual([
      { word: 'Heron', frames: 2 },
      { word: 'fish', frames: 2 },
      { word: 'pier', frames: 1 },
    ]);
  });

  it('a caption is told where it is the same in all, and how many differ where it is not', () => {
    expect(wordsOf([frame([], 'A'), frame([], 'A')])).toMatchObject({ caption: 'A', different: 0 });
    expect(wordsOf([frame([], 'A'), frame([], 'B'), frame([])])).toMatchObject({
      caption: null,
      different: 2,
    });
    expect(wordsOf([frame([])])).toEqual({ keywords: [], caption: null, different: 0 });
  });
});

describe('what is wanted', () => {
  it('goes to all of them: keywords given and taken, and a caption only where one was typed', () => {
    const wish = { typed: ' heron, grey  heron;', off: ['fish'], on: ['pier'], caption: null };
    expect(wordChanges(['a'], wish)).toEqual([
      { id: 'a', field: 'keyword fish', to: false },
      { id: 'a', field: 'keyword pier', to: true },
      { id: 'a', field: 'keyword heron', to: true },
      { id: 'a', field: 'keyword grey heron', to: true },
    ]);
    const nothing = { typed: '', off: [], on: [] };
    expect(wordChanges(['a', 'b'], { ...nothing, caption: ' At the pier ' })).toEqual([
      { id: 'a', field: 'caption', to: 'At the pier' },
      { id: 'b', field: 'caption', to: 'At the pier' },
    ]);
    // A caption that was deleted is taken off.
    expect(wordChanges(['a'], { ...nothing, caption: '' })).toEqual([
      { id: 'a', field: 'caption', to: null },
    ]);
  });
});

describe('suggestions', () => {
  const known = [
    { word: 'grey heron', frames: 9 },
    { word: 'heron', frames: 3 },
    { word: 'fish', frames: 5 },
  ];

  it('go on with the word that is typed last, and leave out what is there', () => {
    expect(suggested('he', known, [], 5)).toEqual(['heron', 'grey heron']);
    expect(suggested('fish, ', known, ['heron'], 5)).toEqual(['grey heron']);
    expect(suggested('', known, [], 2)).toEqual(['grey heron', 'fish']);
  });

  it('come in whole in place of what was typed of them', () => {
    expect(withSuggested('fish, he', 'heron')).toBe('fish, heron, ');
    expect(withSuggested('he', 'heron')).toBe('heron, ');
  });
});

import fc from 'fast-check';
import { hasKeyword, isJoinedIn, isKeyword, joinedKeywords, keywordsIn, tidy } from './keywords';

describe('keywords that are kept joined', () => {
  const words = fc.array(
    fc.oneof(
      fc.constantFrom('heron', 'Heron', 'white heron', 'ΟΔΟΣ', 'οδος', 'οδός', 'Straße', 'STRASSE', 'İ'),
      fc.string({ maxLength: 12 }),
    ),
    { maxLength: 8 },
  );

  it('are each there once, in whatever case, as they were written first', () => {
    expect(joinedKeywords([' white  heron', 'White Heron', '', 'fish'])).toBe('white heron\nfish');
    fc.assert(
      fc.property(words, (given) => {
        const kept = keywordsIn(joinedKeywords(given));
        expect(kept.every(isKeyword)).toBe(true);
        for (const word of given.map(tidy).filter(Boolean)) expect(hasKeyword(kept, word)).toBe(true);
      }),
    );
  });

  it('answer whether a word is among them without being taken apart', () => {
    expect(isJoinedIn('white heron\nfish', 'heron')).toBe(false);
    expect(isJoinedIn('white heron\nfish', 'FISH')).toBe(true);
    expect(isJoinedIn('', 'fish')).toBe(false);
    fc.assert(
      fc.property(words, words, (given, asked) => {
        const joined = joinedKeywords(given);
        for (const word of asked.map(tidy).filter(Boolean))
          expect(isJoinedIn(joined, word)).toBe(hasKeyword(keywordsIn(joined), word));
      }),
    );
  });
});

import fc from 'fast-check';
import { isLong, keptTexts, saidIn, spoken, TEXT_FIELDS, textsIn } from './texts';

describe('texts as they are kept with a frame', () => {
  it('come back as they were said, whatever the words, and are kept alike in whatever order they were said', () => {
    const said = fc.string({ unit: 'grapheme', minLength: 1 }).map(saidIn);
    fc.assert(
      fc.property(fc.dictionary(fc.constantFrom(...TEXT_FIELDS), said), (texts) => {
        const kept = keptTexts(texts);
        const there = Object.fromEntries(Object.entries(texts).filter(([, text]) => text !== null));
        expect(textsIn(kept)).toEqual(there);
        expect(keptTexts(Object.fromEntries(Object.entries(texts).reverse()))).toBe(kept);
      }),
    );
  });

  it('are looked for in what they say, not in what they are about', () => {
    expect(spoken(keptTexts({ city: 'Hafen', headline: 'Ebb' }))).toBe('Ebb\nHafen');
    expect([spoken(''), keptTexts({ city: null })]).toEqual(['', '']);
  });

  it('are one line end of a kind, without blanks around them', () => {
    expect([saidIn(' a\r\nb\rc '), saidIn(' \n ')]).toEqual(['a\nb\nc', null]);
  });

  it('are longer than old programs read by their bytes', () => {
    expect([isLong('a'.repeat(2000)), isLong('a'.repeat(2001))]).toEqual([false, true]);
    expect([isLong('é'.repeat(1000)), isLong('é'.repeat(1001))]).toEqual([false, true]);
    expect([isLong('😀'.repeat(500)), isLong('日'.repeat(667))]).toEqual([false, true]);
  });
});

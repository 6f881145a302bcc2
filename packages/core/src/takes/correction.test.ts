import { correctionOf, correctionText, isCorrection, type Correction } from './correction';

const ID = '01JABCDEFGHJKMNPQRSTVWXYZ0';

describe('a correction', () => {
  it.each<[Correction, string | null]>([
    [{ place: null, lead: false, kind: null }, null],
    [{ place: 'cut', lead: false, kind: null }, 'cut'],
    [{ place: 'join', lead: true, kind: 'bracket' }, 'join lead bracket'],
    [{ place: { with: ID }, lead: false, kind: 'near' }, `with:${ID} near`],
  ])('is kept as words and comes back as it was: %j', (correction, text) => {
    expect(correctionText(correction)).toBe(text);
    expect(correctionOf(text)).toEqual(correction);
  });

  it('is kept in one way only: other words, another order and no words at all are none', () => {
    expect(['cut', `with:${ID} lead`, 'panorama'].map(isCorrection)).toEqual([true, true, true]);
    for (const wrong of ['', 'lead cut', 'cut cut', 'with:short', 'cut tomorrow', 7, null])
      expect(isCorrection(wrong)).toBe(false);
  });

  it('passes over words that a later version may have written', () => {
    expect(correctionOf('cut someday lead')).toEqual({ place: 'cut', lead: true, kind: null });
  });
});

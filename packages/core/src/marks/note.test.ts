import fc from 'fast-check';
import { readSidecar, writeSidecar, EMPTY_SIDECAR } from '../xmp/sidecar';
import { applyMark, UNMARKED } from './marks';
import { isNote, NOTE_MOST, noteOf, noteText } from './note';

describe('a note on a frame', () => {
  it('is words that a person reads, with the spot it points to before them', () => {
    expect(noteText({ words: '  dust\non the lens ', spot: { x: 0.4123, y: 0.3 } })).toBe(
      '[41.2 % 30 %] dust on the lens',
    );
    expect(noteOf('[41.2 % 30 %] dust on the lens')).toEqual({
      ...{ words: 'dust on the lens', spot: { x: 0.412, y: 0.3 } },
    });
    expect(noteText({ words: ' ', spot: null })).toBeNull();
    expect(noteText({ words: '', spot: { x: 1.2, y: -1 } })).toBe('[100 % 0 %]');
    expect(noteOf('[41 %] is no spot')).toEqual({ words: '[41 %] is no spot', spot: null });
    expect(noteOf('[140 % 3 %] lies outside')).toEqual({ words: '[140 % 3 %] lies outside', spot: null });
  });

  it.each(['', ' blank before', 'two\nlines', 'x'.repeat(NOTE_MOST + 1), '\ud800', 7])(
    'is not %j',
    (value) => {
      expect(isNote(value)).toBe(false);
      expect(() => applyMark(UNMARKED, { kind: 'note', to: value as string })).toThrow(TypeError);
    },
  );

  it('goes into a sidecar and comes out of it as it was, whatever it says', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: NOTE_MOST }).filter(isNote), (note) => {
        const read = readSidecar(writeSidecar({ ...EMPTY_SIDECAR, note }));
        expect(read.ok && read.model.note).toBe(note);
      }),
    );
    const taken = readSidecar(
      writeSidecar({ ...EMPTY_SIDECAR, note: null }, writeSidecar({ ...EMPTY_SIDECAR, note: 'a' })),
    );
    expect(taken.ok && taken.model.note).toBeNull();
  });
});

import { noteList } from './noteList';

describe('the list of notes beside copies', () => {
  it('names each frame that has one, with its words and where they point', () => {
    expect(
      noteList([
        { name: 'bow_0001', note: '[41.2 % 30 %] dust, "here"' },
        { name: 'bow_0002', note: null },
        { name: 'bow_0003', note: 'warmer' },
      ]),
    ).toBe('frame,note,% across,% down\r\nbow_0001,"dust, ""here""",41.2,30\r\nbow_0003,warmer,,\r\n');
    expect(noteList([{ name: 'bow_0002', note: null }])).toBe('');
  });

  it('is text and no formula, whatever a note begins with', () => {
    expect(noteList([{ name: 'a', note: '=1+1' }])).toContain("a,'=1+1,");
    expect(noteList([{ name: '-a', note: '@x' }])).toContain("'-a,'@x,");
  });
});

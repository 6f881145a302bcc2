import { changeTerms, type TermChange } from './changes';
import { captionWith, findOnRosters, isRosterNumber, rosterIn, rosterOf, rosters } from './roster';
import { Vocabulary, type Term } from './term';

const term = (id: string, word: string, parent: string | null, number: string | null = null): Term => ({
  ...{ id, word, parent, number, synonyms: [], deliver: true },
  kind: number === null ? 'subject' : 'person',
});
const vocabulary = new Vocabulary([
  term('R', 'Rowing', null),
  term('H', 'Harbour Rowers', 'R'),
  term('L', 'Lake Club', 'R'),
  term('h7', 'Ana Pinto', 'H', '7'),
  term('h12', 'Bo Lind', 'H', '12'),
  term('l7', 'Eva Lund', 'L', '7'),
  term('hc', 'cox seat', 'H'),
]);
let n = 0;
const changed = (change: TermChange): Vocabulary => {
  const result = changeTerms(vocabulary.terms, change, () => `N${n++}`);
  if (!result.ok) throw new Error(result.problem);
  return new Vocabulary(result.terms);
};
const lines = (of: Vocabulary, id = 'H') => rosterOf(of, id).map(({ number, word }) => `${number} ${word}`);

describe('rosters', () => {
  it('are numbered lists under terms, in the order of their numbers', () => {
    expect(lines(vocabulary)).toEqual(['7 Ana Pinto', '12 Bo Lind']);
    expect(rosters(vocabulary).map(({ word }) => word)).toEqual(['Harbour Rowers', 'Lake Club']);
  });

  it('are read as they are typed or pasted, and tell the line that cannot be', () => {
    expect(rosterIn('7 Ana Pinto\n\n 12.\tBo  Lind\r\nG1) Cy\n')).toEqual({
      ok: true,
      entries: [
        { number: '7', word: 'Ana Pinto' },
        { number: '12', word: 'Bo Lind' },
        { number: 'G1', word: 'Cy' },
      ],
    });
    for (const [text, line] of [
      ['7 A\n8', 2],
      ['7 A\n7 B', 2],
      ['7 A\n8 a', 2],
    ] as const)
      expect(rosterIn(text)).toMatchObject({ ok: false, line });
    expect(['7', '07', 'G-1', '7/8'].every(isRosterNumber)).toBe(true);
    expect(['', 'a b', '123456789', null].some(isRosterNumber)).toBe(false);
  });

  it('find who bears a number on the rosters of a shoot, several at once, and by name', () => {
    const found = (typed: string, ids = ['H', 'L']) =>
      findOnRosters(vocabulary, ids, typed).map(
        ({ number, word, roster }) => `${number} ${word} ${roster.word}`,
      );
    expect(found('7')).toEqual(['7 Ana Pinto Harbour Rowers', '7 Eva Lund Lake Club']);
    expect(found('1')).toEqual(['12 Bo Lind Harbour Rowers']);
    expect(found('lun')).toEqual(['7 Eva Lund Lake Club']);
    expect(found('7', ['L'])).toEqual(['7 Eva Lund Lake Club']);
    expect(found(' ')).toEqual([]);
  });

  it('change as a whole: who is new comes, who changes the number stays the same term, who is left out keeps the term alone', () => {
    const after = changed({
      do: 'roster',
      id: 'H',
      entries: [
        { number: '8', word: 'ana pinto' },
        { number: '3', word: 'Cy' },
        { number: '4', word: 'Cox Seat' },
      ],
    });
    expect(lines(after)).toEqual(['3 Cy', '4 cox seat', '8 Ana Pinto']);
    expect(after.get('h7')).toMatchObject({ number: '8', kind: 'person' });
    expect(after.get('h12')).toMatchObject({ word: 'Bo Lind', number: null });
  });

  it('write a name into a caption once, among names or after words', () => {
    expect(captionWith(null, 'Ana', [])).toBe('Ana');
    expect(captionWith('Ana', 'Bo', ['Ana'])).toBe('Ana, Bo');
    expect(captionWith('At the start.', 'Bo', ['Ana'])).toBe('At the start. Bo');
    expect(captionWith('Ana wins', 'Ana', [])).toBe('Ana wins');
  });
});

import { bringTerms, fromIndented, TermSearch, Vocabulary } from '@arkiv/core';
import { treeRows } from './treeRows';

let n = 0;
const brought = fromIndented('Animals\n\tBirds\n\t\theron\n\t\t\t{Ardea}\n\t\tgull\n\tFish\nPlaces\n');
const vocabulary = new Vocabulary(bringTerms([], brought.ok ? brought.terms : [], () => `T${n++}`).terms);
const known = { vocabulary, search: new TermSearch(vocabulary) };
const id = (word: string) => vocabulary.terms.find((term) => term.word === word)!.id;
const lines = (open: string[], typed = '') =>
  treeRows(known, new Set(open.map(id)), typed).map(
    ({ word, depth, below, aside }) => `${' '.repeat(depth)}${word} ${below}${aside && ` (${aside})`}`,
  );

describe('the lines of a vocabulary', () => {
  it('show what is opened, each under what it stands under', () => {
    expect(lines([])).toEqual(['Animals folded', 'Places none']);
    expect(lines(['Animals', 'Birds'])).toEqual([
      ...['Animals open', ' Birds open', '  gull none', '  heron none (Ardea)', ' Fish none', 'Places none'],
    ]);
  });

  it('show nothing under a folded one, whatever is opened below it', () =>
    expect(lines(['Birds'])).toEqual(['Animals folded', 'Places none']));

  it('show what fits what is typed with its place, and by which other word it fits', () => {
    expect(lines([], 'ard')).toEqual(['heron none (also “Ardea” · Animals › Birds)']);
    expect(lines(['Animals'], 'zebra')).toEqual([]);
  });
});

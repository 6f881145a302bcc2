import { termsAlong } from './along';
import { bringTerms } from './bring';
import { fromIndented, toIndented } from './indented';
import { Vocabulary } from './term';

let n = 0;
const vocabulary = (text: string): Vocabulary => {
  const read = fromIndented(text);
  if (!read.ok) throw new Error(read.problem);
  return new Vocabulary(bringTerms([], read.terms, () => `id${++n}`).terms);
};
const THEIRS = vocabulary(
  'birds\n\therons\n\t\tgrey heron\n\t\t\t{Ardea cinerea}\n\tterns\n[studio]\n\tlamps\npeople  #person\n\tAna Pinto  #person 7\n',
);

/** The vocabulary here after what came along. */
const after = (here: string, ...keywords: string[]) => {
  const before = vocabulary(here);
  const along = termsAlong(THEIRS, before, keywords);
  return toIndented(new Vocabulary(bringTerms(before.terms, along, () => `id${++n}`).terms));
};

describe('what comes along of another vocabulary', () => {
  it('is what its keywords say that are not known here, with their places and words', () => {
    expect(after('boats\n', 'grey heron', 'birds', 'herons')).toBe(
      'birds\n\therons\n\t\tgrey heron\n\t\t\t{Ardea cinerea}\nboats\n',
    );
    // A branch that stands here already is gone on from.
    expect(after('birds\n\tswans\n', 'grey heron')).toBe(
      'birds\n\therons\n\t\tgrey heron\n\t\t\t{Ardea cinerea}\n\tswans\n',
    );
  });

  it('never moves what is known here, by its name or as another word of something', () => {
    expect(after('Grey heron\n', 'grey heron')).toBe('Grey heron\n');
    expect(after('heron\n\t{grey heron}\n', 'grey heron', 'herons')).toBe(
      'birds\n\therons\nheron\n\t{grey heron}\n',
    );
  });

  it('keeps what is not delivered, what is a person, and numbers; words that nothing is called bring nothing', () => {
    expect(after('', 'Ana Pinto', 'lamps', 'terns?')).toBe(
      toIndented(vocabulary('people  #person\n\tAna Pinto  #person 7\n[studio]\n\tlamps\n')),
    );
    expect(after('', 'studio')).toBe('[studio]\n');
    expect(termsAlong(THEIRS, vocabulary('boats\n'), ['seen once'])).toEqual([]);
  });
});

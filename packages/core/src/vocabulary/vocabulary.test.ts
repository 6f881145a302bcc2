import fc from 'fast-check';
import { Parser } from 'n3';
import { keywordKind, applyMark, UNMARKED } from '../marks/marks';
import { bringTerms } from './bring';
import { changeTerms, followTerm, type TermChange } from './changes';
import { giveTerm, giveWords, treeOf } from './give';
import { fromIndented, toIndented } from './indented';
import { TermSearch } from './search';
import { fromStatements, toTurtle, type Statement } from './skos';
import { isTerm, Vocabulary, type Term } from './term';

let n = 0;
const newId = () => `T${String(++n).padStart(4, '0')}`;

/** Terms of indented text. */
function termsOf(text: string): Term[] {
  const read = fromIndented(text);
  if (!read.ok) throw new Error(`${read.line}: ${read.problem}`);
  return bringTerms([], read.terms, newId).terms;
}
const BIRDS = `Animals
	Birds
		heron
			{Ardea}
			grey heron
		gull
			{seagull}
	Fish
		bow fish
Ship parts
	[Hull]
		bow
Weapons
	bow
`;
const vocabulary = new Vocabulary(termsOf(BIRDS));
const id = (word: string, of = vocabulary) => of.terms.find((term) => term.word === word)!.id;

describe('a vocabulary', () => {
  it('gives with a term its other words and those under which it stands', () => {
    expect(vocabulary.given(id('heron'))).toEqual(['heron', 'Ardea', 'Birds', 'Animals']);
    expect(vocabulary.path(id('grey heron'))).toEqual(['Animals', 'Birds', 'heron', 'grey heron']);
    expect(vocabulary.givenBy(['Seagull', 'pier', 'bow'])).toEqual([
      ...['gull', 'seagull', 'Birds', 'Animals', 'pier', 'bow'],
    ]);
  });

  it('tells by their ancestors which of two terms of one name a frame has', () => {
    const paths = (words: string[]) =>
      vocabulary.termsOf(words).map((term) => vocabulary.path(term.id).join(' > '));
    expect(paths(['bow', 'weapons'])).toEqual(['Weapons > bow', 'Weapons']);
    expect(paths(['bow'])).toEqual([]);
    expect(paths(['GULL', 'pier'])).toEqual(['Animals > Birds > gull']);
  });

  it('orders by words, and shows at the top what stands under nothing that is there', () => {
    const torn = new Vocabulary([
      ...vocabulary.terms,
      { ...vocabulary.terms[0]!, id: 'x', word: 'ants', parent: 'gone' },
    ]);
    expect(torn.children(null).map(({ word }) => word)).toEqual(['Animals', 'ants', 'Ship parts', 'Weapons']);
    expect(vocabulary.withAllBelow(id('Birds')).map(({ word }) => word)).toEqual([
      ...['Birds', 'gull', 'heron', 'grey heron'],
    ]);
  });

  it('is searched by what words begin with first, then by what they hold, without case and accents', () => {
    const terms = termsOf('Reiher\n\t{héron}\nheron\nheron island\ngrey heron\nsheronia\nfish\n');
    const search = new TermSearch(new Vocabulary(terms));
    const found = search.find('HERON', 9).map(({ term, by }) => [term.word, by]);
    expect(found).toEqual([
      ['heron', null],
      ['Reiher', 'héron'],
      ['heron island', null],
      ['grey heron', null],
      ['sheronia', null],
    ]);
    expect([search.find('heron', 2).length, search.find(' ', 9).length]).toEqual([2, 0]);
  });

  it('takes no term from outside that is none', () => {
    expect(vocabulary.terms.every(isTerm)).toBe(true);
    const [term] = vocabulary.terms;
    for (const wrong of [
      { word: ' x' },
      { kind: 'thing' },
      { synonyms: [''] },
      { deliver: 1 },
      { parent: 3 },
    ])
      expect(isTerm({ ...term, ...wrong })).toBe(false);
  });
});

describe('changes of a vocabulary', () => {
  const changed = (change: TermChange, terms = vocabulary.terms): Vocabulary => {
    const result = changeTerms(terms, change, newId);
    if (!result.ok) throw new Error(result.problem);
    return new Vocabulary(result.terms);
  };
  /** A frame's keywords after a change of the vocabulary. */
  const followed = (change: TermChange, keywords: string[]): string[] => {
    const after = changed(change);
    const marks = followTerm(vocabulary, after, change, keywords).reduce(
      (now, { kind, to }) => applyMark(now, { kind, to }),
      { ...UNMARKED, keywords: keywords.join('\n') },
    );
    return marks.keywords.split('\n').sort();
  };

  it('rename a term, on frames too, and only on those that have this one', () => {
    const change: TermChange = { do: 'rename', id: id('grey heron'), word: 'Grey Heron' };
    expect(changed(change).get(id('grey heron'))!.word).toBe('Grey Heron');
    expect(followed(change, ['grey heron', 'Birds'])).toEqual(['Birds', 'Grey Heron']);
    const weapon = vocabulary.terms.filter(({ word }) => word === 'bow')[1]!;
    const other: TermChange = { do: 'rename', id: weapon.id, word: 'longbow' };
    expect(followed(other, ['bow', 'Weapons'])).toEqual(['Weapons', 'longbow']);
    expect(followed(other, ['bow', 'Hull', 'Ship parts'])).toEqual(['Hull', 'Ship parts', 'bow']);
  });

  it('move a term: its old ancestors go where nothing else stands under them, the new ones come', () => {
    const change: TermChange = { do: 'move', id: id('heron'), parent: id('Fish') };
    expect(changed(change).path(id('grey heron'))).toEqual(['Animals', 'Fish', 'heron', 'grey heron']);
    expect(followed(change, ['heron', 'Birds', 'Animals'])).toEqual(['Animals', 'Ardea', 'Fish', 'heron']);
    expect(followed(change, ['heron', 'gull', 'Birds', 'Animals'])).toEqual([
      ...['Animals', 'Ardea', 'Birds', 'Fish', 'gull', 'heron'],
    ]);
  });

  it('join a term with another, which takes what stands under it', () => {
    const change: TermChange = { do: 'join', id: id('heron'), into: id('gull') };
    const after = changed(change);
    expect(after.terms.some(({ word }) => word === 'heron')).toBe(false);
    expect(after.path(id('grey heron'))).toEqual(['Animals', 'Birds', 'gull', 'grey heron']);
    expect(followed(change, ['heron', 'Birds', 'Animals'])).toEqual(['Animals', 'Birds', 'gull', 'seagull']);
  });

  it('split a term into several, of which frames get all', () => {
    const change: TermChange = { do: 'split', id: id('bow fish'), words: ['bow fish', 'fishing'] };
    expect(
      changed(change)
        .children(id('Fish'))
        .map(({ word }) => word),
    ).toEqual(['bow fish', 'fishing']);
    expect(followed(change, ['bow fish', 'Fish'])).toEqual(['Fish', 'bow fish', 'fishing']);
    const two: TermChange = { do: 'split', id: id('gull'), words: ['tern', 'skua'] };
    expect(followed(two, ['gull', 'Birds'])).toEqual(['Birds', 'skua', 'tern']);
  });

  it('remove a term, from frames only where it is asked; what stood under it comes up', () => {
    const change: TermChange = { do: 'remove', id: id('Birds'), frames: false };
    expect(changed(change).path(id('gull'))).toEqual(['Animals', 'gull']);
    expect(followed(change, ['Birds', 'gull'])).toEqual(['Birds', 'gull']);
    expect(followed({ ...change, frames: true }, ['Birds', 'gull'])).toEqual(['gull']);
  });

  it.each<[string, TermChange]>([
    ['under itself', { do: 'move', id: id('Birds'), parent: id('grey heron') }],
    ['already', { do: 'add', word: 'GULL', parent: id('Birds'), kind: 'subject' }],
    ['already', { do: 'rename', id: id('gull'), word: 'Heron' }],
    ['stands under “Birds”', { do: 'join', id: id('Birds'), into: id('gull') }],
    ['another one', { do: 'join', id: id('gull'), into: id('gull') }],
    ['two or more', { do: 'split', id: id('gull'), words: ['gull'] }],
    ['one line', { do: 'add', word: ' x', parent: null, kind: 'subject' }],
    ['gone', { do: 'move', id: id('gull'), parent: 'nowhere' }],
    ['not in the vocabulary', { do: 'rename', id: 'nowhere', word: 'x' }],
  ])('that cannot be say why: … %s …', (words, change) => {
    const result = changeTerms(vocabulary.terms, change, newId);
    expect(result.ok ? '' : result.problem).toContain(words);
  });
});

describe('a vocabulary as text', () => {
  const same = (a: Vocabulary, b: Vocabulary) => expect(toIndented(b)).toBe(toIndented(a));

  it('is indented, with synonyms in braces and what is not delivered in brackets, and comes back the same', () => {
    const terms = termsOf(`${BIRDS}Ana Pinto  #person 7\n`);
    const text = toIndented(new Vocabulary(terms));
    expect(text).toContain('\t\theron\n\t\t\t{Ardea}\n\t\t\tgrey heron\n');
    expect(text).toContain('\t[Hull]\n');
    expect(text).toContain('Ana Pinto  #person 7\n');
    same(new Vocabulary(terms), new Vocabulary(termsOf(text)));
  });

  it('is read with blanks for tabs, and tells the line that cannot be', () => {
    expect(termsOf('a\n  b\n    c\n  d\n').map(({ word }) => word)).toEqual(['a', 'b', 'c', 'd']);
    expect(fromIndented('a  #person 7\nb  #person !\n')).toMatchObject({ ok: false, line: 2 });
    expect(fromIndented('a\n\n\t[]\n')).toMatchObject({ ok: false, line: 3 });
    expect(fromIndented('\ta\n')).toMatchObject({ ok: false, line: 1 });
    expect(fromIndented('{a}\n')).toMatchObject({ ok: false, line: 1 });
  });

  it('adds to what is there, and says how much', () => {
    const more = fromIndented('animals\n\tbirds\n\t\tgull\n\t\t\t{Larus}\n\t\ttern\n');
    const { terms, added, changed } = bringTerms(vocabulary.terms, more.ok ? more.terms : [], newId);
    expect([added, changed]).toEqual([1, 1]);
    const now = new Vocabulary(terms);
    expect(now.get(id('gull'))!.synonyms).toEqual(['seagull', 'Larus']);
    expect(now.path(id('tern', now))).toEqual(['Animals', 'Birds', 'tern']);
    expect(bringTerms(terms, more.ok ? more.terms : [], newId)).toMatchObject({ added: 0, changed: 0 });
  });

  /** What a parser that is not ours reads in Turtle. */
  const statements = (turtle: string): Statement[] =>
    new Parser().parse(turtle).map(({ subject, predicate, object }) => ({
      subject: subject.value,
      predicate: predicate.value,
      object: {
        value: object.value,
        literal: object.termType === 'Literal',
        language: object.termType === 'Literal' ? object.language : '',
      },
    }));

  it('is SKOS to a parser that is not ours, and comes back the same, whatever the words', () => {
    const word = fc
      .string({ unit: 'grapheme', minLength: 1, maxLength: 12 })
      .map((text) =>
        text
          .replace(/[\p{Cs}\p{Cc}\u2028\u2029]/gu, '')
          .trim()
          .replace(/\s+/g, ' '),
      )
      .filter((text) => text !== '' && !/^[[{]|[\]}]$|#\w+$/.test(text));
    const path = fc.array(word, { minLength: 1, maxLength: 4 });
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            path,
            synonyms: fc.array(word, { maxLength: 2 }),
            kind: fc.constantFrom('subject', 'person', 'place', 'event'),
            number: fc.constantFrom(null, '7', 'G-1'),
            deliver: fc.boolean(),
          }),
          { maxLength: 6 },
        ),
        (brought) => {
          const { terms } = bringTerms([], brought, newId);
          const back = bringTerms(
            [],
            fromStatements(statements(toTurtle(new Vocabulary(terms)))),
            newId,
          ).terms;
          const facts = (of: readonly Term[]) => {
            const its = new Vocabulary(of);
            return of
              .map((term) =>
                JSON.stringify([
                  its.path(term.id),
                  [...term.synonyms].filter((s) => s !== term.word).sort(),
                  term.kind,
                  term.number,
                  term.deliver,
                ]),
              )
              .sort();
          };
          expect(facts(back)).toEqual(facts(terms));
        },
      ),
    );
  });

  it('takes what other programs write: narrower concepts, labels of several languages, circles', () => {
    const skos = 'http://www.w3.org/2004/02/skos/core#';
    const turtle = `@prefix skos: <${skos}> .
<a> skos:prefLabel "Vogel"@de, "Bird"@en ; skos:narrower <b> .
<b> skos:prefLabel "Heron"@en ; skos:altLabel "Reiher"@de ; skos:hiddenLabel "herron" .
<c> skos:prefLabel "C" ; skos:broader <d> . <d> skos:prefLabel "D" ; skos:broader <c> .`;
    const read = fromStatements(
      new Parser({ baseIRI: 'http://example.invalid/' }).parse(turtle).map((quad) => ({
        subject: quad.subject.value,
        predicate: quad.predicate.value,
        object: {
          value: quad.object.value,
          literal: quad.object.termType === 'Literal',
          language: quad.object.termType === 'Literal' ? quad.object.language : '',
        },
      })),
    );
    expect(read.find(({ path }) => path.at(-1) === 'Heron')).toEqual({
      ...{ path: ['Bird', 'Heron'], synonyms: ['Reiher', 'herron'], kind: null, number: null, deliver: true },
    });
    expect(read.find(({ path }) => path.at(-1) === 'Bird')!.synonyms).toEqual(['Vogel']);
    expect(read).toHaveLength(4);
  });
});

describe('words that are given to frames', () => {
  const people = new Vocabulary(
    termsOf('Rowing\n\tHarbour Rowers\n\t\tAna Pinto  #person\n\t\t\t{A. Pinto}\nboat\n'),
  );

  it('are keywords with all above them; a person is one whichever field it was typed into', () => {
    const ana = ['Ana Pinto', 'A. Pinto', 'Harbour Rowers', 'Rowing'];
    expect(giveWords(people, 'keywords', ['boat', 'a. pinto'])).toEqual({
      ...{ keywords: ['boat', ...ana], persons: ['Ana Pinto'] },
    });
    expect(giveWords(people, 'persons', ['A. PINTO', 'Bo Lind', 'boat'])).toEqual({
      ...{ keywords: ana, persons: ['Ana Pinto', 'Bo Lind', 'boat'] },
    });
    const term = people.named('Ana Pinto')[0]!;
    expect(giveTerm(people, term)).toEqual({ keywords: ana, persons: ['Ana Pinto'] });
    expect(giveTerm(people, people.named('boat')[0]!)).toEqual({ keywords: ['boat'], persons: [] });
  });
});

describe('where a frame’s keywords stand', () => {
  it('is told from the top down, for what nothing else of it stands under', () => {
    expect(treeOf(vocabulary, ['heron', 'Birds', 'Animals', 'pier', 'bow', 'Weapons'])).toEqual([
      ['Animals', 'Birds', 'heron'],
      ['Weapons', 'bow'],
    ]);
    expect(treeOf(vocabulary, ['Animals', 'pier'])).toEqual([['Animals']]);
  });
});

describe('keywords of frames', () => {
  it('stay what they are where the vocabulary only learns of them', () => {
    const change: TermChange = {
      do: 'set',
      id: id('gull'),
      synonyms: ['Larus'],
      kind: 'subject',
      deliver: false,
    };
    expect(followTerm(vocabulary, vocabulary, change, ['gull', 'Birds'])).toEqual([]);
    expect(keywordKind('gull')).toBe('keyword gull');
  });
});

import { row } from './rows.testing';
import { facetsOf } from './facets';
import { FindIndex, type FoundRow } from './findIndex';
import { foldersOf } from './folders';
import { inOrder, underHeadings, type FindHeading } from './results';
import { lettersApart, mayDiffer, meantBy } from './spelling';
import { meantWord, suggestionsFor } from './suggestions';

const SHOOTS = [
  { id: 's1', title: 'Pier walk', client: 'Harbour Trust', place: 'Lagoa', date: '2029-04-18' },
  { id: 's2', title: 'Press night', client: 'Harbour Trust', place: '', date: '2028-04-18' },
];
const FRAMES: Partial<FoundRow>[] = [
  {
    shootId: 's1',
    instant: 100,
    taken: 202904180914,
    keywords: 'heron\nbird',
    persons: 'Ana Pinto',
    stars: 4,
  },
  { shootId: 's1', instant: 300, taken: 202905010000, keywords: 'Heron', stars: 5, iso: 400 },
  { shootId: 's2', instant: 200, taken: 202804180914, keywords: 'fish', piles: 'P1+P2', stars: 4, iso: 100 },
  {
    shootId: 's2',
    instant: null,
    taken: null,
    caption: 'a herd of herons',
    drives: 'D1',
    format: 'dng+jpeg',
  },
  { shootId: 's2', instant: 400, taken: 202905020000, binned: true, keywords: 'heron' },
];

function filled(frames = FRAMES): FindIndex {
  const index = new FindIndex();
  SHOOTS.forEach((shoot) => index.setShoot(shoot));
  index.put(frames.map((facts, i) => row(i, facts)));
  return index;
}
const keys = (index: FindIndex, numbers: Iterable<number>) => [...numbers].map((n) => index.keyOf(n));

describe('folders of found frames', () => {
  const index = filled(
    ['2029/Pier 10', '2029/Pier 10', '2029/Pier 2/raw', '2029', 'Old/a', '2029x', ''].map((lies, i) => ({
      lies,
      // What lies in the bin is nowhere.
      binned: i === 1,
    })),
  );

  it('are those in one, each with what lies below it, by their names', () => {
    expect(foldersOf(index, '')).toEqual({
      frames: 6,
      own: 1,
      folders: [
        { path: '2029', name: '2029', frames: 3 },
        { path: '2029x', name: '2029x', frames: 1 },
        { path: 'Old', name: 'Old', frames: 1 },
      ],
    });
    expect(foldersOf(index, '2029')).toEqual({
      frames: 3,
      own: 1,
      folders: [
        { path: '2029/Pier 2', name: 'Pier 2', frames: 1 },
        { path: '2029/Pier 10', name: 'Pier 10', frames: 1 },
      ],
    });
    expect(foldersOf(index, '2029/Pier 2/raw')).toEqual({ frames: 1, own: 1, folders: [] });
    expect(foldersOf(index, 'nowhere')).toEqual({ frames: 0, own: 0, folders: [] });
  });
});

describe('found frames', () => {
  it('stand in order of time, the newest first, those without one last', () => {
    const index = filled();
    expect(keys(index, inOrder(index, index.all()))).toEqual([1, 2, 0, 3]);
    expect(keys(index, inOrder(index, index.all(), true))).toEqual([0, 2, 1, 3]);
    expect(keys(index, inOrder(index, index.all(true)))).toEqual([4, 1, 2, 0, 3]);
  });

  it('stand in one order, whether few of many are found or many', () => {
    const index = filled(
      Array.from({ length: 2000 }, (_, i) => ({ instant: (i * 611) % 1999, stars: i % 50 === 0 ? 5 : 0 })),
    );
    const all = index.all();
    const few = index.all().without(index.all());
    for (let n = 0; n < 2000; n += 50) few.add(n);
    const picked = [...inOrder(index, all)].filter((n) => few.has(n));
    expect([...inOrder(index, few)]).toEqual(picked);
  });

  it.each<[FindHeading, (string | null)[], number[], number[]]>([
    ['none', [null], [4], [1, 2, 0, 3]],
    ['shoot', ['s1', 's2'], [2, 2], [1, 0, 2, 3]],
    ['year', ['2029', '2028', null], [2, 1, 1], [1, 0, 2, 3]],
    ['month', ['2029-05', '2028-04', '2029-04', null], [1, 1, 1, 1], [1, 2, 0, 3]],
    ['stars', ['5', '4', '0'], [1, 2, 1], [1, 2, 0, 3]],
    ['keyword', ['fish', 'Heron', 'heron', null], [1, 1, 1, 1], [2, 1, 0, 3]],
  ])('stand under headings by %s', (heading, names, counts, wanted) => {
    const index = filled();
    const { numbers, groups } = underHeadings(index, inOrder(index, index.all()), heading);
    expect(groups.map(({ key }) => key)).toEqual(names);
    expect(groups.map(({ count }) => count)).toEqual(counts);
    expect(keys(index, numbers)).toEqual(wanted);
    expect(groups.map(({ from }) => from)).toEqual(
      counts.map((_, i) => counts.slice(0, i).reduce((a, b) => a + b, 0)),
    );
  });

  it('are none without a heading', () => {
    const index = filled([]);
    expect(underHeadings(index, inOrder(index, index.all()), 'shoot')).toEqual({
      numbers: new Uint32Array(),
      groups: [],
    });
  });

  it('are counted by each of their facts', () => {
    const index = filled();
    const facets = facetsOf(index, index.all());
    expect(facets.stars!.counts).toEqual([
      { value: 5, count: 1 },
      { value: 4, count: 2 },
      { value: 0, count: 1 },
    ]);
    expect(facets.iso!.counts).toEqual([
      { value: 400, count: 1 },
      { value: 100, count: 1 },
      { value: null, count: 2 },
    ]);
    expect(facets.year!.counts).toEqual([
      { value: 2029, count: 2 },
      { value: 2028, count: 1 },
      { value: null, count: 1 },
    ]);
    expect(facets.client!.counts).toEqual([{ value: 'Harbour Trust', count: 4 }]);
    expect(facets.place!.counts).toEqual([{ value: 'Lagoa', count: 2 }]);
    expect(facets.shoot!.counts.map(({ value }) => value)).toEqual(['Pier walk', 'Press night']);
    expect(facets.keywords!.counts.map(({ value, count }) => `${value} ${count}`).sort()).toEqual([
      'Heron 1',
      'bird 1',
      'fish 1',
      'heron 1',
    ]);
    expect(facets.piles!.counts).toEqual([
      { value: 'P1', count: 1 },
      { value: 'P2', count: 1 },
    ]);
    expect(facets.formats!.counts.map(({ value, count }) => `${value} ${count}`)).toEqual([
      'jpeg 4',
      'dng 1',
    ]);
    expect(facets.delivered!.counts).toEqual([{ value: null, count: 4 }]);
    expect(facets.persons!.counts).toEqual([{ value: 'Ana Pinto', count: 1 }]);
  });

  it('tell the most frequent values, and how many more there are', () => {
    const index = filled(Array.from({ length: 60 }, (_, i) => ({ body: `Body ${i % 50}` })));
    const { counts, more } = facetsOf(index, index.all()).body!;
    expect([counts.length, more, counts[0]!.count, counts[39]!.count]).toEqual([40, 10, 2, 1]);
  });
});

describe('what could be typed', () => {
  it('is of the archive’s own words, with how many frames have it', () => {
    const index = filled();
    const all = suggestionsFor(index, 'white her');
    expect(all.map(({ kind, words, count }) => `${kind} ${words} ${count}`)).toEqual([
      'keyword heron 1',
      'keyword Heron 1',
      'word heron 2',
      'word herd 1',
      'word herons 1',
    ]);
    expect(suggestionsFor(index, 'har').map(({ line, count }) => `${line} ${count}`)).toEqual([
      'client="Harbour Trust" 4',
    ]);
    expect(suggestionsFor(index, 'pinto').map(({ line }) => line)).toEqual(['person="Ana Pinto"', 'pinto']);
    expect(suggestionsFor(index, ' ')).toEqual([]);
  });

  it('is none of what is gone', () => {
    const index = filled();
    index.remove([0, 1, 3, 4]);
    expect(suggestionsFor(index, 'her')).toEqual([]);
  });

  it.each([
    ['heorn', 'heron'],
    ['hernons', 'herons'],
    ['fsih', 'fish'],
    ['her', 'heron'],
    ['he', null],
    ['Píntoo', 'pinto'],
    ['xylophone', null],
    ['hat', null],
  ])('for %s is probably %s', (typed, meant) => expect(meantWord(filled(), typed)).toBe(meant));

  it('is of a vocabulary too', () =>
    expect(meantWord(filled(), 'kingfihser', ['kingfisher'])).toBe('kingfisher'));

  it.each([
    ['heron', 'heron', 0],
    ['heron', 'heorn', 1],
    ['heron', 'hern', 1],
    ['heron', 'herons', 1],
    ['heron', 'haron', 1],
    ['heron', 'hran', 2],
    ['ca', 'abc', 3],
    ['abcdef', 'uvwxyz', 3],
  ])('%s and %s are %d letters apart', (a, b, apart) => {
    expect(lettersApart(a, b, 2)).toBe(apart);
    expect(lettersApart(b, a, 2)).toBe(apart);
  });

  it('may differ in few letters of long words only', () => {
    expect(['abc', 'abcd', 'abcdefgh', 'abcdefghijklmnop'].map(mayDiffer)).toEqual([0, 1, 2, 2]);
    expect(
      meantBy('heron', [
        { word: 'herod', count: 1 },
        { word: 'heros', count: 9 },
        { word: 'gone1', count: 0 },
      ]),
    ).toBe('heros');
  });
});

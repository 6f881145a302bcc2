import * as fc from 'fast-check';
import { applyMark, isMarkValue, markOf, UNMARKED, albumKind, type Marks } from '../marks/marks';
import { invertGroup } from '../journal/operation';
import { markFrames } from '../marks/marks';
import { predicate } from '../query/filter';
import { partsOfLine, type LinePart } from '../query/line';
import type { QueryFrame } from '../query/fields';
import { AlbumTree, namedAlbums, type Album } from './album';
import { albumPlace, albumsIn, withPlace } from './membership';
import { albumsAsJson, albumsFromText, AlbumTextError, framesAsNames } from './albumText';
import { isPlace, placesAtEnd, placesBetween } from './place';

const ID = (n: number) => `0${'A'.repeat(24)}${n}`;
const [ONE, TWO] = [ID(1), ID(2)];
const album = (id: string, more: Partial<Album> = {}): Album => ({
  ...{ id, name: id, parent: null, place: 'a0', rule: null, lead: null },
  ...more,
});

describe('places in an order made by hand', () => {
  it('go between any two, so that one thing moves and no other changes', () => {
    let order = placesBetween(null, null, 3);
    expect([...order].sort()).toEqual(order);
    // Always between the same two, as somebody does who builds a series from behind.
    for (let i = 0; i < 400; i++)
      order = [order[0]!, ...placesBetween(order[0]!, order[1]!, 1), ...order.slice(1)];
    expect([...order].sort()).toEqual(order);
    expect(new Set(order).size).toBe(403);
    expect(order.every(isPlace)).toBe(true);
    expect(Math.max(...order.map(({ length }) => length))).toBeLessThan(500);
  });

  it('are found where two windows put something at the same place', () => {
    const [place] = placesBetween('a1', 'a1', 1);
    expect(place! > 'a1').toBe(true);
  });

  it('follow the clock where nobody knows what stands last', () => {
    const first = placesAtEnd(1_900_000_000_000, 3);
    const later = placesAtEnd(1_900_000_000_001, 1);
    expect([...first, ...later].sort()).toEqual([...first, ...later]);
    expect([...first, ...later].every(isPlace)).toBe(true);
    // Behind what was moved to the front or to the end by hand before, and around which more fits.
    const [front] = placesBetween(null, first[0]!, 1);
    const [end] = placesBetween(later[0]!, null, 1);
    expect([front!, first[0]!, later[0]!, end!, placesAtEnd(1_900_000_001_000, 1)[0]!]).toEqual(
      [front!, first[0]!, later[0]!, end!, placesAtEnd(1_900_000_001_000, 1)[0]!].sort(),
    );
    expect(placesAtEnd(1_900_000_000_000, 0)).toEqual([]);
  });

  it('are told from other texts', () => {
    expect(['a0', 'Zz', 'a0V'].map(isPlace)).toEqual([true, true, true]);
    expect(['', '1', 'a', 'a00', 'a0+b', 7, null].map(isPlace)).toEqual(Array(7).fill(false));
  });
});

describe('what a frame is in', () => {
  it('stands in one text, of which any part changes by itself', () => {
    const places = fc.constantFrom('a0', 'a1', 'Zz', 'a0V', null);
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.constantFrom(ONE, TWO, ID(3)), places)), (deeds) => {
        let kept = '';
        const wanted = new Map<string, string>();
        for (const [id, place] of deeds) {
          kept = withPlace(kept, id, place);
          if (place === null) wanted.delete(id);
          else wanted.set(id, place);
          expect(albumPlace(kept, id)).toBe(place);
        }
        expect(new Map(albumsIn(kept).map((one) => [one.album, one.place]))).toEqual(wanted);
      }),
    );
  });

  it('is a mark: put in, moved, taken out, and taken back to where it stood', () => {
    const kind = albumKind(ONE);
    let n = 0;
    const stamp = { newId: () => `id${++n}`, at: 1, window: 'w' };
    let marks: Marks = applyMark({ ...UNMARKED }, { kind, to: 'a5' });
    marks = applyMark(marks, { kind: albumKind(TWO), to: 'a0' });
    expect([markOf(marks, kind), markOf(marks, albumKind(TWO))]).toEqual(['a5', 'a0']);
    const out = markFrames([{ id: 'f', marks }], kind, null, stamp);
    const without = applyMark(marks, out[0]!);
    expect([markOf(without, kind), markOf(without, albumKind(TWO))]).toEqual([null, 'a0']);
    const { operations } = invertGroup(out, (_, k) => markOf(without, k), stamp);
    expect(applyMark(without, operations[0]!)).toEqual(marks);
    expect([isMarkValue(kind, 'a0'), isMarkValue(kind, null)]).toEqual([true, true]);
    expect([isMarkValue(kind, true), isMarkValue(kind, 'x+y'), isMarkValue(kind, '')]).toEqual([
      false,
      false,
      false,
    ]);
  });
});

describe('albums in albums', () => {
  const tree = new AlbumTree([
    album('birds', { place: 'a1' }),
    album('work', { place: 'a0' }),
    album('herons', { parent: 'birds', place: 'a1' }),
    album('storks', { parent: 'birds', place: 'a0' }),
    album('best', { parent: 'herons' }),
  ]);

  it('stand in the order made by hand, each with its path', () => {
    expect(tree.inOrder().map(({ album: { id }, depth }) => `${depth} ${id}`)).toEqual([
      '0 work',
      '0 birds',
      '1 storks',
      '1 herons',
      '2 best',
    ]);
    expect(tree.path('best').map(({ id }) => id)).toEqual(['birds', 'herons', 'best']);
    expect(tree.below('birds').map(({ id }) => id)).toEqual(['birds', 'storks', 'herons', 'best']);
  });

  it('cannot stand in themselves, nor deeper than anybody finds them', () => {
    expect(tree.problemOf('birds', 'best')).toBe('itself');
    expect(tree.problemOf('best', 'work')).toBeNull();
    const deep = new AlbumTree(
      Array.from({ length: 12 }, (_, i) => album(`d${i}`, { parent: i === 0 ? null : `d${i - 1}` })),
    );
    expect(deep.problemOf('birds', 'd11')).toBe('too-deep');
  });

  it('are all shown once where two moves at once put two into each other', () => {
    const ring = new AlbumTree([
      album('a', { parent: 'b' }),
      album('b', { parent: 'a' }),
      album('c', { parent: 'b' }),
      album('d', { parent: 'nowhere' }),
    ]);
    expect(
      ring
        .inOrder()
        .map(({ album: { id } }) => id)
        .sort(),
    ).toEqual(['a', 'b', 'c', 'd']);
  });
});

describe('albums in a line', () => {
  const albums = [
    album(ONE, { name: 'Birds' }),
    album(TWO, { name: 'Herons', parent: ONE, rule: 'keyword:heron ≥4★' }),
    album(ID(3), { name: 'Best of birds', rule: 'album=Birds keep' }),
    album(ID(4), { name: 'Ring', rule: 'album:ring' }),
    album(ID(5), { name: 'Elsewhere', rule: 'client:trust' }),
  ];
  const context = { unknown: ['client' as const] };
  const ask = (line: string) => partsOfLine(line, { albums: namedAlbums(new AlbumTree(albums), context) });
  const frame = (more: Partial<QueryFrame>) =>
    ({
      ...{
        name: 'f',
        keywords: '',
        persons: '',
        texts: '',
        finish: '',
        piles: '',
        advice: '',
        format: 'jpeg',
        albums: '',
      },
      ...{ stars: 0, verdict: 'undecided' },
      ...more,
    }) as QueryFrame;
  const says = (line: string, more: Partial<QueryFrame>) => {
    const { filter, problem } = ask(line)[0]!;
    return problem ?? predicate(filter)(frame(more));
  };

  it('mean what is in them and below them, by hand or by rule', () => {
    expect(says('album:birds', { albums: `${ONE}:a0` })).toBe(true);
    expect(says('album=Birds', { keywords: 'heron', stars: 4 })).toBe(true);
    expect(says('album=Birds', { keywords: 'heron', stars: 3 })).toBe(false);
    expect(says('-album=Birds', { keywords: 'heron', stars: 3 })).toBe(true);
    expect(says('album:none', { albums: '' })).toMatch(/asks for the album itself/);
  });

  it('are asked for by rules of other albums', () => {
    expect(says('album:"Best of"', { albums: `${ONE}:a0`, verdict: 'keep' })).toBe(true);
    expect(says('album:"Best of"', { albums: `${ONE}:a0` })).toBe(false);
  });

  it('say what cannot be followed, and hide nothing then', () => {
    expect(says('album:ring', {})).toMatch(/asks for the album itself/);
    expect(says('album:elsewhere', {})).toMatch(
      /The rule of the album “Elsewhere” cannot be followed: .*Find only/,
    );
    expect(says('album:nowhere', {})).toBe('No album is called “nowhere”.');
  });

  it('mean the same among frames of one shoot as among all: what a rule asks of the shoot, by a field or by a word', () => {
    const ruled = [
      album(ONE, { name: 'For the trust', rule: 'client:trust ≥4★' }),
      album(TWO, { name: 'Of the ball', rule: 'ball' }),
    ];
    const said = (line: string, client: string, its: Partial<QueryFrame>) => {
      const shoot = { title: 'Autumn ball', client, place: '' };
      const albums = namedAlbums(new AlbumTree(ruled), { shoot });
      const [{ filter, problem }] = partsOfLine(line, { albums, shoot }) as [LinePart];
      return problem ?? predicate(filter)(frame(its));
    };
    expect(said('album="For the trust"', 'Harbour Trust', { stars: 4 })).toBe(true);
    expect(said('album="For the trust"', 'Harbour Trust', { stars: 3 })).toBe(false);
    expect(said('album="For the trust"', 'Somebody', { stars: 4 })).toBe(false);
    expect(said('album="Of the ball"', '', {})).toBe(true);
    // What is typed asks for what tells the frames of a shoot apart: all of them have its title.
    expect(said('ball', '', {})).toBe(false);
    expect(said('ball', '', { caption: 'The ball' })).toBe(true);
    expect(said('shoot:ball', '', {})).toBe(true);
    expect(said('-place:none', '', {})).toBe(false);
  });
});

describe('albums as text', () => {
  const tree = new AlbumTree([
    album(ONE, { name: 'Birds', lead: 'f2' }),
    album(TWO, { name: 'Herons', parent: ONE, rule: 'heron ≥4★' }),
  ]);
  const frames = [
    { id: 'f1', sha256: 'ab'.repeat(32), name: 'pier_0001.dng', folder: '2029/pier/originals' },
    { id: 'f2', name: 'pier_0002.jpg', folder: '' },
  ];

  it('come back from JSON as they were', () => {
    const text = albumsAsJson(tree, tree.children(null), { id: 'x', name: 'Made' }, ({ id }) =>
      id === ONE ? frames : [],
    );
    expect(albumsFromText(text, 'albums.json')).toEqual([
      {
        ...{ name: 'Birds', rule: null, lead: 1, frames },
        albums: [{ name: 'Herons', rule: 'heron ≥4★', lead: null, frames: [], albums: [] }],
      },
    ]);
  });

  it('come from a list of names or paths of any system, under the name of its file', () => {
    const text = '\uFEFF# chosen\r\n"C:\\Shots\\2029\\IMG_0001.CR3"\r\npier_0002\n\n/Volumes/a/b.jpg\n';
    expect(albumsFromText(text, 'Wall prints.txt')).toEqual([
      {
        ...{ name: 'Wall prints', rule: null, lead: null, albums: [] },
        frames: [
          { name: 'IMG_0001.CR3', folder: 'C:/Shots/2029' },
          { name: 'pier_0002', folder: '' },
          { name: 'b.jpg', folder: 'Volumes/a' },
        ],
      },
    ]);
    expect(framesAsNames(frames)).toBe('2029/pier/originals/pier_0001.dng\npier_0002.jpg\n');
  });

  it('say what is wrong with them, and where', () => {
    const wrong = (said: unknown) => () => albumsFromText(JSON.stringify(said), 'a.json');
    const made = (albums: unknown) => wrong({ format: 'arkiv-albums', schema: 1, albums });
    expect(wrong({ format: 'arkiv-keys' })).toThrow(/no list of albums/);
    expect(wrong({ format: 'arkiv-albums', schema: 2, albums: [] })).toThrow(/A newer Arkiv/);
    expect(made([{ name: 'a', albums: [{}] }])).toThrow('albums[0].albums[0] has no name.');
    expect(made([{ name: 'a', frames: [{ name: 'x' }, {}] }])).toThrow('albums[0].frames[1] has no name.');
    expect(() => albumsFromText('{"format"', 'a.json')).toThrow(/begins as JSON and is none/);
    expect(() => albumsFromText('\n# nothing\n', 'a.txt')).toThrow(AlbumTextError);
  });
});

import { AlbumTree } from '@arkiv/core';
import type { Album } from '../../data/albums';
import { albumRows, moveOf, type AlbumMove } from './albumMoves';

const album = (id: string, place: string, parent: string | null = null): Album => ({
  ...{ id, name: id, place, parent, rule: null, lead: null, removed: false },
});
const tree = new AlbumTree([
  album('birds', 'a0'),
  album('herons', 'a0', 'birds'),
  album('storks', 'a1', 'birds'),
  album('best', 'a0', 'storks'),
  album('work', 'a1'),
  album('web', 'a2'),
]);
const to = (id: string, where: AlbumMove) => {
  const move = moveOf(tree, id, where);
  return move && `${move.parent ?? '–'} before ${move.before ?? 'end'}`;
};

describe('albums as lines', () => {
  it('stand in each other, and what is folded hides what is in it', () => {
    const shown = (folded: string[]) =>
      albumRows(tree, new Set(folded)).map(({ album: { id }, depth, below }) => `${depth} ${id} ${below}`);
    expect(shown([])).toEqual([
      ...['0 birds open', '1 herons none', '1 storks open', '2 best none', '0 work none', '0 web none'],
    ]);
    expect(shown(['birds'])).toEqual(['0 birds folded', '0 work none', '0 web none']);
  });
});

describe('moving an album', () => {
  it('by keys: beside its neighbours, into the one above, out of its own', () => {
    expect([to('work', 'up'), to('work', 'down'), to('birds', 'up'), to('web', 'down')]).toEqual([
      ...['– before birds', '– before end', null, null],
    ]);
    expect([to('storks', 'in'), to('herons', 'in')]).toEqual(['herons before end', null]);
    expect([to('best', 'out'), to('storks', 'out'), to('web', 'out')]).toEqual([
      ...['birds before end', '– before work', null],
    ]);
  });

  it('by hand: before, into or behind another one, never into itself', () => {
    expect(to('web', { over: 'herons', part: 'before' })).toBe('birds before herons');
    expect(to('web', { over: 'herons', part: 'after' })).toBe('birds before storks');
    expect(to('web', { over: 'storks', part: 'into' })).toBe('storks before end');
    expect(to('birds', { over: 'web', part: 'after' })).toBe('– before end');
    expect(to('birds', { over: 'best', part: 'into' })).toBeNull();
    expect(to('birds', { over: 'birds', part: 'into' })).toBeNull();
  });
});

import { movedIn, placeKind } from './bookmarkPlaces';

describe('bookmarks', () => {
  it('say what they lead to', () => {
    expect(
      [
        ...[
          '/shoots/01A/cull?view=single',
          '/shoots/01A/files',
          '/albums/01B',
          '/find?q=heron',
          '/find/all/cull',
        ],
        ...['/piles/01C', '/studio'],
      ].map(placeKind),
    ).toEqual(['shoot', 'shoot · Files', 'album', 'search', 'search · Cull', 'pile', '']);
  });

  it('change places', () => {
    expect([movedIn(['a', 'b', 'c'], 2, -1), movedIn(['a', 'b', 'c'], 0, 1)]).toEqual([
      ['a', 'c', 'b'],
      ['b', 'a', 'c'],
    ]);
  });
});

import {
  bookmarksOpen,
  closeBookmarks,
  openBookmarks,
  subscribeBookmarks,
  typeAhead,
  typedAhead,
} from './bookmarks';

describe('the bookmarks, while they are on their way', () => {
  it('have the last key that was pressed meanwhile, once, and none of an earlier time', () => {
    openBookmarks();
    typeAhead('2');
    typeAhead('3');
    expect([typedAhead(), typedAhead()]).toEqual(['3', null]);
    typeAhead('4');
    closeBookmarks();
    openBookmarks();
    expect(typedAhead()).toBeNull();
    closeBookmarks();
  });

  it('tell whoever shows them that they were opened or closed', () => {
    const seen: boolean[] = [];
    const stop = subscribeBookmarks(() => seen.push(bookmarksOpen()));
    openBookmarks();
    closeBookmarks();
    stop();
    openBookmarks();
    expect(seen).toEqual([true, false]);
    closeBookmarks();
  });
});

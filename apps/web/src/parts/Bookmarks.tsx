import { lazy, Suspense, useEffect, useSyncExternalStore } from 'react';
import { useBindings } from '../data/bindings';
import { fetched } from '../data/fetched';
import { pressNames } from '../keys/pressed';
import { bookmarksOpen, closeBookmarks, openBookmarks, subscribeBookmarks, typeAhead } from './bookmarks';

const load = () => import('./BookmarksDialog');
// The first page need not wait for it; it is there before anybody has found the key.
const BookmarksDialog = lazy(async () => ({ default: (await fetched(load)).BookmarksDialog }));

/** Opens the bookmarks at their key on every screen. */
export function Bookmarks() {
  const open = useSyncExternalStore(subscribeBookmarks, bookmarksOpen);
  const bindings = useBindings();
  useEffect(() => void load().catch(() => undefined), []);
  useEffect(() => {
    const hear = (event: globalThis.KeyboardEvent) => {
      if (event.defaultPrevented || event.isComposing) return;
      // What is typed before the list is there was meant for it: the screen behind would mark frames by it.
      if (bookmarksOpen() && document.querySelector('[role=dialog]') === null) {
        event.preventDefault();
        event.stopPropagation();
        if (event.key === 'Escape') closeBookmarks();
        else typeAhead(event.key);
        return;
      }
      const target = event.target instanceof Element ? event.target : document.body;
      if (target.closest('[role=dialog]')) return;
      if (bindings.boundTo(pressNames(event))?.command.do !== 'bookmarks') return;
      event.preventDefault();
      openBookmarks();
    };
    // Before the screen's own keys, and from within fields too: it is the same everywhere.
    window.addEventListener('keydown', hear, true);
    return () => window.removeEventListener('keydown', hear, true);
  }, [bindings]);
  return open ? (
    <Suspense fallback={null}>
      <BookmarksDialog keys={bindings.shown('bookmarks')} />
    </Suspense>
  ) : null;
}

/** Whether the bookmarks are open: they are over all screens, and any of them may open them. */
let open = false;
const listeners = new Set<() => void>();

function set(next: boolean): void {
  open = next;
  listeners.forEach((listener) => listener());
}

export const openBookmarks = (): void => set(true);
export const closeBookmarks = (): void => set(false);
export const bookmarksOpen = (): boolean => open;
export function subscribeBookmarks(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

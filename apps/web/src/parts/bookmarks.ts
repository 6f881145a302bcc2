/** Whether the bookmarks are open: they are over all screens, and any of them may open them. */
let open = false;
let typed: string | null = null;
const listeners = new Set<() => void>();

function set(next: boolean): void {
  open = next;
  listeners.forEach((listener) => listener());
}

export const openBookmarks = (): void => {
  typed = null;
  set(true);
};
/** A key that was pressed while they were on their way is theirs when they come. */
export const typeAhead = (key: string): void => void (typed = key);
export function typedAhead(): string | null {
  const key = typed;
  typed = null;
  return key;
}
export const closeBookmarks = (): void => set(false);
export const bookmarksOpen = (): boolean => open;
export function subscribeBookmarks(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

import { useEffect } from 'react';

const listeners = new Set<() => void>();
let said = '';

/** What the screen is called that came last: for the window's own title, and for those who hear instead of see. */
export const screenTitle = {
  subscribe: (listener: () => void): (() => void) => {
    listeners.add(listener);
    return () => listeners.delete(listener);
  },
  snapshot: (): string => said,
};

/** Gives the window this title while the screen is there. */
export function useScreenTitle(title: string): void {
  useEffect(() => {
    document.title = title === '' ? 'Arkiv' : `${title} · Arkiv`;
    said = title;
    listeners.forEach((listener) => listener());
  }, [title]);
}

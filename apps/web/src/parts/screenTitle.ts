import { useEffect } from 'react';

const listeners = new Set<() => void>();
let said = '';
let archive = 'Arkiv';
const show = () => void (document.title = said === '' ? archive : `${said} · ${archive}`);

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
    said = title;
    show();
    listeners.forEach((listener) => listener());
  }, [title]);
}

/** All windows bear the archive's name: several archives may be open beside each other. */
export function nameWindows(name: string): void {
  archive = name;
  show();
}

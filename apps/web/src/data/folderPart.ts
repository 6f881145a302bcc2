import { lineValue, partsOfLine, withoutPart, withPart, type LinePart } from '@arkiv/core';

/** The folder that a line asks for. */
export interface FolderAsked {
  /** below each drive; empty: that of all */
  path: string;
  /** what lies below it is in too */
  below: boolean;
}

/** The outermost folder, in which all others lie. */
export const ALL_FOLDERS: FolderAsked = { path: '', below: true };

const askedIn = ({ filter }: LinePart): FolderAsked | null => {
  if (!('field' in filter) || filter.field !== 'lies') return null;
  if ('within' in filter) return { path: filter.within, below: true };
  return 'is' in filter ? { path: String(filter.is), below: false } : null;
};

/** The folder that a line asks for first; null: none. */
export function folderAsked(line: string): FolderAsked | null {
  for (const part of partsOfLine(line)) {
    const asked = askedIn(part);
    if (asked) return asked;
  }
  return null;
}

/** The line that asks for another folder instead, with all else that it says; null: for none. */
export function withFolder(line: string, folder: FolderAsked | null): string {
  let rest = line;
  for (;;) {
    const part = partsOfLine(rest).find((one) => askedIn(one) !== null);
    if (!part) break;
    rest = withoutPart(rest, part);
  }
  if (folder === null) return rest;
  const { path, below } = folder;
  return withPart(rest, below ? `below:${lineValue(path === '' ? '/' : path)}` : `folder=${lineValue(path)}`);
}

/** The folders around one, the outermost first, and it itself. */
export function pathOf(path: string): { path: string; name: string }[] {
  const parts = path === '' ? [] : path.split('/');
  return parts.map((name, i) => ({ name, path: parts.slice(0, i + 1).join('/') }));
}

import type { AlbumTree } from '@arkiv/core';
import type { Album } from '../../data/albums';

/** A line of the list of albums. */
export interface AlbumRow {
  album: Album;
  depth: number;
  below: 'none' | 'open' | 'folded';
}

/** Where an album is moved: beside its neighbours, into the one above it, out of its own, or where a hand lets it go. */
export type AlbumMove = 'up' | 'down' | 'in' | 'out' | { over: string; part: 'before' | 'into' | 'after' };

/** The albums as lines, without those that stand in one that is folded. */
export function albumRows(
  tree: AlbumTree<Album>,
  folded: ReadonlySet<string>,
  parent: string | null = null,
  depth = 0,
): AlbumRow[] {
  return tree.children(parent).flatMap((album) => {
    const has = tree.children(album.id).length > 0;
    const open = has && !folded.has(album.id);
    return [
      { album, depth, below: has ? (open ? 'open' : 'folded') : 'none' } as const,
      ...(open ? albumRows(tree, folded, album.id, depth + 1) : []),
    ];
  });
}

/** What changes of an album that is moved so; null: it stands there already, or cannot. */
export function moveOf(
  tree: AlbumTree<Album>,
  id: string,
  where: AlbumMove,
): { parent: string | null; before: string | null } | null {
  const album = tree.get(id);
  if (!album) return null;
  const parent = tree.path(id).at(-2)?.id ?? null;
  const beside = tree.children(parent);
  const at = beside.findIndex((one) => one.id === id);
  const idAt = (i: number): string | null => beside[i]?.id ?? null;
  switch (where) {
    case 'up':
      return at === 0 ? null : { parent, before: idAt(at - 1) };
    case 'down':
      return at === beside.length - 1 ? null : { parent, before: idAt(at + 2) };
    case 'in': {
      const into = idAt(at - 1);
      return into === null ? null : { parent: into, before: null };
    }
    case 'out': {
      if (parent === null) return null;
      const around = tree.path(parent).at(-2)?.id ?? null;
      const uncles = tree.children(around);
      const next = uncles[uncles.findIndex((one) => one.id === parent) + 1];
      return { parent: around, before: next?.id ?? null };
    }
  }
  const { over, part } = where;
  if (over === id || tree.below(id).some((one) => one.id === over)) return null;
  if (part === 'into') return { parent: over, before: null };
  const to = tree.path(over).at(-2)?.id ?? null;
  const list = tree.children(to).filter((one) => one.id !== id);
  const place = list.findIndex((one) => one.id === over) + (part === 'after' ? 1 : 0);
  return { parent: to, before: list[place]?.id ?? null };
}

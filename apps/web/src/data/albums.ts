import { albumKind, albumPlace, AlbumTree, placesAtEnd, type MarkKind, type MarkValue } from '@arkiv/core';
import { useMemo } from 'react';
import { many } from './format';
import type { LoadedFrame } from './frames';
import type { Api } from './http';
import { useGet } from './useGet';

export type Album = Api['AlbumDto'];

const NONE: readonly Album[] = [];

/** The albums that are there, in each other, and those that were taken away. */
export function useAlbums(): {
  tree: AlbumTree<Album>;
  removed: readonly Album[];
  loaded: boolean;
  error: unknown;
} {
  const { data, error } = useGet('/albums');
  return useMemo(() => {
    const all = data ?? NONE;
    const removed = all.filter((album) => album.removed);
    const tree = new AlbumTree(all.filter((album) => !album.removed));
    return { tree, removed, loaded: data !== undefined, error: error as unknown };
  }, [data, error]);
}

/** An album as frames are put into it. */
export interface AlbumChoice {
  id: string;
  name: string;
}

/** Albums that take frames by hand, each with where it stands. */
export const albumChoices = (tree: AlbumTree<Album>): AlbumChoice[] =>
  tree
    .inOrder()
    .filter(({ album }) => album.rule === null)
    .map(({ album: { id } }) => ({ id, name: pathWords(tree, id) }));

/** An album with those that it stands in, as it is read. */
export const pathWords = (tree: AlbumTree<Album>, id: string): string =>
  tree
    .path(id)
    .map(({ name }) => name)
    .join(' › ');

export interface AlbumChanges {
  changes: { id: string; field: MarkKind; to: MarkValue }[];
  /** whether they are put in, or taken out */
  into: boolean;
}

/**
 * What puts frames into an album, in their order, behind those that are in it; where all are in it already and `out` is allowed,
 * what takes them out. `now`: milliseconds since 1970 UTC.
 */
export function albumChanges(
  album: string,
  frames: readonly LoadedFrame[],
  now: number,
  out = true,
): AlbumChanges {
  const field = albumKind(album);
  const outside = frames.filter(({ albums }) => albumPlace(albums, album) === null);
  if (outside.length === 0)
    return out
      ? { changes: frames.map(({ id }) => ({ id, field, to: null })), into: false }
      : { changes: [], into: true };
  const places = placesAtEnd(now, outside.length);
  return { changes: outside.map(({ id }, i) => ({ id, field, to: places[i]! })), into: true };
}

/** What was done, as it is said. */
export function albumWords(frames: number, into: boolean, name: string): string {
  if (into) return `${many(frames, 'frame')} into the album “${name}”`;
  return frames === 1
    ? `Out of “${name}”. The frame stays in its shoot`
    : `${many(frames, 'frame')} out of “${name}”. The frames stay in their shoots`;
}

import { useMemo } from 'react';
import { albumChoices, useAlbums, type AlbumChoice } from '../../../data/albums';
import { useLast } from '../useLast';

/** Albums that take frames, the one that they go into, and how another one is chosen. */
export function useIntoAlbums() {
  const { tree } = useAlbums();
  const albums = useMemo(() => albumChoices(tree), [tree]);
  const [album, chooseAlbum] = useLast<AlbumChoice>('arkiv.cull.album', albums);
  return { tree, albums, album, chooseAlbum };
}

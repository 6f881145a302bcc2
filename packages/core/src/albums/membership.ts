import type { Place } from './place';

/** An album that a frame is in, and where it stands there. */
export interface Membership {
  album: string;
  place: Place;
}

/** The albums of a frame out of one text: `id:place`, in the order of the ids, joined by `+`. */
export const albumsIn = (kept: string): Membership[] =>
  kept === ''
    ? []
    : kept.split('+').map((one) => {
        const colon = one.indexOf(':');
        return { album: one.slice(0, colon), place: one.slice(colon + 1) };
      });

/** Where a frame stands in an album; null: it is not in it. */
export function albumPlace(kept: string, album: string): Place | null {
  if (!kept.includes(`${album}:`)) return null;
  return albumsIn(kept).find((one) => one.album === album)?.place ?? null;
}

/** The text after a frame was put into an album, moved in it, or taken out (null). */
export function withPlace(kept: string, album: string, place: Place | null): string {
  const others = albumsIn(kept).filter((one) => one.album !== album);
  const all = place === null ? others : [...others, { album, place }];
  return all
    .map((one) => `${one.album}:${one.place}`)
    .sort()
    .join('+');
}

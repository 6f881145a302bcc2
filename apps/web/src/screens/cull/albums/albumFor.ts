import type { AlbumChoice } from '../../../data/albums';

/** The last of an album’s path. */
const lastOf = (name: string): string => name.slice(name.lastIndexOf('›') + 1).trim();

/**
 * The album that typed words mean: the one of that name, with or without those around it, else the only one whose name begins so;
 * null: none, or it cannot be told.
 */
export function albumFor<A extends AlbumChoice>(text: string, albums: readonly A[]): A | null {
  const wanted = text.trim().toLowerCase();
  if (wanted === '') return null;
  const whole = albums.find(({ name }) => name.toLowerCase() === wanted);
  if (whole) return whole;
  const same = albums.filter(({ name }) => lastOf(name).toLowerCase() === wanted);
  if (same.length > 0) return same.length === 1 ? same[0]! : null;
  const begins = albums.filter(({ name }) => lastOf(name).toLowerCase().startsWith(wanted));
  return begins.length === 1 ? begins[0]! : null;
}

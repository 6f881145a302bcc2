import type { Filter } from '../query/filter';
import { lineFilter, partsOfLine, type LineContext, type NamedAlbum } from '../query/line';
import { byPlace, type Place } from './place';

/** A lasting, named set of frames over all shoots. It holds no files. */
export interface Album {
  /** ULID */
  id: string;
  name: string;
  /** id of the album that it stands in; null: in none */
  parent: string | null;
  /** where it stands among those beside it */
  place: Place;
  /** the line of words and facts that fills it; null: frames are put into it by hand */
  rule: string | null;
  /** id of the frame that stands for it; null: its first */
  lead: string | null;
}

/** Albums within albums: more nobody finds again. */
export const DEEPEST_ALBUM = 12;

/** Albums as they stand in each other. What names an album that is not there, or itself, stands in none. */
export class AlbumTree<A extends Album = Album> {
  private readonly byId: ReadonlyMap<string, A>;
  private readonly under = new Map<string | null, A[]>();

  constructor(readonly albums: readonly A[]) {
    this.byId = new Map(albums.map((album) => [album.id, album]));
    for (const album of albums) {
      const parent = this.parentOf(album);
      const beside = this.under.get(parent);
      if (beside) beside.push(album);
      else this.under.set(parent, [album]);
    }
    for (const beside of this.under.values()) beside.sort(byPlace);
  }

  get(id: string): A | null {
    return this.byId.get(id) ?? null;
  }

  children(parent: string | null): readonly A[] {
    return this.under.get(parent) ?? [];
  }

  /** It and all that stand in it, in their order. */
  below(id: string): A[] {
    const album = this.byId.get(id);
    return album ? [album, ...this.children(id).flatMap((child) => this.below(child.id))] : [];
  }

  /** All albums in the order in which they are read, each with how deep it stands. */
  inOrder(parent: string | null = null, depth = 0): { album: A; depth: number }[] {
    return this.children(parent).flatMap((album) => [{ album, depth }, ...this.inOrder(album.id, depth + 1)]);
  }

  /** The albums from the outermost to this one. */
  path(id: string): A[] {
    const album = this.byId.get(id);
    if (!album) return [];
    const parent = this.parentOf(album);
    return parent === null ? [album] : [...this.path(parent), album];
  }

  /** Why an album cannot stand in another one; null: it can. */
  problemOf(id: string, parent: string | null): 'itself' | 'too-deep' | null {
    if (parent === null) return null;
    const path = this.path(parent);
    if (path.some((album) => album.id === id)) return 'itself';
    return path.length + this.height(id) > DEEPEST_ALBUM ? 'too-deep' : null;
  }

  private height(id: string): number {
    return 1 + Math.max(0, ...this.children(id).map((child) => this.height(child.id)));
  }

  /** The id of the album around it. Two moves at once may have put albums into each other: the chain ends where it comes back. */
  private parentOf(album: A): string | null {
    const seen = new Set([album.id]);
    for (let at = album.parent; at !== null; at = this.byId.get(at)!.parent) {
      if (!this.byId.has(at)) return at === album.parent ? null : album.parent;
      if (seen.has(at)) return null;
      seen.add(at);
    }
    return album.parent;
  }
}

/**
 * The albums as a line asks for them by name, each with the filter of all frames in it and below it; a rule may ask for other
 * albums. `own`: of those in it alone. `context`: what rules are read with.
 */
export function namedAlbums(
  tree: AlbumTree,
  context: Omit<LineContext, 'albums' | 'typing'>,
): (NamedAlbum & { own: () => Filter | string })[] {
  const open = new Set<string>();
  const known = new Map<string, Filter | string>();
  const read: LineContext = { ...context, rule: true };
  const named = tree.albums.map((album) => ({
    ...{ id: album.id, name: album.name },
    filter: () => filterOf(album.id),
    own: () => ownOf(album),
  }));
  read.albums = named;

  const ruleOf = ({ id, name, rule }: Album): Filter | string => {
    if (open.has(id)) return `The rule of the album “${name}” asks for the album itself.`;
    open.add(id);
    const parts = partsOfLine(rule!, read);
    open.delete(id);
    const wrong = parts.find(({ problem }) => problem !== undefined);
    return wrong ? `The rule of the album “${name}” cannot be followed: ${wrong.problem}` : lineFilter(parts);
  };

  const ownOf = (album: Album): Filter | string =>
    album.rule === null ? { field: 'albums', is: album.id } : ruleOf(album);

  const filterOf = (id: string): Filter | string => {
    const before = known.get(id);
    if (before !== undefined) return before;
    const all = tree.below(id);
    const byHand = all.filter(({ rule }) => rule === null).map((album) => album.id);
    const any: Filter[] = byHand.length > 0 ? [{ field: 'albums', oneOf: byHand }] : [];
    for (const album of all) {
      if (album.rule === null) continue;
      const its = ruleOf(album);
      // What was met on the way around a circle is not kept: it is another album's trouble.
      if (typeof its === 'string') return its;
      any.push(its);
    }
    const filter: Filter = any.length === 1 ? any[0]! : { any };
    if (open.size === 0) known.set(id, filter);
    return filter;
  };
  return named;
}

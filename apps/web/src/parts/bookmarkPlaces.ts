import { matchPath } from 'react-router';

const KINDS: readonly [path: string, kind: string][] = [
  ['/shoots/:id/cull', 'shoot'],
  ['/shoots/:id/describe', 'shoot · Describe'],
  ['/shoots/:id/handoff', 'shoot · Hand-off'],
  ['/shoots/:id/deliver', 'shoot · Deliver'],
  ['/shoots/:id/files', 'shoot · Files'],
  ['/albums/:id', 'album'],
  ['/find/:question/cull', 'search · Cull'],
  ['/piles/:id', 'pile'],
  ['/find', 'search'],
];

/** What an address leads to, in a word; empty: a screen of its own name. */
export const placeKind = (address: string): string =>
  KINDS.find(([path]) => matchPath(path, address.split('?')[0]!))?.[1] ?? '';

/** A list with one of it moved by some places; where there are none it stays. */
export function movedIn<T>(list: readonly T[], at: number, by: number): T[] {
  const others = list.filter((_, i) => i !== at);
  return [...others.slice(0, at + by), list[at]!, ...others.slice(at + by)];
}

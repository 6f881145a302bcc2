import type { Api } from './http';

/** Where a pass over several shoots goes on. */
export interface NextPart {
  shootId: string;
  title: string;
  /** frames that were not seen there */
  left: number;
  /** the first of them */
  frame: string;
}

interface Parted {
  /** ids; those of one shoot stand together, in the order of the parts */
  frames: readonly string[];
  parts: readonly Pick<Api['PassPartDto'], 'shootId' | 'title' | 'frames'>[];
}

/** Each shoot of a pass with the places of its frames. */
function places({ parts }: Parted): { shootId: string; title: string; from: number; to: number }[] {
  let from = 0;
  return parts.map(({ shootId, title, frames }) => ({ shootId, title, from, to: (from += frames) }));
}

/** The next shoot of a pass, after this one and then from the first, that has frames which were not seen; null: none. */
export function nextPart(pass: Parted & { seen: ReadonlySet<number> }, shootId: string): NextPart | null {
  const all = places(pass);
  const here = all.findIndex((part) => part.shootId === shootId);
  for (const { shootId: its, title, from, to } of [
    ...all.slice(here + 1),
    ...all.slice(0, Math.max(0, here)),
  ]) {
    const left = Array.from({ length: to - from }, (_, i) => from + i).filter(
      (place) => !pass.seen.has(place),
    );
    if (left.length > 0) return { shootId: its, title, left: left.length, frame: pass.frames[left[0]!]! };
  }
  return null;
}

/** The shoot that a frame of a pass lies in; null: it is none of them. */
export function shootOf(pass: Parted, frame: string): string | null {
  const place = pass.frames.indexOf(frame);
  return places(pass).find(({ from, to }) => place >= from && place < to)?.shootId ?? null;
}

/** Places in a pass of the frames that were seen while these stood in another order. */
export const seenIn = (
  { placeOf }: { placeOf: ReadonlyMap<string, number> },
  before: { frames: readonly string[]; seen: ReadonlySet<number> },
): number[] => [...before.seen].flatMap((old) => placeOf.get(before.frames[old]!) ?? []);

/** Where a pass is gone on with. */
export const passAddress = (shootId: string, passId: string, frame: string): string =>
  `/shoots/${shootId}/cull?${String(new URLSearchParams({ view: 'single', frame, pass: passId }))}`;

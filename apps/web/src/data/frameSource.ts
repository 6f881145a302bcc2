import { albumOfKind } from '@arkiv/core';
import { framesOf, type FrameColumns, type LoadedFrame } from './frames';
import { questionOf, type FindQuestion } from './findQuestion';
import { get, post } from './http';

/** Where the frames of a store come from. */
export interface FrameSource {
  /** by which it is kept */
  id: string;
  /** ids of all of them, where these are known by what was added; null: whoever keeps them knows */
  named(): ReadonlySet<string> | null;
  /** frames came beside its own loading */
  add(ids: readonly string[]): void;
  /** all of them, or some by their ids, in order of time */
  frames(some: ReadonlySet<string> | null): Promise<LoadedFrame[]>;
  /** ids of those whose pictures lie on drives that are away */
  away(): Promise<readonly string[]>;
  /** where the journal is read of what was decided in them */
  history: `/shoots/${string}/history` | '/history';
  /** whether what is told of a shoot is told of any of them */
  concerns(shootId: string): boolean;
  /** whether a step is taken back from here */
  takesBack(
    operations: readonly { subject: string; kind: string }[],
    here: { has(id: string): boolean },
  ): boolean;
  /** of frames that came or changed those that it asks for again; null: all */
  asked(told: readonly string[] | null): readonly string[] | null;
}

function ofShoot(id: string): FrameSource {
  const all = `/shoots/${id}/frames` as const;
  return {
    id,
    named: () => null,
    add: () => undefined,
    frames: async (some) => framesOf(await get(some ? `${all}?only=${[...some].join(',')}` : all)),
    away: () => get(`/shoots/${id}/away`),
    history: `/shoots/${id}/history`,
    concerns: (shootId) => shootId === id,
    asked: (told) => told,
    // Also of frames that were moved to another shoot since.
    takesBack: () => true,
  };
}

/** What stands before the question of a store of found frames. */
const FOUND = 'find:';
/** The store of the frames that a page of Find has shown; pages are added to it. */
export const SHOWN_IN_FIND = 'find';

export const foundId = (question: string): string => `${FOUND}${question}`;
/** The question of such a store, as {@link questionOf} reads it. */
export const foundText = (id: string): string => id.slice(FOUND.length);
/** Stands in an address for the question that asks for nothing. */
export const ALL_FOUND = 'all';
/** Whether a store holds what was found, of whatever shoots. */
export const isFound = (id: string): boolean => id === SHOWN_IN_FIND || id.startsWith(FOUND);

/** Found frames that are looked at in Cull at once: what Cull was made for, with room. */
export const MOST_LOOKED_AT = 10_000;

/** Found frames out of their columns: where they stand in a result is the result’s, and no fact of theirs. */
export function foundFrames({ count, columns }: FrameColumns): LoadedFrame[] {
  const { nth: _, key: __, hits: ___, ...facts } = columns;
  return framesOf({ count, columns: facts });
}

/** Frames of any shoots, by their ids. `first`: which ones these are at the beginning; null: those that are added. */
function ofFound(id: string, first: (() => Promise<readonly string[]>) | null): FrameSource {
  let ids: Set<string> | null = first ? null : new Set();
  let places: ReadonlyMap<string, number> = new Map();
  const known = async () => {
    if (ids) return ids;
    ids = new Set(await first!());
    places = new Map([...ids].map((one, nth) => [one, nth]));
    return ids;
  };
  return {
    id,
    named: () => (first ? null : new Set(ids)),
    add: (more) => more.forEach((one) => ids?.add(one)),
    frames: async (some) => {
      const all = await known();
      for (const one of some ?? []) all.add(one);
      const wanted = [...(some ?? all)];
      if (wanted.length === 0) return [];
      const frames = foundFrames((await post('/find/frames', { ids: wanted })) as FrameColumns);
      for (const frame of frames) frame.nth = places.get(frame.id);
      return frames.sort(
        (a, b) => (a.instant ?? Infinity) - (b.instant ?? Infinity) || (a.name < b.name ? -1 : 1),
      );
    },
    away: async () => {
      const all = [...(await known())];
      return all.length === 0 ? [] : post('/find/away', { ids: all });
    },
    history: '/history',
    concerns: () => true,
    asked: (told) => told && told.filter((one) => ids?.has(one)),
    // What was taken out of an album is seen nowhere, and is put back from there.
    takesBack: (operations, here) =>
      operations.some(({ subject, kind }) => here.has(subject) || albumOfKind(kind) !== null),
  };
}

/** The source of a store by its id: a shoot's own, {@link SHOWN_IN_FIND}, or that of {@link foundId}. */
export function sourceOf(id: string): FrameSource {
  if (id === SHOWN_IN_FIND) return ofFound(id, null);
  if (!isFound(id)) return ofShoot(id);
  return ofFound(id, () => idsFound(questionOf(foundText(id))));
}

async function idsFound(question: FindQuestion): Promise<readonly string[]> {
  const { token } = await post('/find', { ...question, typing: true });
  return (await get(`/find/${token}/ids`)).slice(0, MOST_LOOKED_AT);
}

import { groupCardFiles, kindOf } from '../card/dcf';
import type { CardFile } from '../card/types';

/** What a rule of a watched folder may take; sidecars and voice notes come with the pictures that they lie beside. */
export const WATCH_TYPES = ['raw', 'jpeg', 'other', 'clip'] as const;
export type WatchType = (typeof WATCH_TYPES)[number];

export interface WatchChoice {
  types: readonly WatchType[];
  /** folders below it too */
  below: boolean;
  /** name of a folder whose pictures stay out, anywhere below it; empty: there is none */
  out: string;
}

/** Why a file is none of a rule's: `hidden`: its name or a folder's begins with a dot. */
export type Outside = 'hidden' | 'below' | 'out' | 'type' | 'unknown';

/** The type of a picture or clip; null: it is neither. */
export function watchTypeOf(path: string): WatchType | null {
  const { role, raw, format } = kindOf(path);
  if (role === 'clip') return 'clip';
  if (role !== 'original') return null;
  return raw ? 'raw' : format === 'jpeg' ? 'jpeg' : 'other';
}

/** Why a file is not looked at, whatever lies beside it; null: it is. */
function outsideOf({ below, out }: WatchChoice, path: string): Outside | null {
  const parts = path.split('/');
  const folders = parts.slice(0, -1);
  if (parts.some((part) => part.startsWith('.'))) return 'hidden';
  // A name means the same folder in any case, as on the systems that cards are written for.
  if (out !== '' && folders.some((folder) => folder.toLowerCase() === out.toLowerCase())) return 'out';
  return folders.length > 0 && !below ? 'below' : null;
}

/**
 * Parts a folder's files: those that a rule takes, and why it takes the others not. What lies beside a picture that is taken comes with it;
 * without one it stays.
 */
export function chosenFiles<F extends CardFile>(
  choice: WatchChoice,
  files: readonly F[],
): { chosen: F[]; outside: Map<string, Outside> } {
  const outside = new Map<string, Outside>();
  const looked: F[] = [];
  for (const file of files) {
    const why = outsideOf(choice, file.path);
    if (why) outside.set(file.path, why);
    else looked.push(file);
  }
  const byPath = new Map(looked.map((file) => [file.path, file]));
  const { frames, extras } = groupCardFiles(looked);
  const chosen: F[] = [];
  for (const { path } of extras) outside.set(path, 'unknown');
  for (const { files: own } of frames) {
    const taken = own.filter(({ path }) => {
      const type = watchTypeOf(path);
      return type !== null && choice.types.includes(type);
    });
    for (const { path } of own) {
      const isBeside = watchTypeOf(path) === null && taken.length > 0;
      if (isBeside || taken.some((one) => one.path === path)) chosen.push(byPath.get(path)!);
      else outside.set(path, 'type');
    }
  }
  return { chosen, outside };
}

/** What the names of one frame's files have in common, by which they are kept together while one of them is still being written. */
export const baseOf = (path: string): string => path.replace(/\.[^./]*$/, '').toLowerCase();

/** What a file was when it was looked at, as one text: while it changes, somebody is still writing it. */
export const stampOf = ({ size, mtimeMillis }: Pick<CardFile, 'size' | 'mtimeMillis'>): string =>
  `${size}.${Math.round(mtimeMillis)}`;

/** Since when a file is as it is now, by its path: milliseconds since 1970 UTC. */
export type Unchanged = Map<string, { stamp: string; since: number }>;

/**
 * Which of the files have not changed for long enough, and after how many milliseconds the next one will have; null: none waits. Files of
 * one frame wait for each other: a raw is written after its JPEG. `seen` is brought up to date.
 */
export function settledFiles<F extends CardFile>(
  files: readonly F[],
  seen: Unchanged,
  now: number,
  settleMillis: number,
): { settled: F[]; next: number | null } {
  const there = new Set(files.map(({ path }) => path));
  for (const path of seen.keys()) if (!there.has(path)) seen.delete(path);
  const left = new Map<string, number>();
  for (const file of files) {
    const stamp = stampOf(file);
    const before = seen.get(file.path);
    if (before?.stamp !== stamp) seen.set(file.path, { stamp, since: now });
    // One that is there the first time may have been there for long; it is looked at twice all the same.
    left.set(file.path, Math.max(0, seen.get(file.path)!.since + settleMillis - now));
    if (before === undefined && settleMillis > 0) left.set(file.path, settleMillis);
  }
  const byPath = new Map(files.map((file) => [file.path, file]));
  const settled: F[] = [];
  let next: number | null = null;
  const { frames, extras } = groupCardFiles(files);
  for (const own of [...frames.map((frame) => frame.files), ...extras.map((file) => [file])]) {
    const longest = Math.max(...own.map(({ path }) => left.get(path)!));
    if (longest === 0) settled.push(...own.map(({ path }) => byPath.get(path)!));
    else next = next === null ? longest : Math.min(next, longest);
  }
  return { settled, next };
}

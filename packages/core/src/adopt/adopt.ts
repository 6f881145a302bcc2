import { kindOf, splitPath } from '../card/dcf';
import type { CardFile } from '../card/types';
import { ARCHIVE_FOLDER, SHOOT_FOLDER } from '../folders/plan';

/**
 * Which folders of a tree become shoots: `top`: each one directly below the adopted folder, with all that lies in it; `each`: each
 * folder that holds pictures; `dated`: each that bears a date, with all that lies in it; `day`: none, a shoot for each day of capture.
 */
export const ADOPT_RULES = ['top', 'each', 'dated', 'day'] as const;
export type AdoptRule = (typeof ADOPT_RULES)[number];

/** The shoot that a picture belongs to. */
export interface ShootOfFolder {
  /** what tells it from others of the same adopted folder */
  key: string;
  /** below the adopted folder; empty: that folder itself */
  folder: string;
  /** by the folder's name; null: the day of its first picture */
  date: string | null;
}

/**
 * The shoot of pictures that lie in a folder; `folder`: below the adopted one, empty for that itself; `day`: when they were taken,
 * YYYY-MM-DD, which rule `day` alone asks for.
 */
export function shootOfFolder(rule: AdoptRule, folder: string, day: string): ShootOfFolder {
  if (rule === 'day') return { key: day, folder, date: day };
  if (rule === 'each') return of(folder);
  const segments = folder.split('/');
  if (rule === 'top') return of(segments[0]!);
  // The innermost that bears one: a year's folder bears none, and what lies below a day belongs to that day.
  for (let depth = segments.length; depth > 0; depth--) {
    const at = segments.slice(0, depth).join('/');
    if (ownDate(segments.slice(0, depth)) !== null) return of(at);
  }
  return of(folder);
}

const of = (folder: string): ShootOfFolder => ({ key: folder, folder, date: dateOfFolder(folder) });

/** The date that a folder bears, or the innermost above it; null: none does. */
export function dateOfFolder(folder: string): string | null {
  const segments = folder.split('/');
  for (let depth = segments.length; depth > 0; depth--) {
    const date = ownDate(segments.slice(0, depth));
    if (date !== null) return date;
  }
  return null;
}

/** `2024-05-11 Harbour`, `20240511`, `11.05.2024`; or `2024/05/11`, a folder for each. */
const NAMED = [
  /^(?<y>(?:19|20)\d{2})[-_. ]?(?<m>\d{2})[-_. ]?(?<d>\d{2})(?!\d)/,
  /(?<!\d)(?<d>\d{2})\.(?<m>\d{2})\.(?<y>(?:19|20)\d{2})(?!\d)/,
];
const NESTED =
  /(?:^|\/)(?<y>(?:19|20)\d{2})\/(?:\k<y>[-_. ])?(?<m>\d{2})\/(?:\k<y>[-_. ]\k<m>[-_. ])?(?<d>\d{2})$/;

function ownDate(segments: readonly string[]): string | null {
  const name = segments.at(-1)!;
  for (const pattern of [...NAMED, NESTED]) {
    const found = pattern.exec(pattern === NESTED ? segments.join('/') : name)?.groups;
    const date = found ? `${found.y}-${found.m}-${found.d}` : null;
    if (date !== null && isDay(date)) return date;
  }
  return null;
}

function isDay(date: string): boolean {
  const at = new Date(`${date}T00:00:00Z`);
  return !Number.isNaN(at.getTime()) && at.toISOString().startsWith(date);
}

/** What a shoot is called that a folder becomes; `root`: the adopted folder's own name. */
export function titleOfFolder(
  { folder, key }: Pick<ShootOfFolder, 'folder' | 'key'>,
  rule: AdoptRule,
  root: string,
): string {
  if (rule === 'day') return `${root} ${key}`;
  const name = splitPath(folder).name || root;
  // What follows the date is what people called it.
  const words = name.replace(/^(?:19|20)\d{2}[-_. ]?\d{2}[-_. ]?\d{2}(?!\d)[-_. ]*/, '').trim();
  if (words !== '' && !/^\d{1,4}$/.test(words)) return words;
  return folder === '' ? root : `${root} ${folder.replaceAll('/', ' ')}`;
}

/** Why a folder and all below it stay out: its name is hidden, or it is a shoot or text of an archive. Null: it does not. */
export function staysOut(name: string, namesInside: readonly string[] | null): 'hidden' | 'archive' | null {
  if (name === ARCHIVE_FOLDER || name === SHOOT_FOLDER || namesInside?.includes(SHOOT_FOLDER))
    return 'archive';
  return name.startsWith('.') ? 'hidden' : null;
}

/** Whether a file is a part of a frame, or says something of one. */
export const isOfFrame = (path: string): boolean => kindOf(path).role !== 'other';

/** A file that is known, as it was when it was looked at last. */
export interface KnownFile {
  path: string;
  /** bytes */
  size: number;
  /** null: nobody has looked */
  mtimeMillis: number | null;
}

/** How what lies in a folder differs from what is known of it. */
export interface FolderChanges<K extends KnownFile, F extends CardFile> {
  fresh: F[];
  /** another length or time than before */
  changed: { was: K; is: F }[];
  gone: K[];
}

export function folderChanges<K extends KnownFile, F extends CardFile>(
  known: readonly K[],
  found: readonly F[],
): FolderChanges<K, F> {
  const before = new Map(known.map((file) => [file.path, file]));
  const now = new Set(found.map(({ path }) => path));
  const changes: FolderChanges<K, F> = {
    fresh: [],
    changed: [],
    gone: known.filter(({ path }) => !now.has(path)),
  };
  for (const is of found) {
    const was = before.get(is.path);
    if (!was) changes.fresh.push(is);
    else if (was.size !== is.size || was.mtimeMillis !== is.mtimeMillis) changes.changed.push({ was, is });
  }
  return changes;
}

/** Sidecars of a folder by what they are named after, in small letters. */
export type SidecarNames = ReadonlyMap<string, readonly string[]>;

const SIDECAR = /\.xmp$/i;

/** Those among the names of a folder; made once for all of its frames. */
export function sidecarNames(names: readonly string[]): SidecarNames {
  const by = new Map<string, string[]>();
  for (const name of names) {
    if (!SIDECAR.test(name)) continue;
    const of = name.replace(SIDECAR, '').toLowerCase();
    const same = by.get(of);
    if (same) same.push(name);
    else by.set(of, [name]);
  }
  return by;
}

/** The file that a sidecar was written for alone, by its name `<base>.<ext>.xmp`; null for any other name. */
export function besideFile(name: string): string | null {
  if (!SIDECAR.test(name)) return null;
  const of = name.replace(SIDECAR, '');
  return isOfFrame(of) && !SIDECAR.test(of) ? of : null;
}

/**
 * Sidecars of a frame among those of its folder, the one that counts first: `<base>.xmp` before `<base>.<ext>.xmp`, which other programs
 * write for one file of several. `files`: names of the frame's files.
 */
export function sidecarsAmong(base: string, files: readonly string[], sidecars: SidecarNames): string[] {
  const after = new Set([base, ...files].map((name) => name.toLowerCase()));
  return [...after].flatMap((name) => sidecars.get(name) ?? []);
}

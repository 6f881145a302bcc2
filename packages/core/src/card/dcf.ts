import { collisionKey } from '../naming/legalName';
import { isShot, kindOfExtension, SYSTEM_NAMES, UNKNOWN_KIND, type FileKind } from './fileKinds';
import type { AssetRole, CardFile, CardFrame, CardFrameFile, CardListing } from './types';

export interface DcfDirectory {
  /** 100…999 */
  number: number;
  /** the five free characters */
  free: string;
}

export interface DcfName {
  free: string;
  /** 1…9999 */
  number: number;
}

/** A DCF directory name (CIPA DC-009, DCF 2.0, 3.2.2): 100…999 and five characters of A–Z, 0–9, _. Else null. */
export function parseDcfDirectory(name: string): DcfDirectory | null {
  const match = /^([1-9]\d{2})([A-Za-z0-9_]{5})$/.exec(name);
  return match ? { number: Number(match[1]), free: match[2]! } : null;
}

/** The base of a DCF file name (DCF 2.0, 3.2.3): four characters and 0001…9999. Else null. */
export function parseDcfBase(base: string): DcfName | null {
  const match = /^([A-Za-z0-9_]{4})(\d{4})$/.exec(base);
  if (!match || match[2] === '0000') return null;
  return { free: match[1]!, number: Number(match[2]) };
}

/**
 * The order in which a camera made two files: by directory number, then file number; so 9999 in directory 100
 * stands before 0001 in directory 101. Names that follow no rule come after, by text.
 */
export function compareDcf(
  a: { directory: string; base: string },
  b: { directory: string; base: string },
): number {
  const da = parseDcfDirectory(lastSegment(a.directory));
  const db = parseDcfDirectory(lastSegment(b.directory));
  if (da && db && da.number !== db.number) return da.number - db.number;
  if (!da !== !db) return da ? -1 : 1;
  if (a.directory !== b.directory) return a.directory < b.directory ? -1 : 1;
  const na = parseDcfBase(a.base);
  const nb = parseDcfBase(b.base);
  if (na && nb && na.free === nb.free) return na.number - nb.number;
  return a.base < b.base ? -1 : a.base > b.base ? 1 : 0;
}

export function splitPath(path: string): {
  directory: string;
  name: string;
  base: string;
  extension: string;
} {
  const slash = path.lastIndexOf('/');
  const directory = slash < 0 ? '' : path.slice(0, slash);
  const name = path.slice(slash + 1);
  const dot = name.lastIndexOf('.');
  return dot > 0
    ? { directory, name, base: name.slice(0, dot), extension: name.slice(dot + 1) }
    : { directory, name, base: name, extension: '' };
}

/** A file's three facts by its name: its part in a frame, its format, whether it is a raw. */
export function kindOf(path: string): FileKind {
  const { name, extension } = splitPath(path);
  if (SYSTEM_NAMES.has(name.toLowerCase()) || name.startsWith('.')) return UNKNOWN_KIND;
  return kindOfExtension(extension) ?? UNKNOWN_KIND;
}

/** A file on its way into a frame: the base name it goes by, and what follows it. */
interface Named {
  file: CardFrameFile;
  base: string;
  /** folded: two of one frame may not be equal */
  tail: string;
}

/**
 * Puts a card's files together into frames: same directory and same base name, whatever the case, the Unicode form or
 * dots at its end (DCF objects). `IMG_0001.JPG.xmp` goes with `IMG_0001`. Where one frame would hold two files of equal
 * folded name and extension, they are two frames. A group needs a picture or a clip to be a frame; the rest are extras.
 */
export function groupCardFiles(files: readonly CardFile[]): CardListing {
  const groups = new Map<string, { directory: string; named: Named[] }>();
  const extras: CardFrameFile[] = [];
  for (const file of files) {
    const kind = kindOf(file.path);
    if (kind.role === 'other') {
      extras.push({ ...file, ...kind });
      continue;
    }
    const { directory, base, tail } = frameBase(file.path, kind.role);
    const key = `${directory}/${foldedBase(base)}`;
    const group = groups.get(key) ?? { directory, named: [] };
    group.named.push({ file: { ...file, ...kind }, base, tail: collisionKey(tail) });
    groups.set(key, group);
  }
  const frames: CardFrame[] = [];
  for (const [key, { directory, named }] of groups) {
    let made = 0;
    for (const part of separate(named)) {
      const own = part.map(({ file }) => file);
      if (own.some(isShot)) {
        made += 1;
        frames.push({
          key: made === 1 ? key : `${key}~${made}`,
          directory,
          base: part[0]!.base,
          files: own.sort(inFrameOrder),
        });
      } else extras.push(...own.map((f) => ({ ...f, role: 'other' as const })));
    }
  }
  frames.sort(compareDcf);
  extras.sort((a, b) => (a.path < b.path ? -1 : 1));
  return { frames, extras };
}

const ORDER: readonly AssetRole[] = ['original', 'clip', 'note', 'sidecar', 'edit', 'other'];

/** The raw first, then other pictures, clips, notes, sidecars. */
function inFrameOrder(a: CardFrameFile, b: CardFrameFile): number {
  return (
    ORDER.indexOf(a.role) - ORDER.indexOf(b.role) ||
    Number(b.raw) - Number(a.raw) ||
    (a.path < b.path ? -1 : 1)
  );
}

/** A base name under which files find each other, be the disk they come from one that folds names or not. */
function foldedBase(base: string): string {
  return collisionKey(base.replace(/[. ]+$/, '') || base);
}

/** One frame; several only where one would hold two files of equal folded name and extension. */
function separate(named: readonly Named[]): Named[][] {
  if (new Set(named.map(({ tail }) => tail)).size === named.length) return [[...named]];
  // Files whose names are equal to the letter belong together before those that only fold to the same.
  const exact: Named[][] = [];
  for (const one of [...named].sort((a, b) => inFrameOrder(a.file, b.file))) {
    const home = exact.find((part) => part[0]!.base === one.base && !part.some((f) => f.tail === one.tail));
    if (home) home.push(one);
    else exact.push([one]);
  }
  const frames: Named[][] = [];
  for (const part of exact) {
    const home = frames.find((frame) => !frame.some((f) => part.some(({ tail }) => tail === f.tail)));
    if (home) home.push(...part);
    else frames.push(part);
  }
  return frames;
}

/**
 * Seconds by which the capture times of one base name may differ and still be one press of the shutter. Exif
 * writes whole seconds, and a camera may stamp raw and JPEG on both sides of a tick: two allows for that.
 */
export const SAME_PRESS_SECONDS = 2;

/**
 * Splits a frame whose raw and JPEG were taken at different moments (a camera that restarted its numbers on top
 * of old files). `localSecondsOf` gives a file's capture time in seconds, or null where it has none.
 */
export function splitByCaptureTime(
  frame: CardFrame,
  localSecondsOf: (path: string) => number | null,
): CardFrame[] {
  const pictures = frame.files.filter(isShot);
  const clusters: { at: number | null; files: CardFrameFile[] }[] = [];
  for (const file of pictures) {
    const at = localSecondsOf(file.path);
    const home = clusters.find(
      (c) => at === null || c.at === null || Math.abs(c.at - at) <= SAME_PRESS_SECONDS,
    );
    if (home) {
      home.files.push(file);
      home.at ??= at;
    } else clusters.push({ at, files: [file] });
  }
  if (clusters.length < 2) return [frame];
  const rest = frame.files.filter((f) => !pictures.includes(f));
  return clusters.map((cluster, i) => ({
    ...frame,
    key: i === 0 ? frame.key : `${frame.key}#${i + 1}`,
    files: i === 0 ? [...cluster.files, ...rest] : cluster.files,
  }));
}

function frameBase(path: string, role: AssetRole): { directory: string; base: string; tail: string } {
  const { directory, name, base } = splitPath(path);
  const inner = splitPath(base);
  const own = role === 'sidecar' && kindOfExtension(inner.extension) ? inner.base : base;
  return { directory, base: own, tail: name.slice(own.length) };
}

function lastSegment(directory: string): string {
  return directory.slice(directory.lastIndexOf('/') + 1);
}

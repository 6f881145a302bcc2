import { ROLE_BY_EXTENSION, SYSTEM_NAMES } from './fileKinds';
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

export function roleOf(path: string): AssetRole {
  const { name, extension } = splitPath(path);
  if (SYSTEM_NAMES.has(name.toLowerCase()) || name.startsWith('.')) return 'other';
  return ROLE_BY_EXTENSION[extension.toLowerCase()] ?? 'other';
}

/**
 * Puts a card's files together into frames: same directory and same base name, whatever the case (DCF objects).
 * `IMG_0001.JPG.xmp` goes with `IMG_0001`. A group needs a picture or a clip to be a frame; the rest are extras.
 */
export function groupCardFiles(files: readonly CardFile[]): CardListing {
  const groups = new Map<string, CardFrame>();
  const extras: CardFrameFile[] = [];
  for (const file of files) {
    const role = roleOf(file.path);
    if (role === 'other') {
      extras.push({ ...file, role });
      continue;
    }
    const { directory, base } = frameBase(file.path, role);
    const key = `${directory}/${base.toLowerCase()}`;
    const frame = groups.get(key) ?? { key, directory, base, files: [] };
    frame.files.push({ ...file, role });
    groups.set(key, frame);
  }
  const frames: CardFrame[] = [];
  for (const frame of groups.values()) {
    if (frame.files.some((f) => f.role === 'raw' || f.role === 'jpeg' || f.role === 'clip')) {
      frame.files.sort((a, b) => ORDER.indexOf(a.role) - ORDER.indexOf(b.role) || (a.path < b.path ? -1 : 1));
      frames.push(frame);
    } else {
      extras.push(...frame.files.map((f) => ({ ...f, role: 'other' as const })));
    }
  }
  frames.sort(compareDcf);
  extras.sort((a, b) => (a.path < b.path ? -1 : 1));
  return { frames, extras };
}

const ORDER: readonly AssetRole[] = ['raw', 'jpeg', 'clip', 'note', 'sidecar', 'edit', 'other'];

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
  const pictures = frame.files.filter((f) => f.role === 'raw' || f.role === 'jpeg' || f.role === 'clip');
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

function frameBase(path: string, role: AssetRole): { directory: string; base: string } {
  const { directory, base } = splitPath(path);
  if (role !== 'sidecar') return { directory, base };
  const inner = splitPath(base);
  return ROLE_BY_EXTENSION[inner.extension.toLowerCase()]
    ? { directory, base: inner.base }
    : { directory, base };
}

function lastSegment(directory: string): string {
  return directory.slice(directory.lastIndexOf('/') + 1);
}

import { folderAsked, withFolder } from '../../data/folderPart';
import type { LoadedFrame } from '../../data/frames';

/** A folder in which frames of a shoot lie, or that holds such folders. */
export interface FrameFolder {
  /** below what all of them have in common; empty: that itself */
  path: string;
  /** the whole of it below each drive */
  whole: string;
  name: string;
  /** path of the one it lies in */
  parent: string;
  /** frames in it and below it */
  frames: number;
  /** frames in it, not below it */
  own: number;
}

/** The folders of frames by where each lies, the common one first, and then by their paths. */
export function foldersIn(places: readonly string[]): FrameFolder[] {
  const counts = new Map<string, number>();
  for (const place of places) counts.set(place, (counts.get(place) ?? 0) + 1);
  const wholes = [...counts.keys()];
  if (wholes.length === 0) return [];
  const common = commonOf(wholes);
  const paths = new Map<string, number>([['', 0]]);
  for (const [whole, frames] of counts) {
    const below = whole === common ? '' : whole.slice(common === '' ? 0 : common.length + 1);
    const parts = below === '' ? [] : below.split('/');
    // It counts for each folder around it.
    for (let depth = 0; depth <= parts.length; depth++) {
      const path = parts.slice(0, depth).join('/');
      paths.set(path, (paths.get(path) ?? 0) + frames);
    }
  }
  return [...paths]
    .map(([path, frames]) => {
      const whole = [common, path].filter(Boolean).join('/');
      return {
        ...{ path, frames, whole, own: counts.get(whole) ?? 0 },
        name: (path === '' ? common : path).split('/').at(-1)!,
        parent: path.split('/').slice(0, -1).join('/'),
      };
    })
    .sort((a, b) => a.path.localeCompare(b.path, 'en', { numeric: true }));
}

function commonOf(wholes: readonly string[]): string {
  let common = wholes[0]!.split('/');
  for (const whole of wholes) {
    const parts = whole.split('/');
    const differs = common.findIndex((part, i) => part !== parts[i]);
    if (differs >= 0) common = common.slice(0, differs);
  }
  return common.join('/');
}

/** The line that shows what lies in a folder, with or without what lies below it, with all else that it says; the outermost shows all. */
export function folderLine(
  line: string,
  path: string,
  folders: readonly FrameFolder[],
  below = true,
): string {
  const whole = folders.find((one) => one.path === path)?.whole;
  return withFolder(line, whole === undefined || (path === '' && below) ? null : { path: whole, below });
}

/** The folder of a shoot that a line shows; that of all where it asks for none. */
export function shownFolder(line: string, folders: readonly FrameFolder[]): { path: string; below: boolean } {
  const asked = folderAsked(line);
  const path = asked && folders.find(({ whole }) => whole === asked.path)?.path;
  return asked && path != null ? { path, below: asked.below } : { path: '', below: true };
}

type Standing = Pick<LoadedFrame, 'id' | 'lies' | 'picture' | 'verdict' | 'stars'>;

/**
 * The picture that stands for each folder, by its path: of a frame that was chosen for it, else of the best marked one in it, and of
 * one below it where it holds none itself.
 */
export function picturesOf(
  frames: readonly Standing[],
  folders: readonly FrameFolder[],
  chosen: readonly string[],
): Map<string, string> {
  const best = new Map<string, { merit: number; picture: string }>();
  const leads = new Set(chosen);
  for (const { id, lies = '', picture, verdict, stars } of frames) {
    if (picture === null) continue;
    const marked = (verdict === 'keep' ? 10 : verdict === 'reject' ? -20 : 0) + stars;
    const merit = leads.has(id) ? 100 : marked;
    const before = best.get(lies);
    if (!before || merit > before.merit) best.set(lies, { merit, picture });
  }
  const found = new Map<string, string>();
  for (const { path, whole } of folders) {
    const within = [...best].filter(([lies]) => lies.startsWith(`${whole}/`)).map(([, one]) => one);
    const below = within.sort((a, b) => b.merit - a.merit)[0];
    const its = best.get(whole) ?? below;
    if (its) found.set(path, its.picture);
  }
  return found;
}

import path from 'node:path';
import { ArkivError } from '@arkiv/core';
import type { Disk } from './disk';

/**
 * Turns (volume root, path below it) into a path on this machine. Refuses whatever would leave the volume: dot
 * segments, absolute paths, backslashes, NUL, and links on the way. Throws `path.outside`.
 */
export async function resolveBelow(
  disk: Disk,
  root: string,
  volume: string,
  relative: string,
): Promise<string> {
  const refuse = (reason: string): never => {
    throw new ArkivError('path.outside', { path: relative, volume, reason });
  };
  if (relative === '') refuse('it is empty');
  if (relative.includes('\0')) refuse('it contains a NUL character');
  if (relative.startsWith('/') || /^[A-Za-z]:/.test(relative)) refuse('it is absolute');
  if (relative.includes('\\')) refuse('it contains a backslash');
  const segments = relative.split('/');
  if (segments.some((s) => s === '' || s === '.' || s === '..'))
    refuse('it contains an empty or dot segment');
  let at = root;
  for (const segment of segments) {
    at = path.join(at, segment);
    const facts = await disk.facts(at);
    if (!facts) break;
    if (facts.kind === 'link') refuse(`“${segment}” is a link`);
  }
  return path.join(root, ...segments);
}

/** Whether a folder is another, or lies in it; both full paths, or both below one drive, where an empty one is the drive itself. */
export const isWithin = (folder: string, other: string): boolean =>
  other === '' || folder === other || folder.startsWith(other.endsWith('/') ? other : `${other}/`);

import { createHash } from 'node:crypto';
import path from 'node:path';
import { ArkivError } from '@arkiv/core';
import { diskErrorCode, type Disk } from './disk';
import { isTemporaryOf, temporaryName } from './temporary';

export function sha256Of(bytes: Uint8Array | string): string {
  return createHash('sha256').update(bytes).digest('hex');
}

/** As IPTC's digest of texts is made; proves nothing. */
export const md5Of = (bytes: Uint8Array): Uint8Array => createHash('md5').update(bytes).digest();

/** Takes a temporary file away if it is there. */
export async function discard(disk: Disk, file: string): Promise<void> {
  try {
    await disk.unlink(file);
  } catch (error) {
    if (diskErrorCode(error) !== 'ENOENT') throw error;
  }
}

/** Removes the folders below and then the folder itself, as far as they hold nothing. No file is touched. */
export async function removeEmptyFolders(disk: Disk, folder: string): Promise<boolean> {
  if ((await disk.facts(folder))?.kind !== 'folder') return false;
  for (const name of await disk.names(folder)) {
    const below = path.join(folder, name.toString());
    if ((await disk.facts(below))?.kind === 'folder') await removeEmptyFolders(disk, below);
  }
  return disk.removeEmptyFolder(folder);
}

/**
 * Gives a whole, flushed temporary file its final name, never over another file. Throws `file.exists` where the
 * name is taken. Where the file system refuses links (FAT, some network drives), checks and renames instead. `keeps`: the temporary name
 * stays too, where links are possible, until whoever asked has noted the final one.
 */
export async function settle(
  disk: Disk,
  temporary: string,
  final: string,
  { keeps = false } = {},
): Promise<void> {
  try {
    await disk.link(temporary, final);
    if (!keeps) await disk.unlink(temporary);
  } catch (error) {
    const code = diskErrorCode(error);
    if (code === 'EEXIST') throw new ArkivError('file.exists', { file: path.basename(final) });
    if (
      code !== 'EPERM' &&
      code !== 'ENOTSUP' &&
      code !== 'EOPNOTSUPP' &&
      code !== 'ENOSYS' &&
      code !== 'EMLINK'
    )
      throw error;
    if (await disk.facts(final)) throw new ArkivError('file.exists', { file: path.basename(final) });
    await disk.rename(temporary, final);
  }
  await disk.syncFolder(path.dirname(final));
}

/** Writes a new file: temporary name, flush, read back, final name. Never over another file. */
export async function placeNew(
  disk: Disk,
  final: string,
  bytes: Uint8Array,
  job: string,
  mode?: number,
): Promise<void> {
  await disk.makeFolders(path.dirname(final));
  const temporary = temporaryName(final, job);
  await discard(disk, temporary);
  try {
    await writeWhole(disk, temporary, bytes, mode);
    await settle(disk, temporary, final);
  } catch (error) {
    await discard(disk, temporary).catch(() => undefined);
    throw error;
  }
}

/**
 * Replaces our own text, but only if the file still has the hash we last saw (null: it must not be there).
 * Returns false, with nothing changed, when it does not: the caller has to merge.
 */
export async function replaceOwn(
  disk: Disk,
  final: string,
  text: string,
  lastSeen: string | null,
  job: string,
): Promise<boolean> {
  await disk.makeFolders(path.dirname(final));
  const temporary = temporaryName(final, job);
  await discard(disk, temporary);
  try {
    await writeWhole(disk, temporary, Buffer.from(text));
    if ((await hashOwn(disk, final)) !== lastSeen) {
      await discard(disk, temporary);
      return false;
    }
    if (lastSeen === null) await settle(disk, temporary, final);
    else {
      await disk.rename(temporary, final);
      await disk.syncFolder(path.dirname(final));
    }
    return true;
  } catch (error) {
    await discard(disk, temporary).catch(() => undefined);
    throw error;
  }
}

/** Our own texts are small; 64 MB hold the manifest of half a million files. */
const MAX_OWN_TEXT = 64 * 1024 * 1024;

export async function readOwn(disk: Disk, file: string): Promise<string | null> {
  return (await readOwnBytes(disk, file))?.toString('utf8') ?? null;
}

/** A text of ours as it lies there, byte for byte; null where there is none. */
export async function readOwnBytes(disk: Disk, file: string): Promise<Buffer | null> {
  try {
    return await disk.readAll(file, MAX_OWN_TEXT);
  } catch (error) {
    if (diskErrorCode(error) === 'ENOENT') return null;
    throw error;
  }
}

async function hashOwn(disk: Disk, file: string): Promise<string | null> {
  const bytes = await readOwnBytes(disk, file);
  return bytes === null ? null : sha256Of(bytes);
}

async function writeWhole(disk: Disk, temporary: string, bytes: Uint8Array, mode?: number): Promise<void> {
  const file = await disk.createNew(temporary, mode);
  try {
    await file.write(bytes, 0);
    await file.sync();
  } finally {
    await file.close();
  }
  const back = await disk.readAll(temporary, Math.max(bytes.byteLength, 1));
  if (sha256Of(back) !== sha256Of(bytes)) {
    throw new ArkivError('file.mismatch', {
      file: path.basename(temporary),
      expected: sha256Of(bytes),
      found: sha256Of(back),
    });
  }
}

/** Removes what a killed run of this job left under temporary names in a folder; nothing else is touched. */
export async function clearTemporaries(disk: Disk, folder: string, job: string): Promise<void> {
  let names: string[];
  try {
    names = (await disk.names(folder)).map(String);
  } catch (error) {
    if (diskErrorCode(error) === 'ENOENT') return;
    throw error;
  }
  for (const name of names) if (isTemporaryOf(name, job)) await discard(disk, path.join(folder, name));
}

import { createHash } from 'node:crypto';
import path from 'node:path';
import {
  decodeRawName,
  encodeRawName,
  factsFromTags,
  groupCardFiles,
  isShot,
  pictureOf,
  splitByCaptureTime,
  type CardFile,
  type CardFrameFile,
  type FrameFacts,
  type PlanFrame,
} from '@arkiv/core';
import type { Disk, DiskPath } from '../disk/disk';
import type { Contents } from '../metadata/contents.service';

export interface CardScan {
  fingerprint: string;
  frames: PlanFrame[];
  extras: CardFrameFile[];
  /** links, pipes and the like: not followed, not copied, and in the way of clearing */
  notFollowed: string[];
  /** bytes of all files */
  bytes: number;
}

export interface CardFiles {
  fingerprint: string;
  files: CardFile[];
  notFollowed: string[];
}

/** Deepest folder and most files read on one card: ten times what the largest cards in use hold. */
const MAX_DEPTH = 16;
const MAX_FILES = 200_000;
/** Files read at once while listing: a card reader gains nothing from more. */
const IN_FLIGHT = 4;

/** The path of a card's file on this machine. */
export function cardPath(root: string, relative: string): DiskPath {
  return Buffer.concat([Buffer.from(root), Buffer.from('/'), encodeRawName(relative)]);
}

/** Names looked up together: the directory lies in memory after the first, and the rest only waits for threads. */
const LOOKED_UP = 32;

async function inBatches<A, B>(list: readonly A[], look: (a: A) => Promise<B>): Promise<B[]> {
  const found: B[] = [];
  for (let i = 0; i < list.length; i += LOOKED_UP)
    found.push(...(await Promise.all(list.slice(i, i + LOOKED_UP).map(look))));
  return found;
}

/** Lists a card's files without reading them. The fingerprint changes when any name, size or time does. */
export async function listCard(disk: Disk, root: string): Promise<CardFiles> {
  const files: CardFile[] = [];
  const notFollowed: string[] = [];
  const walk = async (relative: string, depth: number): Promise<void> => {
    const folder = relative === '' ? root : cardPath(root, relative);
    const names = (await disk.names(folder)).map(decodeRawName);
    const places = names.map((name) => (relative === '' ? name : `${relative}/${name}`));
    const found = await inBatches(places, (below) => disk.facts(cardPath(root, below)));
    for (const [i, below] of places.entries()) {
      const facts = found[i];
      if (!facts) continue;
      if (facts.kind === 'folder' && depth < MAX_DEPTH) await walk(below, depth + 1);
      else if (facts.kind === 'file' && files.length < MAX_FILES) {
        files.push({ path: below, size: facts.size, mtimeMillis: facts.mtimeMillis });
      } else notFollowed.push(below);
    }
  };
  await walk('', 0);
  return listing(files, notFollowed);
}

/** The same of files that were chosen, those that are still there. */
export async function listChosen(disk: Disk, root: string, paths: readonly string[]): Promise<CardFiles> {
  const found = await inBatches(paths, (at) => disk.facts(cardPath(root, at)));
  const files = found.flatMap((facts, i): CardFile[] =>
    facts?.kind === 'file' ? [{ path: paths[i]!, size: facts.size, mtimeMillis: facts.mtimeMillis }] : [],
  );
  return listing(files, []);
}

function listing(files: CardFile[], notFollowed: string[]): CardFiles {
  files.sort((a, b) => (a.path < b.path ? -1 : 1));
  const hash = createHash('sha256');
  for (const file of files) hash.update(`${file.path}\0${file.size}\0${file.mtimeMillis}\n`);
  return { fingerprint: hash.digest('hex').slice(0, 32), files, notFollowed: notFollowed.sort() };
}

/** A card's frames by their names alone: there at once, without any fact of theirs. */
export function framesByName({ fingerprint, files, notFollowed }: CardFiles): CardScan {
  const { frames, extras } = groupCardFiles(files);
  return {
    fingerprint,
    frames: frames.map(({ key, base, files: own }) => ({
      key,
      base: path.posix.basename(base),
      files: own,
      facts: factsFromTags({}),
    })),
    extras,
    notFollowed,
    bytes: files.reduce((sum, f) => sum + f.size, 0),
  };
}

/**
 * Reads the facts of a listed card's frames, each when `turn` lets it; the card is only ever opened for reading.
 */
export async function scanCard(
  disk: Disk,
  contents: Contents,
  root: string,
  { fingerprint, files, notFollowed }: CardFiles,
  turn: () => Promise<void> = () => Promise.resolve(),
): Promise<CardScan> {
  const listing = groupCardFiles(files);
  const facts = new Map<string, FrameFacts>();
  const pictures = listing.frames.flatMap((f) => f.files.filter(isShot));
  let next = 0;
  let unreadable = false;
  const lane = async (): Promise<void> => {
    while (next < pictures.length) {
      await turn();
      const file = pictures[next++];
      if (!file) return;
      const read = await contents.facts(cardPath(root, file.path), file);
      facts.set(file.path, read.facts);
      unreadable ||= read.unreadable;
    }
  };
  await Promise.all(Array.from({ length: IN_FLIGHT }, lane));
  // One bad file is no reason to show nothing of a card; a card that went away is.
  if (unreadable) await disk.names(root);
  const secondsOf = (file: string): number | null => {
    const found = facts.get(file);
    // A clip beside a picture began before it, and its time may count in another zone: it tells no frames apart.
    const capture = found?.seconds === null ? found.capture : null;
    return capture ? Date.parse(`${capture.local}Z`) / 1000 : null;
  };
  const frames = listing.frames
    .flatMap((frame) => splitByCaptureTime(frame, secondsOf))
    .map((frame): PlanFrame => {
      // The camera writes the same facts into raw and JPEG; the JPEG is read more surely.
      const main = pictureOf(frame.files);
      const own = (main && facts.get(main.path)) ?? factsFromTags({});
      // Given in the camera, marks may stand in one of them alone.
      const all = frame.files.flatMap(({ path: file }) => facts.get(file) ?? []);
      const marked = (of: 'rating' | 'label') => own[of] ?? all.find((its) => its[of] !== null)?.[of] ?? null;
      return {
        key: frame.key,
        base: path.posix.basename(frame.base),
        files: frame.files,
        facts: { ...own, rating: marked('rating') as number | null, label: marked('label') as string | null },
      };
    });
  return {
    fingerprint,
    frames,
    extras: listing.extras,
    notFollowed,
    bytes: files.reduce((sum, f) => sum + f.size, 0),
  };
}

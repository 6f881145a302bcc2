import type { Space } from '../space';

/** What looking needs of the disk. */
export interface Looking {
  readAll(path: string, limit: number): Promise<Buffer>;
  names(path: string): Promise<Buffer[]>;
  facts(path: string): Promise<{ kind: string } | null>;
  space(path: string): Promise<Space>;
  writable(path: string): Promise<boolean>;
}

/** What a place says of itself: its own small file, its room, whether it can be written to. */
export interface Probe {
  /** text of the file asked for; null: there is none */
  text: string | null;
  space: Space;
  writable: boolean;
}

export interface MountLook {
  /** folders below the mount that hold a card's tree; '' for the mount itself */
  cards: string[];
  /** texts of the own file, by the folder below the mount in which it lies */
  texts: Record<string, string>;
}

export interface LookOrder {
  point: string;
  /** name of the own file that marks a drive */
  ownFile: string;
  /** folders below the mount in which the own file may lie */
  folders: readonly string[];
  /** folders by which a card is known, and the one in which phones have theirs: the child that looks knows nothing but this file */
  trees: { card: readonly string[]; phone: string };
  /** a cable's mount: devices and their storages come first */
  cable: boolean;
}

/** The own file is a few hundred bytes; whatever is larger is somebody else's. */
const MAX_OWN_FILE = 64 * 1024;
/** Storages and devices on one cable mount: more than any desk has. */
const MAX_ON_CABLE = 32;

export async function probePlace(disk: Looking, root: string, ownFile: string): Promise<Probe> {
  const text = await ownText(disk, `${root}/${ownFile}`);
  return { text, space: await disk.space(root), writable: await disk.writable(root) };
}

/** Looks what a mounted file system is: a card by its tree, a drive by its own file. Nothing is written. */
export async function lookAtMount(disk: Looking, order: LookOrder): Promise<MountLook> {
  const { point, ownFile, folders, cable, trees } = order;
  const texts: Record<string, string> = {};
  for (const folder of new Set(['', ...folders])) {
    const text = await ownText(disk, [point, folder, ownFile].filter(Boolean).join('/'));
    if (text !== null) texts[folder] = text;
  }
  const cards: string[] = [];
  if (await holdsCard(disk, point, trees)) cards.push('');
  else if (cable) cards.push(...(await cardsOnCable(disk, point, trees, 2)));
  return { cards, texts };
}

async function holdsCard(disk: Looking, root: string, { card }: LookOrder['trees']): Promise<boolean> {
  for (const tree of card) if (await isFolder(disk, `${root}/${tree}`)) return true;
  return false;
}

/** Phones show their storages as folders, a desktop shows the phones as folders: DCIM lies up to two levels down. */
async function cardsOnCable(
  disk: Looking,
  root: string,
  trees: LookOrder['trees'],
  depth: number,
  below = '',
): Promise<string[]> {
  const found: string[] = [];
  for (const name of (await disk.names(below ? `${root}/${below}` : root)).slice(0, MAX_ON_CABLE)) {
    const folder = below ? `${below}/${String(name)}` : String(name);
    if (!(await isFolder(disk, `${root}/${folder}`))) continue;
    if (await isFolder(disk, `${root}/${folder}/${trees.phone}`)) found.push(folder);
    else if (depth > 1) found.push(...(await cardsOnCable(disk, root, trees, depth - 1, folder)));
  }
  return found;
}

async function isFolder(disk: Looking, path: string): Promise<boolean> {
  return (await disk.facts(path))?.kind === 'folder';
}

async function ownText(disk: Looking, file: string): Promise<string | null> {
  try {
    return (await disk.readAll(file, MAX_OWN_FILE)).toString('utf8');
  } catch (error) {
    if (error instanceof RangeError) return null;
    if (['ENOENT', 'ENOTDIR', 'EISDIR'].includes((error as { code?: string }).code ?? '')) return null;
    throw error;
  }
}

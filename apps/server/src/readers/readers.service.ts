import path from 'node:path';
import { createHash } from 'node:crypto';
import { Injectable, type OnModuleInit } from '@nestjs/common';
import { ArkivError, isDecoded, statedDisks, type CardFrameFile, type Disks } from '@arkiv/core';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { Disk, diskErrorCode, type DiskPath } from '../disk/disk';
import type { Mount } from '../disk/mounts/mounts';
import { Happenings } from '../events/domainEvents';
import { Contents } from '../metadata/contents.service';
import { isJpeg } from '../metadata/metadataTool';
import { MountsService } from '../mounts/mounts.service';
import { noPicture } from '../pictures/noPicture';
import { PictureMaker, SCREEN_SIDE, THUMB_SIDE } from '../pictures/pictureMaker';
import { Posters } from '../pictures/posters';
import { Ids } from '../system/ids';
import {
  cardPath,
  framesByName,
  listCard,
  listChosen,
  scanCard,
  type CardFiles,
  type CardScan,
} from './cardScan';
import { FolderReader, ReaderDevice } from './reader.entity';

/**
 * `card`: a card in a reader; `cable`: a camera or phone that the system has mounted; `unmounted`: one that it only sees;
 * `folder`: one that the owner named; `stand-in`: simulated.
 */
export const READER_KINDS = ['card', 'cable', 'unmounted', 'folder', 'stand-in'] as const;
export type ReaderKind = (typeof READER_KINDS)[number];

export interface ReaderInfo {
  id: string;
  name: string;
  kind: ReaderKind;
  /** name of the card inside, or null */
  card: string | null;
}

interface MountedCard extends ReaderInfo {
  root: string;
  mount: Mount;
}

/** Files that a rule chose out of a folder: to whom takes them in they are a card of their own. */
export interface ChosenFiles {
  /** what the folder is called */
  name: string;
  root: string;
  /** below the folder, as on cards */
  paths: readonly string[];
}
/** What ids of such choices begin with. */
export const CHOSEN_ID = 'watch-';

/** What ids of mounted cards begin with: one that is not there now is an empty reader, not an unknown one. */
const MOUNTED_ID = /^mount-[0-9a-f]/;

@Injectable()
export class ReadersService implements OnModuleInit {
  /** by fingerprint; two that ask at once share one reading */
  private readonly scans = new Map<string, Promise<CardScan>>();
  private readonly listings = new Map<string, CardScan>();
  /** small pictures that somebody waits for come before facts */
  private readonly pictures = new Gate();
  /** What was chosen out of a watched folder, by the id of its reader; null: nothing is. Set by whoever watches. */
  chosen: (id: string) => Promise<ChosenFiles | null> = () => Promise.resolve(null);

  constructor(
    private readonly disk: Disk,
    private readonly reading: Reading,
    private readonly work: UnitOfWork,
    private readonly ids: Ids,
    private readonly happenings: Happenings,
    private readonly mounts: MountsService,
    private readonly contents: Contents,
    private readonly maker: PictureMaker,
    private readonly posters: Posters,
  ) {}

  onModuleInit(): void {
    this.mounts.changes.subscribe(() => this.happenings.tell('readers', {}));
  }

  async list(): Promise<ReaderInfo[]> {
    const folders = await this.reading.manager.find(FolderReader);
    const own = await Promise.all(
      folders.map(async (f): Promise<ReaderInfo> => {
        const there = (await this.disk.facts(f.root))?.kind === 'folder';
        return { id: f.id, name: f.name, kind: 'folder', card: there ? path.basename(f.root) : null };
      }),
    );
    const cards = await this.mountedCards();
    const slots = this.mounts.slots().map(({ id, name }): ReaderInfo => {
      const inside = cards.find((card) => card.id === id);
      return { id, name, kind: 'stand-in', card: inside?.card ?? null };
    });
    const mounted = cards.filter((card) => !slots.some(({ id }) => id === card.id));
    const onCable = (await this.mounts.unmounted()).map(({ id, name }): ReaderInfo => ({
      ...{ id: `cable-${id}`, name, kind: 'unmounted', card: null },
    }));
    return [
      ...slots,
      ...mounted.map(({ id, name, kind, card }) => ({ id, name, kind, card })),
      ...onCable,
      ...own,
    ];
  }

  /** Mounted trees that hold a card's folders and are no drive of an archive. */
  private async mountedCards(): Promise<MountedCard[]> {
    return (await this.mounts.now()).flatMap(({ mount, look }) => {
      if (mount.point === '/' || (look?.texts && '' in look.texts)) return [];
      // A simulated reader holds whatever was laid into it.
      const roots = mount.reader ? [''] : (look?.cards ?? []);
      return roots.map((below): MountedCard => ({
        id: mount.reader?.id ?? (below === '' ? mount.id : `${mount.id}-${shortHash(below)}`),
        name: mount.reader?.name ?? (mount.kind === 'cable' ? 'Cable' : 'Card reader'),
        kind: mount.reader ? 'stand-in' : mount.kind === 'cable' ? 'cable' : 'card',
        card: below === '' ? mount.name : path.posix.basename(below),
        root: below === '' ? mount.point : `${mount.point}/${below}`,
        mount,
      }));
    });
  }

  /** The physical disks that a reader's card lies on; null: unknown. The owner's word stands for what is found out. */
  async disksOf(id: string): Promise<Disks> {
    const stated = await this.reading.manager.findOneBy(ReaderDevice, { readerId: id });
    if (stated) return statedDisks(stated.device);
    const mounted = (await this.mountedCards()).find((card) => card.id === id);
    if (mounted) return mounted.mount.disks;
    const folder = (await this.chosen(id)) ?? (await this.reading.manager.findOneBy(FolderReader, { id }));
    return folder && this.mounts.disksOf(await this.disk.realPath(folder.root));
  }

  /** Takes the owner's word on which device a reader's cards are; null takes it back. */
  async state(id: string, device: string | null): Promise<void> {
    await this.get(id);
    await this.work.write(async (manager) => {
      if (device === null || device.trim() === '') await manager.delete(ReaderDevice, { readerId: id });
      else await manager.save(ReaderDevice, { readerId: id, device: device.trim() });
    });
    this.happenings.tell('readers', {});
  }

  async get(id: string): Promise<ReaderInfo> {
    if (id.startsWith(CHOSEN_ID)) {
      const chosen = await this.chosen(id);
      const there = chosen !== null && (await this.disk.facts(chosen.root))?.kind === 'folder';
      return { id, name: chosen?.name ?? 'Watched folder', kind: 'folder', card: there ? chosen.name : null };
    }
    const reader = (await this.list()).find((r) => r.id === id);
    // A card that was pulled out takes its reader along: who waits for it waits for this id.
    if (!reader && MOUNTED_ID.test(id)) return { id, name: 'Card reader', kind: 'card', card: null };
    if (!reader) throw new ArkivError('not-found', { what: 'reader', id });
    return reader;
  }

  async addFolder(root: string, name: string): Promise<ReaderInfo> {
    if (!path.isAbsolute(root) || (await this.disk.facts(root))?.kind !== 'folder') {
      throw new ArkivError('volume.folder', { path: root, reason: 'it is no existing folder' });
    }
    const reader = { id: this.ids.newId(), name, root: await this.disk.realPath(root) };
    await this.work.write((manager) => manager.save(FolderReader, reader));
    this.happenings.tell('readers', {});
    return this.get(reader.id);
  }

  /** The card's root; throws `card.none` when there is none. Links at the reader's own place are followed once. */
  async rootOf(id: string): Promise<{ root: string; card: string }> {
    const reader = await this.get(id);
    const chosen = await this.chosen(id);
    if (chosen && reader.card) return { root: chosen.root, card: reader.card };
    const mounted = (await this.mountedCards()).find((card) => card.id === id);
    if (mounted) return { root: mounted.root, card: mounted.card! };
    const folder = await this.reading.manager.findOneBy(FolderReader, { id });
    if (folder && reader.card) return { root: folder.root, card: reader.card };
    throw new ArkivError('card.none', { reader: reader.name });
  }

  /** What lies on the card now. A card that did not change is not read twice. */
  async scan(id: string): Promise<CardScan & { card: string }> {
    const { root, card } = await this.rootOf(id);
    return this.guard(id, 'its folders', async () => {
      const files = await this.listed(id, root);
      const kept = this.scans.get(files.fingerprint);
      if (kept) return { ...(await kept), card };
      const scan = scanCard(this.disk, this.contents, root, files, () => this.pictures.quiet());
      keep(this.scans, files.fingerprint, scan);
      // A scan that failed is no knowledge; whoever asked for it hears why.
      scan.catch(() => this.scans.delete(files.fingerprint));
      return { ...(await scan), card };
    });
  }

  /** The card's frames by name alone, so that its small pictures can be shown while their facts are still read. */
  async listing(id: string): Promise<CardScan & { card: string }> {
    const { root, card } = await this.rootOf(id);
    return this.guard(id, 'its folders', async () => {
      const listing = framesByName(await this.listed(id, root));
      keep(this.listings, listing.fingerprint, listing);
      return { ...listing, card };
    });
  }

  async files(id: string): Promise<CardFiles> {
    const { root } = await this.rootOf(id);
    return this.guard(id, 'its folders', () => this.listed(id, root));
  }

  /** What lies there; of what was chosen, as far as it does. */
  private async listed(id: string, root: string): Promise<CardFiles> {
    const chosen = await this.chosen(id);
    return chosen ? listChosen(this.disk, root, chosen.paths) : listCard(this.disk, root);
  }

  /** A JPEG of a card's file: what the camera embedded, the JPEG itself, or made for the look where there is neither. */
  async picture(
    id: string,
    file: string,
    which: 'largest' | 'smallest',
    fingerprint?: string,
  ): Promise<Uint8Array> {
    const { root } = await this.rootOf(id);
    const known = (await this.knownFile(root, file, fingerprint)) ?? fileOf(await this.scan(id), file);
    if (!known) throw new ArkivError('not-found', { what: 'file on this card', id: file });
    return this.pictures.while(() =>
      this.guard(id, file, async () => {
        const place = cardPath(root, file);
        const { bytes } = await this.contents.embedded(place, known, which);
        if (bytes) return this.upright(bytes, place, known);
        if (known.role === 'original' && isJpeg(await this.disk.readPart(place, 0, 2)))
          return this.disk.readAll(place, MAX_WHOLE);
        return this.made(place, known, which);
      }),
    );
  }

  /** What a camera embeds often lacks the turn that the file itself tells. A turn of its own the browser applies. */
  private async upright(bytes: Buffer, place: DiskPath, known: CardFrameFile): Promise<Uint8Array> {
    const { orientation } = (await this.contents.facts(place, known)).facts;
    if (orientation === 1 || (await this.contents.isTurned(bytes))) return bytes;
    return this.maker.whole(known.path, { input: bytes, orientation });
  }

  private async made(
    place: DiskPath,
    known: CardFrameFile,
    which: 'largest' | 'smallest',
  ): Promise<Uint8Array> {
    const { path: file, role } = known;
    const name = String(place);
    const isText = Buffer.from(name).equals(Buffer.from(place));
    let input: string | Uint8Array | null = null;
    if (role === 'clip') input = isText ? await this.posters.of(name) : null;
    else if (isDecoded(known)) input = isText ? name : await this.disk.readAll(place, MAX_WHOLE);
    if (input === null) throw noPicture(file, known);
    const side = which === 'smallest' ? THUMB_SIDE : SCREEN_SIDE;
    return this.maker.fitted(file, { input, orientation: null }, side);
  }

  /** A file of a card that was listed before and is still as it was then: a sheet of pictures must not list it anew. */
  private async knownFile(
    root: string,
    file: string,
    fingerprint: string | undefined,
  ): Promise<CardFrameFile | null> {
    if (fingerprint === undefined) return null;
    const scan = this.listings.get(fingerprint) ?? (await this.scans.get(fingerprint));
    const known = scan && fileOf(scan, file);
    if (!known) return null;
    const facts = await this.disk.facts(cardPath(root, file)).catch(() => null);
    return facts?.size === known.size && facts.mtimeMillis === known.mtimeMillis ? known : null;
  }

  async eject(id: string): Promise<void> {
    const reader = await this.get(id);
    const mounted = (await this.mountedCards()).find((card) => card.id === id);
    if (mounted) {
      const refused = await this.mounts.eject(mounted.mount);
      if (refused === null) return;
      throw new ArkivError('card.eject', { card: mounted.card ?? mounted.name, reason: refused });
    }
    await this.work.write((manager) => manager.delete(FolderReader, { id: reader.id }));
    this.happenings.tell('readers', {});
  }

  private async guard<T>(id: string, file: string, read: () => Promise<T>): Promise<T> {
    try {
      return await read();
    } catch (error) {
      if (diskErrorCode(error) === null) throw error;
      const reader = await this.get(id);
      if (!reader.card) throw new ArkivError('card.vanished', { reader: reader.name, file });
      throw new ArkivError('file.unreadable', { file, reason: (error as Error).message });
    }
  }
}

const shortHash = (text: string): string => createHash('sha256').update(text).digest('hex').slice(0, 8);

/** Lets some work wait while other work is under way. */
class Gate {
  private running = 0;
  private opened: Promise<void> = Promise.resolve();
  private open: () => void = () => undefined;

  async while<T>(work: () => Promise<T>): Promise<T> {
    if (this.running === 0) this.opened = new Promise((resolve) => (this.open = resolve));
    this.running += 1;
    try {
      return await work();
    } finally {
      this.running -= 1;
      if (this.running === 0) this.open();
    }
  }

  async quiet(): Promise<void> {
    while (this.running > 0) await this.opened;
  }
}

/** One card a slot is what a studio has in hand; what is known of older ones is cheap to find again. */
const KEPT_CARDS = 8;

function keep<T>(cards: Map<string, T>, fingerprint: string, known: T): void {
  if (cards.size >= KEPT_CARDS) cards.clear();
  cards.set(fingerprint, known);
}

/** Sent whole only when there is no smaller picture inside; the largest camera JPEGs are under 100 MB. */
const MAX_WHOLE = 100 * 1024 * 1024;

function fileOf(scan: CardScan, file: string): CardFrameFile | undefined {
  for (const frame of scan.frames) {
    const found = frame.files.find((f) => f.path === file);
    if (found) return found;
  }
  return undefined;
}

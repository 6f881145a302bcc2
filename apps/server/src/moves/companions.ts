import path from 'node:path';
import { Injectable } from '@nestjs/common';
import { collisionKey, type PlannedMove } from '@arkiv/core';
import { Reading } from '../db/unitOfWork';
import { Disk } from '../disk/disk';
import { Clock } from '../system/clock';
import { VolumesService } from '../volumes/volumes.service';
import type { Volume } from '../volumes/volume.entity';
import { sidecarEndings, type Way } from './fileWays';

/** Files of other programs that belong to the frames of one place on one volume. */
interface Listing {
  /** when it was read */
  at: number;
  /** paths below the volume, by the name of the frame that each belongs to */
  byFrame: Map<string, string[]>;
}

/** Folders in folders in which programs put their settings: `Settings/Session/name.ext`. */
const DEEPEST = 3;
/** Milliseconds for which a listing stands: one frame after the other of a folder of thousands is moved by it. */
const STANDS = 5000;

/**
 * Settings that other programs keep beside pictures, or in folders of their own there: files named as a frame is, with whatever
 * behind its name (`0118.dng.settings`), which the archive holds nothing of. They go where their frame goes, under its name.
 */
@Injectable()
export class Companions {
  private readonly listings = new Map<string, Listing>();

  constructor(
    private readonly reading: Reading,
    private readonly disk: Disk,
    private readonly volumes: VolumesService,
    private readonly clock: Clock,
  ) {}

  /** Their ways with a frame, on every drive that is here. */
  async of(move: PlannedMove, shootId: string): Promise<Way[]> {
    return this.on(await this.volumesOf([move]), move, shootId);
  }

  /** Their ways with a frame on one drive, on which its files may be gone already. */
  onDrive(volume: Volume, move: PlannedMove, shootId: string): Promise<Way[]> {
    return this.on([volume], move, shootId);
  }

  /** Their ways out of a bin, where they went with their frame. `binned`: gives all names of frames that lie in that folder of the bin. */
  async outOf(volume: Volume, move: PlannedMove, binned: () => Promise<ReadonlySet<string>>): Promise<Way[]> {
    const key = `${volume.id} ${move.from.place}`;
    let listing = this.listings.get(key);
    if (!listing || this.clock.now() - listing.at >= STANDS) {
      const byFrame = await this.walk(volume, move.from.place, await binned(), {
        isOurs: () => false,
        isPlace: () => false,
      });
      listing = { at: this.clock.now(), byFrame };
      this.listings.set(key, listing);
    }
    return this.waysOf(volume, move, listing.byFrame);
  }

  private async on(volumes: readonly Volume[], move: PlannedMove, shootId: string): Promise<Way[]> {
    const { id, from, to } = move;
    if (id === null || (from.place === to.place && from.name === to.name)) return [];
    const ways: Way[] = [];
    for (const volume of volumes) {
      const { byFrame } = await this.listing(volume, shootId, from.place);
      ways.push(...(await this.waysOf(volume, move, byFrame)));
    }
    return ways;
  }

  private async waysOf(
    volume: Volume,
    { from, to, files }: PlannedMove,
    byFrame: Listing['byFrame'],
  ): Promise<Way[]> {
    const endings = sidecarEndings(files.map((file) => file.from));
    const own = new Set(files.map((file) => collisionKey(file.from)));
    const before = `${from.place}/${from.name}`;
    const ways: Way[] = [];
    for (const file of byFrame.get(from.name) ?? []) {
      if (own.has(collisionKey(file))) continue;
      // Ours, and other programs' XMP beside it, are known by their names and go along anyway.
      if (file.startsWith(before) && endings.has(file.slice(before.length))) continue;
      const inside = path.posix.dirname(file).slice(from.place.length);
      const ending = path.posix.basename(file).slice(from.name.length);
      const way = { volume, from: file, to: `${to.place}${inside}/${to.name}${ending}`, sha256: null };
      if (await this.there(volume, file)) ways.push(way);
    }
    return ways;
  }

  /** What a plan takes along, and what stands in the way of it, each once whatever drive it lies on. */
  async ofPlan(
    moves: readonly PlannedMove[],
    shootId: string,
  ): Promise<{ along: string[]; taken: string[] }> {
    const along = new Set<string>();
    const taken = new Set<string>();
    const leaves = new Set<string>();
    const ways: Way[] = [];
    const volumes = await this.volumesOf(moves);
    for (const move of moves)
      for (const way of await this.on(volumes, move, shootId)) {
        along.add(way.from);
        leaves.add(`${way.volume.id} ${collisionKey(way.from)}`);
        ways.push(way);
      }
    for (const { volume, to } of ways)
      if (!leaves.has(`${volume.id} ${collisionKey(to)}`) && (await this.there(volume, to))) taken.add(to);
    return { along: [...along].sort(), taken: [...taken].sort() };
  }

  /** They have gone these ways with their frame. */
  moved({ from, to }: PlannedMove, ways: readonly Way[]): void {
    for (const { volume } of ways) {
      this.listings.get(`${volume.id} ${from.place}`)?.byFrame.delete(from.name);
      const there = this.listings.get(`${volume.id} ${to.place}`);
      there?.byFrame.set(
        to.name,
        ways.flatMap((way) => (way.volume.id === volume.id ? [way.to] : [])),
      );
    }
  }

  /** What lies in folders is read anew. */
  forget(): void {
    this.listings.clear();
  }

  /** The drives that are here and hold files of some frames under the names that these have. */
  private async volumesOf(moves: readonly PlannedMove[]): Promise<Volume[]> {
    const assets = moves.flatMap(({ files }) => files.map(({ assetId }) => assetId));
    const rows: { id: string }[] = await this.reading.source.query(
      `SELECT DISTINCT "volumeId" AS id FROM copy WHERE path IS NULL AND "assetId" IN (SELECT value FROM json_each(?))`,
      [JSON.stringify(assets)],
    );
    const here: Volume[] = [];
    for (const { id } of rows) {
      const volume = await this.volumes.get(id);
      if (await this.volumes.isOnline(volume)) here.push(volume);
    }
    return here;
  }

  private async listing(volume: Volume, shootId: string, place: string): Promise<Listing> {
    const key = `${volume.id} ${place}`;
    const known = this.listings.get(key);
    if (known && this.clock.now() - known.at < STANDS) return known;
    const frames: { name: string; place: string }[] = await this.reading.source.query(
      `SELECT name, place FROM frame WHERE "shootId" = ?`,
      [shootId],
    );
    const files: { at: string }[] = await this.reading.source.query(
      `SELECT "at" FROM copy_at WHERE "shootId" = ? AND "volumeId" = ?`,
      [shootId, volume.id],
    );
    const names = new Set(frames.flatMap((frame) => (frame.place === place ? [frame.name] : [])));
    const places = new Set(frames.map((frame) => frame.place));
    const ours = new Set(files.map(({ at }) => collisionKey(at)));
    const byFrame = await this.walk(volume, place, names, {
      isOurs: (at) => ours.has(collisionKey(at)),
      isPlace: (at) => places.has(at),
    });
    const listing = { at: this.clock.now(), byFrame };
    this.listings.set(key, listing);
    return listing;
  }

  /** What lies in a folder and those below it, and is named after one of these frames. `isPlace`: frames lie there, and what is beside them. */
  private async walk(
    volume: Volume,
    place: string,
    names: ReadonlySet<string>,
    { isOurs, isPlace }: { isOurs: (at: string) => boolean; isPlace: (at: string) => boolean },
  ): Promise<Map<string, string[]>> {
    const byFrame = new Map<string, string[]>();
    const visit = async (folder: string, depth: number): Promise<void> => {
      for (const bytes of await this.disk.names(await this.volumes.resolve(volume, folder)).catch(() => [])) {
        const name = bytes.toString();
        // A name that is no text, and what is on its way, is nobody's setting.
        if (!Buffer.from(name).equals(bytes) || isOnItsWay(name)) continue;
        const at = `${folder}/${name}`;
        const owner = ownerOf(name, names);
        // Most of what lies there is the archive's own, and is not looked at.
        if (owner === null ? depth >= DEEPEST || isPlace(at) : isOurs(at)) continue;
        const facts = await this.disk.facts(await this.volumes.resolve(volume, at)).catch(() => null);
        if (facts?.kind === 'folder' && owner === null) await visit(at, depth + 1);
        else if (facts?.kind === 'file' && owner !== null)
          byFrame.set(owner, [...(byFrame.get(owner) ?? []), at]);
      }
    };
    await visit(place, 0);
    return byFrame;
  }

  private async there(volume: Volume, at: string): Promise<boolean> {
    return (await this.disk.facts(await this.volumes.resolve(volume, at))) !== null;
  }
}

/** A file that is still being written. */
const isOnItsWay = (name: string): boolean => name.startsWith('.') && name.endsWith('.part');

/** The frame that a file is named after: the one with the longest name, before a dot. */
function ownerOf(file: string, names: ReadonlySet<string>): string | null {
  for (let dot = file.lastIndexOf('.'); dot > 0; dot = file.lastIndexOf('.', dot - 1)) {
    const name = file.slice(0, dot);
    if (names.has(name)) return name;
  }
  return null;
}

import { Injectable } from '@nestjs/common';
import { ArkivError, placesAtEnd, withPlace } from '@arkiv/core';
import type { AlbumRow } from '../marks/album.entity';
import { AlbumStore } from '../marks/albumStore';
import { Clock } from '../system/clock';
import type { ReadFrame } from './adoptedFrame';

/** Collections that sidecars name become albums: those of the same name where there are any, else new ones. */
@Injectable()
export class AdoptedAlbums {
  constructor(
    private readonly albums: AlbumStore,
    private readonly clock: Clock,
  ) {}

  /** Albums by the names of the collections that these frames are in. */
  async of(read: readonly ReadFrame[]): Promise<ReadonlyMap<string, string>> {
    const names = new Set(read.flatMap(({ before }) => before.collections));
    const found = new Map<string, string>();
    if (names.size === 0) return found;
    for (const name of names) found.set(name, await this.album(name));
    return found;
  }

  /** Says of frames that are new in which albums they begin, behind those that are in them already. */
  put(
    frames: readonly { albums?: string }[],
    read: readonly ReadFrame[],
    albums: ReadonlyMap<string, string>,
  ): void {
    if (albums.size === 0) return;
    const places = placesAtEnd(this.clock.now(), frames.length);
    for (const [i, frame] of frames.entries())
      for (const name of new Set(read[i]!.before.collections))
        frame.albums = withPlace(frame.albums ?? '', albums.get(name)!, places[i]!);
  }

  /** One that is filled by a rule takes no frame by hand: another one stands beside it then. */
  private async album(name: string): Promise<string> {
    for (const tried of [name, `${name} (from sidecars)`]) {
      const same = await this.named(tried);
      if (same?.rule === null) return same.id;
      if (same) continue;
      try {
        return (await this.albums.create({ name: tried, parent: null, rule: null })).id;
      } catch (error) {
        // Another folder, taken up in the same moment, has made it.
        const made = await this.named(tried);
        if (!made || made.rule !== null) throw error;
        return made.id;
      }
    }
    throw new ArkivError('album.rule', { album: name });
  }

  private async named(name: string): Promise<AlbumRow | undefined> {
    const tree = await this.albums.tree();
    return tree.children(null).find((one) => one.name.toLowerCase() === name.toLowerCase());
  }
}

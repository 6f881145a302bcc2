import { homedir } from 'node:os';
import path from 'node:path';
import { Injectable } from '@nestjs/common';
import { Disk, diskErrorCode } from '../disk/disk';
import { MountsService } from '../mounts/mounts.service';

/** A place that pictures could live in. */
export interface SuggestedPlace {
  /** full path on the server's machine */
  path: string;
  name: string;
  kind: 'home' | 'drive' | 'share';
  free: number;
  total: number;
}

/** Folders shown below one that is being typed: more than a person reads through. */
const MAX_FOLDERS = 200;

/** Offers places for pictures, and folders while a path is typed. */
@Injectable()
export class PlacesService {
  constructor(
    private readonly disk: Disk,
    private readonly mounts: MountsService,
  ) {}

  /** Where pictures could live: the owner's own folder for pictures, and the drives and shares that are there. */
  async suggestions(): Promise<SuggestedPlace[]> {
    const places: Omit<SuggestedPlace, 'free' | 'total'>[] = [];
    const pictures = path.join(homedir(), 'Pictures');
    const home = (await this.disk.facts(pictures))?.kind === 'folder' ? pictures : homedir();
    places.push({ path: path.join(home, 'Arkiv'), name: 'This computer', kind: 'home' });
    for (const { mount, look } of await this.mounts.now()) {
      if (!look || mount.readOnly || mount.point === '/' || mount.reader || look.cards.length > 0) continue;
      if (mount.kind === 'cable') continue;
      const kind = mount.kind === 'network' ? 'share' : 'drive';
      places.push({ path: path.join(mount.point, 'Arkiv'), name: mount.name, kind });
    }
    return Promise.all(
      places.map(async (place) => ({ ...place, ...(await this.disk.space(path.dirname(place.path))) })),
    );
  }

  /** Folders below a full path that begins so: for choosing one by typing. */
  async foldersFrom(typed: string): Promise<string[]> {
    if (!path.isAbsolute(typed)) return [];
    const parent = typed.endsWith('/') ? typed : path.dirname(typed);
    const begun = typed.endsWith('/') ? '' : path.basename(typed).toLowerCase();
    try {
      const names = (await this.disk.names(parent)).map(String).sort();
      const fitting = names.filter((name) => name.toLowerCase().startsWith(begun) && !name.startsWith('.'));
      const found = await Promise.all(
        fitting.slice(0, MAX_FOLDERS).map(async (name) => {
          const full = path.join(parent, name);
          return (await this.disk.facts(full))?.kind === 'folder' ? full : null;
        }),
      );
      return found.filter((full) => full !== null);
    } catch (error) {
      if (diskErrorCode(error) === null) throw error;
      return [];
    }
  }
}

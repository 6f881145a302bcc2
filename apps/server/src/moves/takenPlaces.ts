import path from 'node:path';
import { Injectable } from '@nestjs/common';
import { collisionKey, sidecarOf } from '@arkiv/core';
import { Disk } from '../disk/disk';
import { VolumesService } from '../volumes/volumes.service';

/** What stands already where frames would come to, on every drive that is there. */
@Injectable()
export class TakenPlaces {
  constructor(
    private readonly disk: Disk,
    private readonly volumes: VolumesService,
  ) {}

  /**
   * {@link collisionKey}s of all that stands in the folders of the places that `planned` gives, but what `leaves` them.
   * A plan is asked for again with what was found, until it comes to no other folder.
   */
  async by(
    planned: (exists: (to: string) => boolean) => readonly string[],
    leaves: ReadonlySet<string>,
  ): Promise<Set<string>> {
    const taken = new Set<string>();
    const looked = new Set<string>();
    for (;;) {
      const places = planned((to) => taken.has(collisionKey(to)));
      const folders = new Set(places.map((to) => to.slice(0, to.lastIndexOf('/'))));
      const news = [...folders].filter((folder) => !looked.has(folder));
      if (news.length === 0) return taken;
      for (const folder of news) {
        looked.add(folder);
        for (const volume of await this.volumes.all()) {
          if (!(await this.volumes.isOnline(volume))) continue;
          const place = await this.volumes.resolve(volume, folder);
          if ((await this.disk.facts(place))?.kind !== 'folder') continue;
          for (const name of await this.disk.names(place)) {
            const key = collisionKey(`${folder}/${String(name)}`);
            if (leaves.has(key)) continue;
            // A frame has the place of its sidecar for itself, whatever its files' extensions.
            taken.add(key).add(collisionKey(sidecarOf(folder, path.posix.parse(String(name)).name)));
          }
        }
      }
    }
  }
}

import path from 'node:path';
import type { Disk } from '../disk/disk';
import { MountSource, type Mount, type ReaderSlot } from '../disk/mounts/mounts';
import type { StandInFaults } from './standInFaults';

/** Plays what is mounted: the cards in the simulated readers and the simulated drives that are plugged in. */
export class StandInMounts extends MountSource {
  constructor(
    private readonly disk: Disk,
    private readonly real: MountSource,
    private readonly faults: StandInFaults,
  ) {
    super();
  }

  async list(): Promise<Mount[]> {
    const cards = await Promise.all(
      [...this.faults.slots.values()].map(async ({ id, name, root, inserted }): Promise<Mount[]> => {
        if ((await this.disk.facts(root))?.kind !== 'link') return [];
        // Paths go through the link, so that taking the card out is felt at once.
        const card = path.basename(await this.disk.realPath(root));
        return [
          {
            ...{ id, point: root, name: card, kind: 'disk', readOnly: true, simulated: true },
            ...{ disks: [`stand-in ${id}`], generation: `${inserted} ${card}`, reader: { id, name } },
          },
        ];
      }),
    );
    const drives = [...this.faults.drives.values()]
      .filter(({ faults }) => faults.state !== 'unplugged')
      .map(({ id, root, faults }): Mount => ({
        ...{ id: `drive-${id}`, point: root, name: id, kind: 'disk', readOnly: faults.state === 'read-only' },
        ...{ disks: [`stand-in ${id}`], generation: '', simulated: true },
      }));
    return [...cards.flat(), ...drives];
  }

  override slots(): readonly ReaderSlot[] {
    return [...this.faults.slots.values()].map(({ id, name }) => ({ id, name }));
  }

  async disksOf(where: string): Promise<readonly string[] | null> {
    const device = this.faults.driveAt(where) ?? this.faults.slotAt(where);
    return device ? [`stand-in ${device.id}`] : this.real.disksOf(where);
  }

  async eject(mount: Mount): Promise<string | null> {
    if (mount.reader) await this.faults.pull(mount.reader.id);
    return null;
  }
}

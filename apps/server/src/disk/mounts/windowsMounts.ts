import type { Systeminformation } from 'systeminformation';
import { idOf } from './linuxMounts';
import { attached, mountAt, MountSource, type Mount } from './mounts';

type Block = Systeminformation.BlockDevicesData;

/** What has a drive letter on Windows. Tried on sample output only, never on Windows. */
export class WindowsMounts extends MountSource {
  constructor(
    private readonly systemDrive: string,
    private readonly blocks: () => Promise<Block[]> = attached,
  ) {
    super();
  }

  async list(): Promise<Mount[]> {
    return windowsMounts(await this.blocks(), this.systemDrive);
  }

  async disksOf(path: string): Promise<readonly string[] | null> {
    const mounts = windowsMounts(await this.blocks(), '');
    return mountAt(mounts, path.replace(/\\/g, '/'))?.disks ?? null;
  }

  async eject(): Promise<string | null> {
    return 'Windows lets go of it from its own task bar only';
  }
}

/** Drives with a letter but the system's own. */
export function windowsMounts(blocks: readonly Block[], systemDrive: string): Mount[] {
  return blocks
    .filter(({ mount }) => /^[A-Z]:$/i.test(mount) && mount.toUpperCase() !== systemDrive.toUpperCase())
    .map((block) => ({
      id: idOf(block.uuid ? `fs ${block.uuid}` : `place ${block.mount}`),
      point: `${block.mount.toUpperCase()}/`.replace(/\/$/, ''),
      name: block.label || block.mount,
      kind: block.physical === 'Network' ? ('network' as const) : ('disk' as const),
      readOnly: false,
      // The physical drive stands in `device` where Windows tells it: \\.\PHYSICALDRIVE1.
      disks: block.device ? [`disk ${block.serial || block.device}`] : null,
      generation: `${block.mount} ${block.uuid}`,
    }));
}

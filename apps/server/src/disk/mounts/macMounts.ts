import type { Systeminformation } from 'systeminformation';
import { idOf, run } from './linuxMounts';
import { attached, mountAt, MountSource, type Mount } from './mounts';

type Block = Systeminformation.BlockDevicesData;

/** What is mounted on macOS, as its disk utility tells. Tried on sample output only, never on a Mac. */
export class MacMounts extends MountSource {
  constructor(private readonly blocks: () => Promise<Block[]> = attached) {
    super();
  }

  async list(): Promise<Mount[]> {
    return macMounts(await this.blocks());
  }

  async disksOf(path: string): Promise<readonly string[] | null> {
    const all = (await this.blocks()).filter((block) => block.mount);
    const block = mountAt(
      all.map((b) => ({ point: b.mount, b })),
      path,
    )?.b;
    return block ? diskOf(block) : null;
  }

  eject(mount: Mount): Promise<string | null> {
    return run('diskutil', ['eject', mount.point]);
  }
}

/** Volumes under /Volumes and network shares; the system's own disk is none of them. */
export function macMounts(blocks: readonly Block[]): Mount[] {
  return blocks
    .filter((block) => block.mount.startsWith('/Volumes/'))
    .map((block) => ({
      id: idOf(block.uuid ? `fs ${block.uuid}` : `place ${block.mount}`),
      point: block.mount,
      name: block.label || block.mount.slice('/Volumes/'.length),
      kind: /^(smbfs|nfs|afpfs|webdav)$/i.test(block.fsType) ? ('network' as const) : ('disk' as const),
      readOnly: false,
      disks: diskOf(block),
      generation: `${block.name} ${block.uuid}`,
    }));
}

/** disk4s2 is the second slice of disk4. A container's volumes lie on another disk than their name tells: unknown. */
function diskOf({ name, serial, fsType }: Block): string[] | null {
  if (/apfs/i.test(fsType)) return null;
  const disk = /^(disk\d+)/.exec(name)?.[1];
  if (serial) return [`disk ${serial}`];
  return disk ? [`disk ${disk}`] : null;
}

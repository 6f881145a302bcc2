import { createHash } from 'node:crypto';
import { execFile } from 'node:child_process';
import { existsSync, readdirSync, readFileSync, readlinkSync, realpathSync } from 'node:fs';
import path from 'node:path';
import { isForeign, isNetwork, parseMountinfo, serverOf, type MountLine } from './mountinfo';
import { mountAt, MountSource, type CableDevice, type Mount } from './mounts';

/** Where the kernel's own tables are; tests lay out their own. They lie in memory: reading them never hangs. */
export interface KernelTables {
  proc: string;
  sys: string;
  dev: string;
}

/** A mapper over a mirror over loops over files: deeper piles are somebody's mistake or a ring. */
const MAX_DEPTH = 8;
/** A drive with a full cache writes for a while; a minute more and something is wrong with it. */
const EJECT_MILLIS = 60_000;
/** Interface class of cameras and phones that hand out their pictures (USB still image class 1.0, PIMA 15740). */
const STILL_IMAGE = '06';

/** What is mounted on Linux, from /proc/self/mountinfo and /sys. */
export class LinuxMounts extends MountSource {
  constructor(private readonly at: KernelTables = { proc: '/proc', sys: '/sys', dev: '/dev' }) {
    super();
  }

  list(): Promise<Mount[]> {
    const lines = this.lines().filter((line) => isForeign(line) && this.isThere(line));
    const ids = this.fileSystemIds();
    const mounts = lines.flatMap((line): Mount[] => {
      if (line.fsType === 'fuse.gvfsd-fuse') return this.desktopMounts(line);
      const id = ids.get(this.nodeOf(line));
      return [
        {
          id: idOf(id !== undefined && line.root === '/' ? `fs ${id}` : `place ${line.point}`),
          point: line.point,
          name: path.basename(line.point) || 'System',
          kind: isNetwork(line) ? 'network' : 'disk',
          readOnly: line.readOnly,
          disks: this.disksOfLine(line, 0),
          generation: `${line.device} ${line.root} ${line.source} ${this.sequenceOf(line)}`,
        },
      ];
    });
    // Where one is mounted over another, only the upper one can be seen.
    return Promise.resolve([...new Map(mounts.map((mount) => [mount.point, mount])).values()]);
  }

  disksOf(where: string): Promise<readonly string[] | null> {
    return Promise.resolve(this.disksBelow(where, 0));
  }

  override cables(): Promise<CableDevice[]> {
    const root = `${this.at.sys}/bus/usb/devices`;
    const devices = names(root).filter((name) => !name.includes(':'));
    return Promise.resolve(
      devices.flatMap((name): CableDevice[] => {
        const parts = names(`${root}/${name}`).filter((part) => part.startsWith(`${name}:`));
        const offers = parts.some(
          (part) =>
            text(`${root}/${name}/${part}/bInterfaceClass`) === STILL_IMAGE ||
            /^MTP$/i.test(text(`${root}/${name}/${part}/interface`) ?? ''),
        );
        if (!offers) return [];
        const words = [text(`${root}/${name}/manufacturer`), text(`${root}/${name}/product`)];
        return [{ id: name, name: nameOf(words) }];
      }),
    );
  }

  async eject(mount: Mount): Promise<string | null> {
    const line = this.lines()
      .reverse()
      .find(({ point }) => point === mount.point);
    if (!line) return null;
    const flushed = await run('sync', ['-f', mount.point]);
    if (flushed !== null) return flushed;
    if (!line.source.startsWith('/dev/')) return 'only the desktop can unmount it';
    const unmounted = await run('udisksctl', ['unmount', '--no-user-interaction', '-b', line.source]);
    if (unmounted !== null) return unmounted;
    // Off as well, where the device can be: it is not needed for pulling the card out.
    await run('udisksctl', ['power-off', '--no-user-interaction', '-b', line.source]);
    return null;
  }

  private lines(): MountLine[] {
    return parseMountinfo(text(`${this.at.proc}/self/mountinfo`) ?? '');
  }

  /** A device that was pulled out without a word stays mounted, but the kernel knows it no more. */
  private isThere({ device, source }: MountLine): boolean {
    return (
      !source.startsWith('/dev/') ||
      device.startsWith('0:') ||
      existsSync(`${this.at.sys}/dev/block/${device}`)
    );
  }

  /** The kernel counts what is put into a drive, so that a swap between two looks is seen. */
  private sequenceOf({ device }: MountLine): string {
    return text(`${this.at.sys}/dev/block/${device}/diskseq`) ?? '';
  }

  /** What a desktop mounts of cameras, phones and shares: folders of one mount, each a device of its own. */
  private desktopMounts(line: MountLine): Mount[] {
    // These names come from a program that talks to devices: it may hang, so the looker lists them, not we.
    return [
      {
        id: idOf(`place ${line.point}`),
        point: line.point,
        name: 'Cameras and phones',
        kind: 'cable',
        readOnly: true,
        disks: [`cable ${line.point}`],
        generation: line.source,
      },
    ];
  }

  /** `where` is a path without links: following them would touch what may hang. */
  private disksBelow(where: string, depth: number): readonly string[] | null {
    const line = mountAt(this.lines(), where);
    return line && this.disksOfLine(line, depth);
  }

  private disksOfLine(line: MountLine, depth: number): readonly string[] | null {
    const server = serverOf(line);
    if (server !== null) return [`server ${server}`];
    const own = `${this.at.sys}/dev/block/${line.device}`;
    if (!line.device.startsWith('0:') && existsSync(own)) return this.disksOfBlock(own, depth);
    if (!line.source.startsWith('/dev/')) return null;
    // btrfs and the like give no device of their own; the file system's other members share what it holds.
    const block = `${this.at.sys}/class/block/${this.nodeOf(line)}`;
    if (!existsSync(block)) return null;
    return this.union(this.membersOf(this.nodeOf(line)), depth);
  }

  private membersOf(node: string): string[] {
    const pools = `${this.at.sys}/fs/btrfs`;
    for (const pool of names(pools)) {
      const members = names(`${pools}/${pool}/devices`);
      if (members.includes(node)) return members.map((member) => `${this.at.sys}/class/block/${member}`);
    }
    return [`${this.at.sys}/class/block/${node}`];
  }

  /** The disks of a block device: through partitions, loops, mirrors and mappers down to what can be held in a hand. */
  private disksOfBlock(block: string, depth: number): readonly string[] | null {
    if (depth >= MAX_DEPTH) return null;
    let folder: string;
    try {
      folder = realpathSync(block);
    } catch {
      return null;
    }
    if (existsSync(`${folder}/partition`)) folder = path.dirname(folder);
    const below = names(`${folder}/slaves`);
    if (below.length > 0)
      return this.union(
        below.map((name) => `${this.at.sys}/class/block/${name}`),
        depth,
      );
    const file = text(`${folder}/loop/backing_file`);
    if (file !== null) return file.endsWith(' (deleted)') ? null : this.disksBelow(file, depth + 1);
    return this.diskName(folder);
  }

  private union(blocks: readonly string[], depth: number): readonly string[] | null {
    const all = new Set<string>();
    for (const block of blocks) {
      const disks = this.disksOfBlock(block, depth + 1);
      if (disks === null) return null;
      disks.forEach((disk) => all.add(disk));
    }
    return all.size > 0 ? [...all].sort() : null;
  }

  /**
   * A name that is the same from one plugging-in to the next: the world-wide name where the disk has a real one, its
   * serial number, the serial number of the USB device that holds it. A disk that is built in may go by its place.
   */
  private diskName(folder: string): string[] | null {
    const node = path.basename(folder);
    const worldWide = text(`${folder}/wwid`) ?? text(`${folder}/device/wwid`);
    if (worldWide !== null && /^(naa|eui|uuid|nvme)\./.test(worldWide)) return [`disk ${worldWide}`];
    const serial = text(`${folder}/serial`) ?? text(`${folder}/device/serial`);
    if (serial !== null) return [`disk ${serial} ${text(`${folder}/device/model`) ?? ''}`.trim()];
    const holder = this.usbHolder(folder);
    if (holder !== null) {
      const number = text(`${holder}/serial`);
      if (number === null) return null;
      // One reader holds several disks: each has its number behind the last colon of its address.
      const unit = /:(\d+)$/.exec(path.basename(realpathSync(`${folder}/device`)))?.[1] ?? '0';
      return [
        `disk usb ${text(`${holder}/idVendor`) ?? ''}:${text(`${holder}/idProduct`) ?? ''} ${number} ${unit}`,
      ];
    }
    const removable = text(`${folder}/removable`) === '1';
    const virtual = folder.includes('/devices/virtual/');
    return removable || virtual ? null : [`disk ${node}`];
  }

  private usbHolder(folder: string): string | null {
    for (let at = folder; at.startsWith(realpathSync(this.at.sys)) && at !== '/'; at = path.dirname(at))
      if (existsSync(`${at}/idVendor`)) return at;
    return null;
  }

  private nodeOf({ source }: MountLine): string {
    if (!source.startsWith('/dev/')) return '';
    try {
      return path.basename(realpathSync(path.join(this.at.dev, source.slice('/dev/'.length))));
    } catch {
      return path.basename(source);
    }
  }

  /** Ids of file systems by the node that holds them, as udev lists them. */
  private fileSystemIds(): Map<string, string> {
    const folder = `${this.at.dev}/disk/by-uuid`;
    return new Map(
      names(folder).flatMap((id): [string, string][] => {
        try {
          return [[path.basename(readlinkSync(`${folder}/${id}`)), id]];
        } catch {
          return [];
        }
      }),
    );
  }
}

function nameOf([maker, product]: readonly (string | null)[]): string {
  if (!product) return maker ?? 'A camera or phone';
  return maker && !product.toLowerCase().startsWith(maker.toLowerCase()) ? `${maker} ${product}` : product;
}

/** Short enough for an address, and no part of somebody's path in it. */
export const idOf = (what: string): string =>
  `mount-${createHash('sha256').update(what).digest('hex').slice(0, 16)}`;

/** A text of the kernel's, or null where there is none or it is empty. */
function text(file: string): string | null {
  try {
    return readFileSync(file, 'utf8').replace(/\0/g, '').trim() || null;
  } catch {
    return null;
  }
}

function names(folder: string): string[] {
  try {
    return readdirSync(folder).sort();
  } catch {
    return [];
  }
}

/** Runs a program of the system. Null when it did what it should, otherwise what it said. */
export function run(program: string, args: readonly string[]): Promise<string | null> {
  return new Promise((resolve) => {
    execFile(program, [...args], { timeout: EJECT_MILLIS }, (error, _, said) => {
      if (!error) return resolve(null);
      if ((error as NodeJS.ErrnoException).code === 'ENOENT') return resolve(`${program} is not installed`);
      resolve(said.trim().split('\n').at(-1) || error.message);
    });
  });
}

import { execFileSync, spawnSync } from 'node:child_process';
import { existsSync, ftruncateSync, closeSync, mkdirSync, openSync, readFileSync, writeSync } from 'node:fs';
import path from 'node:path';

const run = (command: string, ...args: string[]): string =>
  execFileSync(command, args, { encoding: 'utf8', stdio: ['ignore', 'pipe', 'pipe'] }).trim();
const works = (command: string, ...args: string[]): boolean =>
  spawnSync(command, args, { stdio: 'ignore' }).status === 0;

/** Start and length in sectors of the two partitions, some 100 MB each: an intake leaves 32 MB free. */
const PARTS = [
  [2048, 204800],
  [208896, 204800],
] as const;
const IMAGE_BYTES = 204 * 1024 * 1024;

/** A disk image with two partitions in it, attached as a loop device: a disk that can be plugged in and out. */
export class ImageDisk {
  private readonly loop: string;

  constructor(image: string) {
    const file = openSync(image, 'w');
    ftruncateSync(file, IMAGE_BYTES);
    // A master boot record: four entries of 16 bytes from byte 446, the signature at its end.
    for (const [i, [start, length]] of PARTS.entries()) {
      const entry = Buffer.from([0, 0xfe, 0xff, 0xff, 0x83, 0xfe, 0xff, 0xff, 0, 0, 0, 0, 0, 0, 0, 0]);
      entry.writeUInt32LE(start, 8);
      entry.writeUInt32LE(length, 12);
      writeSync(file, entry, 0, 16, 446 + i * 16);
    }
    writeSync(file, Buffer.from([0x55, 0xaa]), 0, 2, 510);
    closeSync(file);
    this.loop = run('losetup', '-f', '--show', image);
    run('partx', '-a', this.loop);
    for (const part of [1, 2] as const) run('mkfs.ext4', '-q', this.node(part));
  }

  /** The device of a partition; made where the system made no node of its own. */
  node(part: 1 | 2): string {
    const node = `${this.loop}p${part}`;
    if (!existsSync(node)) {
      const numbers = readFileSync(`/sys/class/block/${path.basename(node)}/dev`, 'utf8')
        .trim()
        .split(':');
      run('mknod', node, 'b', ...numbers);
    }
    return node;
  }

  mount(part: 1 | 2, at: string): void {
    mkdirSync(at, { recursive: true });
    run('mount', this.node(part), at);
  }

  remove(): void {
    for (const part of [1, 2] as const) works('rm', '-f', `${this.loop}p${part}`);
    works('partx', '-d', this.loop);
    works('losetup', '-d', this.loop);
  }
}

export const bind = (from: string, to: string): void => {
  mkdirSync(to, { recursive: true });
  run('mount', '--bind', from, to);
};

export const unmount = (at: string): void => void works('umount', at);

/** Whether images can be attached and mounted here; says so where they cannot. */
export function canMount(folder: string): boolean {
  try {
    mkdirSync(folder, { recursive: true });
    const disk = new ImageDisk(path.join(folder, 'probe.img'));
    const at = path.join(folder, 'probe');
    try {
      disk.mount(1, at);
      unmount(at);
      return true;
    } finally {
      disk.remove();
    }
  } catch (error) {
    console.warn(
      `No image can be mounted here (${(error as Error).message}): only made-up tables are tried.`,
    );
    return false;
  }
}

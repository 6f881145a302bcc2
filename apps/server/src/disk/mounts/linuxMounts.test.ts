import { mkdirSync, mkdtempSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { LinuxMounts } from './linuxMounts';
import { parseMountinfo, serverOf } from './mountinfo';

/** Tables as the kernel lays them out: a tree of devices, and links to it by number and by name. */
class Tables {
  readonly root = mkdtempSync(path.join(os.tmpdir(), 'arkiv-tables-'));
  private readonly lines: string[] = [
    '25 1 254:0 / / rw - ext4 /dev/vda rw',
    '26 25 0:21 / /proc rw - proc proc rw',
  ];

  constructor() {
    for (const folder of ['proc/self', 'sys/dev/block', 'sys/class/block', 'dev/disk/by-uuid'])
      mkdirSync(path.join(this.root, folder), { recursive: true });
    this.disk('devices/pci0/virtio1/block/vda', '254:0', { serial: 'built-in' });
  }

  /** A block device in its place, with the texts it shows. */
  disk(place: string, number: string, texts: Record<string, string> = {}): void {
    const folder = path.join(this.root, 'sys', place);
    mkdirSync(folder, { recursive: true });
    this.texts(place, { dev: number, ...texts });
    symlinkSync(folder, path.join(this.root, 'sys/dev/block', number));
    symlinkSync(folder, path.join(this.root, 'sys/class/block', path.basename(place)));
    writeFileSync(path.join(this.root, 'dev', path.basename(place)), '');
  }

  texts(place: string, texts: Record<string, string>): void {
    for (const [name, text] of Object.entries(texts)) {
      const file = path.join(this.root, 'sys', place, name);
      mkdirSync(path.dirname(file), { recursive: true });
      writeFileSync(file, `${text}\n`);
    }
  }

  slave(place: string, of: string): void {
    const folder = path.join(this.root, 'sys', place, 'slaves');
    mkdirSync(folder, { recursive: true });
    symlinkSync(path.join(this.root, 'sys/class/block', of), path.join(folder, of));
  }

  mounted(line: string): this {
    this.lines.push(line);
    return this;
  }

  source(): LinuxMounts {
    writeFileSync(path.join(this.root, 'proc/self/mountinfo'), `${this.lines.join('\n')}\n`);
    const at = (name: string) => path.join(this.root, name);
    return new LinuxMounts({ proc: at('proc'), sys: at('sys'), dev: at('dev') });
  }
}

describe('what is mounted on Linux', () => {
  let tables: Tables;
  beforeEach(() => (tables = new Tables()));
  afterEach(() => rmSync(tables.root, { recursive: true }));

  it('is read from mountinfo as proc(5) describes it: optional fields, spaces as octal digits', () => {
    const line =
      '36 35 98:0 /a\\040b /media/ines/My\\040Card rw,noatime master:1 shared:7 - vfat /dev/sdb1 ro,utf8';
    expect(parseMountinfo(`${line}\nnot a line\n`)).toEqual([
      {
        device: '98:0',
        root: '/a b',
        point: '/media/ines/My Card',
        readOnly: true,
        fsType: 'vfat',
        source: '/dev/sdb1',
      },
    ]);
  });

  it('is without the system’s own file systems', async () => {
    tables
      .mounted('30 25 0:30 / /run rw - tmpfs tmpfs rw')
      .mounted('31 25 254:1 / /boot/efi rw - vfat /dev/vda1 rw');
    expect((await tables.source().list()).map((m) => m.point)).toEqual(['/']);
  });

  it('shows two partitions of one disk as one disk, and another disk as another', async () => {
    tables.disk('devices/pci0/ata1/block/sda', '8:0', { 'device/wwid': 'naa.5000c500a1' });
    for (const n of [1, 2])
      tables.disk(`devices/pci0/ata1/block/sda/sda${n}`, `8:${n}`, { partition: String(n) });
    tables.disk('devices/pci0/ata2/block/sdb', '8:16', { 'device/wwid': 'naa.5000c500b2' });
    tables
      .mounted('40 25 8:1 / /mnt/a rw - ext4 /dev/sda1 rw')
      .mounted('41 25 8:2 / /mnt/b rw - ext4 /dev/sda2 rw')
      .mounted('42 25 8:16 / /mnt/c rw - ext4 /dev/sdb rw')
      .mounted('43 25 8:1 /pictures /mnt/bound rw - ext4 /dev/sda1 rw');
    const source = tables.source();
    const disks = await Promise.all(['a', 'b', 'c', 'bound'].map((n) => source.disksOf(`/mnt/${n}/x`)));
    expect(disks).toEqual([
      ['disk naa.5000c500a1'],
      ['disk naa.5000c500a1'],
      ['disk naa.5000c500b2'],
      ['disk naa.5000c500a1'],
    ]);
  });

  it('sees through a mapper and a mirror down to both disks', async () => {
    tables.disk('devices/pci0/ata1/block/sda', '8:0', { 'device/wwid': 'naa.1' });
    tables.disk('devices/pci0/ata2/block/sdb', '8:16', { 'device/wwid': 'naa.2' });
    tables.disk('devices/virtual/block/md0', '9:0');
    tables.slave('devices/virtual/block/md0', 'sda');
    tables.slave('devices/virtual/block/md0', 'sdb');
    tables.disk('devices/virtual/block/dm-0', '253:0');
    tables.slave('devices/virtual/block/dm-0', 'md0');
    tables.mounted('44 25 253:0 / /mnt/safe rw - ext4 /dev/mapper/safe rw');
    expect(await tables.source().disksOf('/mnt/safe')).toEqual(['disk naa.1', 'disk naa.2']);
  });

  it('sees through a loop to the disk that its image lies on, and knows nothing of a deleted one', async () => {
    tables.disk('devices/virtual/block/loop0', '7:0', { 'loop/backing_file': '/home/ines/image' });
    tables.disk('devices/virtual/block/loop1', '7:1', { 'loop/backing_file': '/home/ines/gone (deleted)' });
    tables
      .mounted('45 25 7:0 / /mnt/image rw - ext4 /dev/loop0 rw')
      .mounted('46 25 7:1 / /mnt/gone rw - ext4 /dev/loop1 rw');
    const source = tables.source();
    expect(await source.disksOf('/mnt/image')).toEqual(['disk built-in']);
    expect(await source.disksOf('/mnt/gone')).toBeNull();
  });

  it('takes all disks of a pool whose file system has no device of its own', async () => {
    tables.disk('devices/pci0/ata1/block/sda', '8:0', { 'device/wwid': 'naa.1' });
    tables.disk('devices/pci0/ata2/block/sdb', '8:16', { 'device/wwid': 'naa.2' });
    for (const name of ['sda', 'sdb']) tables.texts(`fs/btrfs/pool/devices/${name}`, { size: '1' });
    tables
      .mounted('47 25 0:55 /sub1 /mnt/p rw - btrfs /dev/sda rw')
      .mounted('48 25 0:55 /sub2 /mnt/q rw - btrfs /dev/sda rw');
    const source = tables.source();
    expect(await source.disksOf('/mnt/p')).toEqual(['disk naa.1', 'disk naa.2']);
    expect(await source.disksOf('/mnt/q')).toEqual(['disk naa.1', 'disk naa.2']);
  });

  it('counts a network share as its server, by whatever way it is mounted', () => {
    const share = (fsType: string, source: string) =>
      serverOf({ fsType, source, device: '0:60', root: '/', point: '/mnt/n', readOnly: false });
    expect(share('nfs4', 'vault:/pictures')).toBe('vault');
    expect(share('cifs', '//VAULT/Backup')).toBe('vault');
    expect(share('fuse.sshfs', 'ines@vault:/srv')).toBe('vault');
    expect(share('nfs', '[fe80::1]:/srv')).toBe('[fe80::1]');
    expect(share('ext4', '/dev/sda1')).toBeNull();
  });

  it('tells two slots of one USB reader apart by their place in it, and says nothing of one without a serial number', async () => {
    const usb = 'devices/pci0/usb1/1-2';
    tables.texts(usb, { idVendor: '0bda', idProduct: '0309', serial: '2012' });
    for (const [name, number, unit] of [
      ['sdc', '8:32', '0'],
      ['sdd', '8:48', '1'],
    ]) {
      const place = `${usb}/host6/6:0:0:${unit}`;
      tables.disk(`${place}/block/${name}`, number!, { removable: '1' });
      symlinkSync(
        path.join(tables.root, 'sys', place),
        path.join(tables.root, 'sys', `${place}/block/${name}/device`),
      );
      tables.mounted(`5${unit} 25 ${number} / /media/${name} rw - vfat /dev/${name} rw`);
    }
    const other = 'devices/pci0/usb1/1-3';
    tables.texts(other, { idVendor: '0bda', idProduct: '0309' });
    tables.disk(`${other}/block/sde`, '8:64', { removable: '1' });
    tables.mounted('52 25 8:64 / /media/sde rw - vfat /dev/sde rw');
    const source = tables.source();
    expect(await source.disksOf('/media/sdc')).toEqual(['disk usb 0bda:0309 2012 0']);
    expect(await source.disksOf('/media/sdd')).toEqual(['disk usb 0bda:0309 2012 1']);
    expect(await source.disksOf('/media/sde')).toBeNull();
  });

  it('is gone when its device was pulled out, though the system still lists it', async () => {
    tables.mounted('60 25 8:80 / /media/pulled rw - vfat /dev/sdf rw');
    expect((await tables.source().list()).map((m) => m.point)).toEqual(['/']);
  });

  it('bears the id of its file system, so that a card is the same in another place', async () => {
    tables.disk('devices/pci0/usb1/block/sdc', '8:32', { serial: 'x' });
    symlinkSync('../../sdc', path.join(tables.root, 'dev/disk/by-uuid/ABCD-1234'));
    tables.mounted('61 25 8:32 / /media/one rw - vfat /dev/sdc rw');
    const [, first] = await tables.source().list();
    tables.mounted('61 25 8:32 / /media/two rw - vfat /dev/sdc rw');
    const [, again, moved] = await tables.source().list();
    expect([again!.id, moved!.id]).toEqual([first!.id, first!.id]);
  });

  it('names a camera on a cable that nothing has mounted', async () => {
    tables.texts('bus/usb/devices/1-4', { manufacturer: 'Ockham', product: 'Ockham Five' });
    tables.texts('bus/usb/devices/1-4/1-4:1.0', { bInterfaceClass: '06' });
    tables.texts('bus/usb/devices/1-5', { product: 'Keyboard' });
    tables.texts('bus/usb/devices/1-5/1-5:1.0', { bInterfaceClass: '03' });
    expect(await tables.source().cables()).toEqual([{ id: '1-4', name: 'Ockham Five' }]);
  });
});

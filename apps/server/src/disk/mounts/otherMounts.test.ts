import type { Systeminformation } from 'systeminformation';
import { macMounts } from './macMounts';
import { windowsMounts } from './windowsMounts';

/** Lines in the shape in which the library reports them; made up, as no such machine was at hand. */
const block = (change: Partial<Systeminformation.BlockDevicesData>): Systeminformation.BlockDevicesData => ({
  ...{ name: '', identifier: '', type: 'disk', fsType: '', mount: '', size: 0, physical: '', uuid: '' },
  ...{ label: '', model: '', serial: '', removable: false, protocol: '', group: '', device: '' },
  ...change,
});

describe('what is mounted on macOS (sample output only)', () => {
  it('is what lies under /Volumes, each with the disk of its slice', () => {
    const mounts = macMounts([
      block({ name: 'disk1s1', mount: '/', fsType: 'apfs' }),
      block({ name: 'disk4s1', mount: '/Volumes/OCKHAM', label: 'OCKHAM', fsType: 'exfat', uuid: 'U-1' }),
      block({ name: 'disk4s2', mount: '/Volumes/Second', fsType: 'hfs' }),
    ]);
    expect(mounts.map(({ point, name, disks }) => [point, name, disks])).toEqual([
      ['/Volumes/OCKHAM', 'OCKHAM', ['disk disk4']],
      ['/Volumes/Second', 'Second', ['disk disk4']],
    ]);
  });

  it('says nothing of the disk behind a volume of a container', () => {
    expect(
      macMounts([block({ name: 'disk5s1', mount: '/Volumes/Fast', fsType: 'apfs' })])[0]!.disks,
    ).toBeNull();
  });
});

describe('what is mounted on Windows (sample output only)', () => {
  it('is what has a drive letter but the system’s own, each with its physical drive', () => {
    const mounts = windowsMounts(
      [
        block({ name: 'C:', mount: 'C:', device: '\\\\.\\PHYSICALDRIVE0' }),
        block({ name: 'E:', mount: 'E:', label: 'OCKHAM', uuid: 'U-1', device: '\\\\.\\PHYSICALDRIVE2' }),
        block({ name: 'F:', mount: 'F:', device: '' }),
      ],
      'C:',
    );
    expect(mounts.map(({ point, name, disks }) => [point, name, disks])).toEqual([
      ['E:', 'OCKHAM', ['disk \\\\.\\PHYSICALDRIVE2']],
      ['F:', 'F:', null],
    ]);
  });
});

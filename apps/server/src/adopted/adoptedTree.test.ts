import { mkdirSync, mkdtempSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { NodeDisk } from '../disk/nodeDisk';
import { resolveBelow } from '../disk/volumePath';
import type { Volume } from '../volumes/volume.entity';
import type { ShootsService } from '../shoots/shoots.service';
import type { VolumesService } from '../volumes/volumes.service';
import { AdoptedTree, noneOut, type TreeFolder } from './adoptedTree';
import { endsOf } from './ends';

describe('A tree that is not the archive’s own', () => {
  const disk = new NodeDisk();
  const volumes = {
    resolve: ({ root, name }: Volume, at: string) => resolveBelow(disk, root, name, at),
  } as unknown as VolumesService;
  const shoots = {
    isForWork: (folder: string) => Promise.resolve(folder === '2019/quay'),
  } as unknown as ShootsService;
  const tree = new AdoptedTree(disk, volumes, shoots);
  let root: string;
  let volume: Volume;

  beforeEach(() => {
    root = mkdtempSync(path.join(os.tmpdir(), 'arkiv-tree-'));
    volume = { root, name: 'Disk' } as Volume;
  });
  afterEach(() => rmSync(root, { recursive: true, force: true }));

  const put = (at: string, text: string | Buffer = 'picture') => {
    mkdirSync(path.dirname(path.join(root, at)), { recursive: true });
    writeFileSync(path.join(root, at), text);
  };
  const walked = async (from = ''): Promise<TreeFolder[]> => {
    const all: TreeFolder[] = [];
    for await (const folder of tree.walk(volume, from)) all.push(folder);
    return all;
  };

  it('ends where copies, edits and sets of its own shoots lie', async () => {
    put('2019/quay/selects/one.jpg');
    put('2019/two.jpg');
    expect(
      (await walked()).flatMap(({ path: at, files }) => files.map((file) => `${at}/${file.path}`)),
    ).toEqual(['2019/two.jpg']);
  });

  it('is walked a folder before what lies in it, with the parts of frames by their names', async () => {
    put('a/two.jpg');
    put('a/one.nef');
    put('a/one.xmp');
    put('a/b/three.jpg');
    put('a/read me.txt');
    const found = (await walked()).map(({ path: at, files }) => [at, files.map((file) => file.path)]);
    expect(found).toEqual([
      ['', []],
      ['a', ['one.nef', 'one.xmp', 'two.jpg']],
      ['a/b', ['three.jpg']],
    ]);
  });

  it('leaves out what is hidden, links, names that are no text, and pictures at the drive’s root', async () => {
    put('lost.jpg');
    put('a/.hidden/x.jpg');
    put('a/.thumb.jpg');
    put('a/whole.jpg');
    symlinkSync(path.join(root, 'a/whole.jpg'), path.join(root, 'a/link.jpg'));
    symlinkSync(root, path.join(root, 'a/round'));
    writeFileSync(
      Buffer.concat([Buffer.from(`${root}/a/`), Buffer.from([0xff, 0xfe]), Buffer.from('.jpg')]),
      'x',
    );
    put('a/back\\slash.jpg');
    const [top, a] = await walked();
    expect(top!.out).toEqual({ ...noneOut(), root: 1 });
    expect(a!.files.map((file) => file.path)).toEqual(['whole.jpg']);
    expect(a!.out).toEqual({ ...noneOut(), hidden: 2, link: 2, unnamed: 2 });
  });

  it('does not enter an archive’s folders, nor take their contents for gone', async () => {
    put('shoot/.arkiv/shoot.json');
    put('shoot/originals/x.jpg');
    put('.arkiv-archive/studio.json');
    const all = await walked();
    expect(all.map(({ path: at, closed }) => [at, closed])).toEqual([
      ['', null],
      ['shoot', 'archive'],
    ]);
    expect(all[0]!.out.archive).toBe(1);
    expect(await tree.folder(volume, 'nowhere')).toBeNull();
  });

  it('knows a file by its length and both its ends, and sees a change at either', async () => {
    const bytes = Buffer.alloc(300_000, 'arkiv');
    const ends = async () => {
      put('a.raw', bytes);
      return (await endsOf(disk, path.join(root, 'a.raw'), bytes.length)).ends;
    };
    const before = await ends();
    expect(before).toMatch(/^[0-9a-f]{64}$/);
    bytes[10] = 0;
    const first = await ends();
    bytes[299_990] = 0;
    expect(new Set([before, first, await ends()]).size).toBe(3);
  });
});

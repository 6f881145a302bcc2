import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import net from 'node:net';
import os from 'node:os';
import path from 'node:path';
import { NodeDisk } from '../disk/nodeDisk';
import { ArchiveList, readArchiveList, type ListedArchive } from './archiveList';
import { firstFree, portsToTry } from './freePort';

const archive = (name: string, opened: number): ListedArchive => ({
  ...{ folder: `/home/studio/${name}`, id: `id of ${name}`, name, port: 4750, opened },
});

describe('the list of archives', () => {
  let folder: string;
  const list = () => new ArchiveList(new NodeDisk(), path.join(folder, 'lists', 'archives.json'));
  beforeEach(() => (folder = mkdtempSync(path.join(os.tmpdir(), 'arkiv-list-'))));
  afterEach(() => rmSync(folder, { recursive: true }));

  it('keeps each archive once, the one that was opened last first', async () => {
    await list().put(archive('weddings', 1));
    await list().put(archive('press', 2));
    await list().put({ ...archive('weddings', 3), name: 'Weddings and balls' });
    expect((await list().all()).map(({ name }) => name)).toEqual(['Weddings and balls', 'press']);
    await list().drop('/home/studio/weddings');
    await list().drop('/home/studio/none');
    expect((await list().all()).map(({ name }) => name)).toEqual(['press']);
  });

  it('loses none of those that are opened in one moment', async () => {
    const names = ['a', 'b', 'c', 'd', 'e', 'f'];
    await Promise.all(names.map((name, n) => list().put(archive(name, n))));
    expect((await list().all()).map(({ name }) => name).sort()).toEqual(names);
  });

  it('puts aside what it cannot read, and leaves out what is not whole', async () => {
    await list().put(archive('press', 2));
    const file = path.join(folder, 'lists', 'archives.json');
    writeFileSync(file, '{"archives": [');
    expect(await list().all()).toEqual([]);
    await list().put(archive('weddings', 1));
    const [aside] = readdirSync(path.join(folder, 'lists')).filter((name) => name.includes('unreadable'));
    expect(readFileSync(path.join(folder, 'lists', aside!), 'utf8')).toBe('{"archives": [');
    expect((await list().all()).map(({ name }) => name)).toEqual(['weddings']);
    expect(readArchiveList('{"archives": [{"folder": "not/in/full"}, null, 7]}')).toEqual([]);
    expect(readArchiveList('[]')).toBeNull();
  });

  it('is none where none is kept', async () => {
    const none = new ArchiveList(new NodeDisk(), '');
    await none.put(archive('press', 2));
    expect(await none.all()).toEqual([]);
  });
});

describe('the port of an archive', () => {
  it('is the one of last time, then the usual one, then those that leave room for galleries', () => {
    expect(portsToTry(null, 4750).slice(0, 3)).toEqual([4750, 4760, 4770]);
    expect(portsToTry(4760, 4750).slice(0, 3)).toEqual([4760, 4750, 4770]);
  });

  it('is the first at which nobody answers', async () => {
    const taken = net.createServer();
    await new Promise<void>((resolve) => taken.listen(0, '127.0.0.1', resolve));
    const { port } = taken.address() as { port: number };
    expect(await firstFree('127.0.0.1', [port, 0])).toBe(0);
    // Where all are taken, the start says so.
    expect(await firstFree('127.0.0.1', [port])).toBe(port);
    await new Promise((resolve) => taken.close(resolve));
    expect(await firstFree('127.0.0.1', [port, 0])).toBe(port);
  });
});

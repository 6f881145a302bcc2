import { mkdirSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { removeFolder, temporaryFolder, until } from '../../test/testArkiv';
import { NodeDisk } from './nodeDisk';
import { WatchedFolders } from './watchedFolders';

describe('folders that are watched', () => {
  let root: string;
  let folder: string;
  let watched: WatchedFolders;
  let heard: (string | null)[];
  const hear = (name: string | null) => void heard.push(name);
  const write = (name: string) => writeFileSync(path.join(folder, name), 'x');
  const anew = () => {
    rmSync(folder, { recursive: true });
    mkdirSync(folder);
  };

  beforeEach(() => {
    root = temporaryFolder();
    folder = path.join(root, 'sent');
    mkdirSync(folder);
    watched = new WatchedFolders(new NodeDisk(), 2);
    heard = [];
  });
  afterEach(() => {
    watched.end();
    removeFolder(root);
  });

  it('are heard of once however often they are asked for, by who asked last', async () => {
    expect(await watched.watch(folder, () => heard.push('before'))).toBe(true);
    expect(await watched.watch(folder, hear)).toBe(true);
    write('one');
    await until(() => heard.includes('one'));
    expect(heard).not.toContain('before');
  });

  it('are watched anew where another lies in their place', async () => {
    await watched.watch(folder, hear);
    anew();
    await until(() => heard.includes('sent'));
    expect(await watched.watch(folder, hear)).toBe(true);
    write('two');
    await until(() => heard.includes('two'));
    // The one above it is put away, of which it hears nothing itself.
    const deep = path.join(folder, 'deep');
    mkdirSync(deep);
    await watched.watch(deep, hear);
    renameSync(folder, path.join(root, 'put away'));
    mkdirSync(deep, { recursive: true });
    expect(await watched.watch(deep, hear)).toBe(true);
    writeFileSync(path.join(deep, 'three'), 'x');
    await until(() => heard.includes('three'));
  });

  it('are told of when they come again, by the folder that they lie in alone', async () => {
    let comings = 0;
    expect(await watched.watchFor(folder, () => (comings += 1))).toBe(true);
    mkdirSync(path.join(root, 'other'));
    renameSync(folder, path.join(root, 'put away'));
    await until(() => comings === 1);
    mkdirSync(folder);
    await until(() => comings === 2);
    expect(comings).toBe(2);
  });

  it('are so many at most, and none where there is no folder or it was ended', async () => {
    expect(await watched.watch(path.join(root, 'nothing'), hear)).toBe(false);
    for (const name of ['a', 'b', 'c']) mkdirSync(path.join(root, name));
    const all: boolean[] = [];
    for (const name of ['a', 'b', 'c']) all.push(await watched.watch(path.join(root, name), hear));
    expect(all).toEqual([true, true, false]);
    watched.keep(new Set([path.join(root, 'b')]));
    expect(await watched.watch(path.join(root, 'c'), hear)).toBe(true);
    watched.end();
    expect(await watched.watch(path.join(root, 'a'), hear)).toBe(false);
  });
});

import { createHash, randomBytes } from 'node:crypto';
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { NodeDisk } from '../../disk/nodeDisk';
import { newHostKey, SftpStandIn } from '../../standins/servers/sftpStandIn';
import { FolderRemote } from './folderRemote';
import { partName, putProven, type PutOrder } from './put';
import { RemoteError, type Remote } from './remote';
import { SftpRemote } from './sftpRemote';

/** Large enough that a line breaks in its middle. */
const BYTES = randomBytes(3_000_000);

describe('a file on its way to a destination', () => {
  let folder: string;
  let server: SftpStandIn;
  let port: number;
  const open: Remote[] = [];

  beforeEach(async () => {
    folder = mkdtempSync(path.join(os.tmpdir(), 'arkiv-put-'));
    server = new SftpStandIn(new NodeDisk(), folder, newHostKey());
    port = await server.listen(0);
  });
  afterEach(async () => {
    for (const remote of open.splice(0)) await remote.end();
    server.close();
    rmSync(folder, { recursive: true });
  });

  const sftp = async (more: object = {}) => {
    const target = {
      ...{ kind: 'sftp' as const, host: '127.0.0.1', port, user: 'studio', path: '', hostKey: null },
      ...{ password: 'stand-in', privateKey: null, passphrase: null },
    };
    const hostKey = await SftpRemote.keyOf(target);
    const remote = await SftpRemote.open({ ...target, hostKey, ...more });
    open.push(remote);
    return remote;
  };
  const order = (bytes = BYTES, seen = { bytes: 0 }): PutOrder => ({
    read: async function* (from) {
      for (let at = from; at < bytes.length; at += 100_000) {
        await new Promise((resolve) => setImmediate(resolve));
        yield bytes.subarray(at, at + 100_000);
      }
    },
    size: bytes.length,
    sha256: createHash('sha256').update(bytes).digest('hex'),
    ...{ to: 'set/one.jpg', job: 'J', onBytes: (n) => void (seen.bytes += n) },
  });

  it('goes on where the line was cut, is proven whole, and only then bears its name', async () => {
    server.intake.faults.cutAfterBytes = 1_500_000;
    await expect(putProven(await sftp(), order())).rejects.toMatchObject({ trouble: 'away' });
    const part = path.join(folder, partName('set/one.jpg', 'J'));
    expect(readdirSync(path.join(folder, 'set'))).toEqual([path.basename(part)]);
    const there = readFileSync(part).length;
    expect(there).toBeGreaterThan(0);
    const seen = { bytes: 0 };
    expect(await putProven(await sftp(), order(BYTES, seen))).toEqual({ already: false, from: there });
    expect(seen.bytes).toBe(BYTES.length - there);
    expect(readFileSync(path.join(folder, 'set/one.jpg')).equals(BYTES)).toBe(true);
    expect(readdirSync(path.join(folder, 'set'))).toEqual(['one.jpg']);
  });

  it('finds its folder made by another line that sends at the same time', async () => {
    const lines = await Promise.all([sftp(), sftp(), sftp(), sftp()]);
    await Promise.all(lines.map((line) => line.makeFolder('set/day/one')));
    expect(readdirSync(path.join(folder, 'set/day'))).toEqual(['one']);
    const small = Buffer.from('small');
    const orders = lines.map((_, i) => ({ ...order(small), to: `two/${i}.jpg` }));
    await Promise.all(lines.map((line, i) => putProven(line, orders[i]!)));
    expect(readdirSync(path.join(folder, 'two')).sort()).toEqual(['0.jpg', '1.jpg', '2.jpg', '3.jpg']);
    // A file in the way is no folder.
    writeFileSync(path.join(folder, 'three'), 'x');
    await expect(lines[0]!.makeFolder('three')).rejects.toBeInstanceOf(RemoteError);
  });

  it('begins anew where what a cut left is not its own beginning', async () => {
    mkdirSync(path.join(folder, 'set'));
    writeFileSync(path.join(folder, partName('set/one.jpg', 'J')), randomBytes(500_000));
    await expect(putProven(await sftp(), order())).rejects.toMatchObject({ trouble: 'changed' });
    expect(readdirSync(path.join(folder, 'set'))).toEqual([]);
    expect(await putProven(await sftp(), order())).toEqual({ already: false, from: 0 });
  });

  it('is of no bytes, or under a name that is there already', async () => {
    const empty = order(Buffer.alloc(0));
    expect(await putProven(await sftp(), empty)).toEqual({ already: false, from: 0 });
    expect(await putProven(await sftp(), empty)).toEqual({ already: true, from: 0 });
    await expect(putProven(await sftp(), order())).rejects.toMatchObject({ trouble: 'exists' });
    expect(readFileSync(path.join(folder, 'set/one.jpg'))).toHaveLength(0);
  });

  it('is not what it was: the one that changed is told from one that the way changed', async () => {
    const changed = { ...order(), sha256: '0'.repeat(64) };
    await expect(putProven(await sftp(), changed)).rejects.toMatchObject({ trouble: 'source' });
    server.intake.faults.changesNext = true;
    await expect(putProven(await sftp(), order())).rejects.toMatchObject({ trouble: 'changed' });
    expect(readdirSync(path.join(folder, 'set'))).toEqual([]);
  });

  it('goes to nobody but the server whose key is trusted, with what opens it, into a folder that is there', async () => {
    await expect(sftp({ password: 'guess' })).rejects.toMatchObject({ trouble: 'refused' });
    await expect(sftp({ password: null, privateKey: 'no key' })).rejects.toBeInstanceOf(RemoteError);
    await expect(sftp({ path: 'nowhere' })).rejects.toMatchObject({ trouble: 'folder' });
    await expect(sftp({ hostKey: 'SHA256:other' })).rejects.toMatchObject({ trouble: 'hostkey' });
    await expect(sftp({ hostKey: null })).rejects.toMatchObject({ trouble: 'hostkey' });
  });

  it('goes into a folder in the same way, and never into one that is not there', async () => {
    const disk = new NodeDisk();
    const home = path.join(folder, 'home');
    await expect(FolderRemote.open(disk, home)).rejects.toMatchObject({ trouble: 'folder' });
    mkdirSync(home);
    const remote = await FolderRemote.open(disk, home);
    expect(await putProven(remote, order())).toEqual({ already: false, from: 0 });
    expect(await putProven(remote, order())).toEqual({ already: true, from: 0 });
    expect(readdirSync(path.join(home, 'set'))).toEqual(['one.jpg']);
  });
});

import { mkdirSync, readFileSync, statSync, symlinkSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { diskError, FaultyDisk } from '../../test/faultyDisk';
import { filesBelow, removeFolder, temporaryFolder } from '../../test/testArkiv';
import { placeNew, replaceOwn, settle, sha256Of } from './place';
import { placeProven } from './provenBytes';
import { unreadableRanges } from './unreadable';
import { hashFile, verifiedCopy, CHUNK } from './verifiedCopy';
import { isTemporaryOf, temporaryName } from './temporary';
import { resolveBelow } from './volumePath';

describe('the disk', () => {
  let folder: string;
  let disk: FaultyDisk;
  const at = (...parts: string[]) => path.join(folder, ...parts);

  beforeEach(() => {
    folder = temporaryFolder();
    disk = new FaultyDisk();
  });
  afterEach(() => removeFolder(folder));

  // FIPS 180-4, and the vectors that NIST publishes with it.
  it.each([
    ['', 'e3b0c44298fc1c149afbf4c8996fb92427ae41e4649b934ca495991b7852b855'],
    ['abc', 'ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad'],
    [
      'abcdbcdecdefdefgefghfghighijhijkijkljklmklmnlmnomnopnopq',
      '248d6a61d20638b8e5c026930c3e6039a33ce45964ff2167f6ecedd419db06c1',
    ],
  ])('hashes “%s” as the standard says', async (text, sha256) => {
    writeFileSync(at('f'), text);
    expect((await hashFile(disk, at('f'))).sha256).toBe(sha256);
    expect(sha256Of(text)).toBe(sha256);
  });

  it.each([0, 1, CHUNK - 1, CHUNK, CHUNK + 1, 2 * CHUNK + 12345])(
    'copies %i bytes to two targets in one reading',
    async (size) => {
      const bytes = Buffer.alloc(size, 'arkiv');
      writeFileSync(at('source'), bytes);
      let read = 0;
      disk.onRead = (file) => (read += file.endsWith('source') ? 1 : 0);
      const result = await verifiedCopy(
        disk,
        at('source'),
        [
          { id: 'a', final: at('a/x') },
          { id: 'b', final: at('b/x') },
        ],
        { job: 'J' },
      );
      expect(result).toMatchObject({
        sha256: sha256Of(bytes),
        size,
        targets: [
          { id: 'a', ok: true },
          { id: 'b', ok: true },
        ],
      });
      for (const target of ['a/x', 'b/x']) expect(readFileSync(at(target)).equals(bytes)).toBe(true);
      // once to the end, and the empty reading that shows the end
      expect(read).toBeLessThanOrEqual(Math.ceil(size / CHUNK) + 1);
    },
  );

  it('does not take what a failing device gives for the whole file', async () => {
    writeFileSync(at('source'), Buffer.alloc(200_000, 1));
    disk.shorten = (file, position) => (file.endsWith('source') ? Math.max(0, 65_536 - position) : Infinity);
    await expect(hashFile(disk, at('source'))).rejects.toThrow('ended at byte 65536 of 200000');
  });

  describe('looking for the bytes that cannot be read', () => {
    const MEGA = 1024 * 1024;
    /** Bytes from `from` up to `to` fail; what stands before them is given out, as devices do. */
    const bad = (from: number, to: number) => {
      disk.shorten = (_, position) => (position < from ? from - position : Infinity);
      disk.onRead = (_, position) => {
        if (position >= from && position < to) throw diskError('EIO');
      };
    };
    const ranges = (size: number, start = 0) => unreadableRanges(disk, at('source'), size, start);

    it('finds a place in the middle, to the block', async () => {
      writeFileSync(at('source'), Buffer.alloc(6 * MEGA));
      bad(MEGA + 100, MEGA + 70_000);
      expect(await ranges(6 * MEGA, MEGA)).toEqual([{ from: MEGA + 100, to: MEGA + 2 * 65_536 }]);
    });

    it('finds the end of a file, and nothing where all can be read', async () => {
      writeFileSync(at('source'), Buffer.alloc(100_000));
      bad(90_000, Infinity);
      expect(await ranges(100_000)).toEqual([{ from: 90_000, to: 100_000 }]);
      bad(Infinity, Infinity);
      expect(await ranges(100_000)).toEqual([]);
    });

    it('gives up after enough failing blocks, and counts the rest as lost', async () => {
      writeFileSync(at('source'), Buffer.alloc(9 * MEGA));
      let failed = 0;
      disk.onRead = () => {
        failed += 1;
        throw diskError('EIO');
      };
      expect(await ranges(9 * MEGA)).toEqual([{ from: 0, to: 9 * MEGA }]);
      expect(failed).toBeLessThan(80);
    });
  });

  it('reads back past the page cache where the file system allows it', async () => {
    writeFileSync(at('source'), 'x'.repeat(100_000));
    const { targets } = await verifiedCopy(disk, at('source'), [{ id: 'a', final: at('x') }], { job: 'J' });
    const direct = await disk.real.openRead(at('source'), { pastCache: true }).then(
      (f) => f.close().then(() => true),
      () => false,
    );
    expect(targets[0]).toMatchObject({ ok: true, pastCache: direct });
  });

  it('does not give a copy its name before it is flushed', async () => {
    writeFileSync(at('source'), 'bytes');
    const order: string[] = [];
    disk.onSync = () => order.push('sync');
    disk.onLink = () => order.push('link');
    await verifiedCopy(disk, at('source'), [{ id: 'a', final: at('x') }], { job: 'J' });
    expect(order).toEqual(['sync', 'link']);
  });

  it('adopts an equal file at the target, and refuses another one', async () => {
    writeFileSync(at('source'), 'same');
    writeFileSync(at('same'), 'same');
    writeFileSync(at('other'), 'something else');
    const { targets } = await verifiedCopy(
      disk,
      at('source'),
      [
        { id: 'a', final: at('same') },
        { id: 'b', final: at('other') },
      ],
      { job: 'J' },
    );
    expect(targets.map((t) => t.ok)).toEqual([true, false]);
    expect(readFileSync(at('other'), 'utf8')).toBe('something else');
  });

  it('takes away what it left itself where it was killed right after the final name', async () => {
    for (const name of ['source', 'same']) writeFileSync(at(name), 'same');
    const [mine, theirs] = [temporaryName(at('same'), 'J'), temporaryName(at('same'), 'K')];
    for (const name of [mine, theirs]) writeFileSync(name, 'same');
    const { targets } = await verifiedCopy(disk, at('source'), [{ id: 'a', final: at('same') }], {
      job: 'J',
    });
    expect(targets.map((t) => t.ok)).toEqual([true]);
    expect(filesBelow(folder)).toEqual([path.basename(theirs), 'same', 'source'].sort());
  });

  it('takes away what it left itself where it was killed between a finished file’s name and the end of the temporary one', async () => {
    const bytes = Buffer.from('finished');
    writeFileSync(at('set.jpg'), bytes);
    const [mine, theirs] = [temporaryName(at('set.jpg'), 'J'), temporaryName(at('set.jpg'), 'K')];
    for (const name of [mine, theirs]) writeFileSync(name, bytes);
    expect(await placeProven(disk, at('set.jpg'), bytes, { job: 'J', over: [] })).toBe(sha256Of(bytes));
    expect(filesBelow(folder).sort()).toEqual([path.basename(theirs), 'set.jpg'].sort());
  });

  it('drops copies that turn out not to be wanted', async () => {
    writeFileSync(at('source'), 'known');
    const { targets } = await verifiedCopy(disk, at('source'), [{ id: 'a', final: at('t/x') }], {
      job: 'J',
      wanted: () => Promise.resolve(false),
    });
    expect(targets).toEqual([]);
    expect(filesBelow(at('t'))).toEqual([]);
  });

  it('keeps nothing of a source that fails half-way', async () => {
    writeFileSync(at('source'), Buffer.alloc(CHUNK * 2));
    disk.onRead = (file, position) => {
      if (file.endsWith('source') && position >= CHUNK) throw diskError('EIO');
    };
    await expect(
      verifiedCopy(disk, at('source'), [{ id: 'a', final: at('t/x') }], { job: 'J' }),
    ).rejects.toThrow(`byte ${CHUNK}`);
    expect(filesBelow(at('t'))).toEqual([]);
  });

  it('places new files only where nothing is', async () => {
    await placeNew(disk, at('deep/er/new'), Buffer.from('one'), 'J');
    await expect(placeNew(disk, at('deep/er/new'), Buffer.from('two'), 'J')).rejects.toThrow(
      /exists already/,
    );
    expect(readFileSync(at('deep/er/new'), 'utf8')).toBe('one');
    expect(filesBelow(folder)).toEqual(['deep/er/new']);
  });

  it('gives a whole file its name and keeps the other one where that is wanted, but not where there are no links', async () => {
    const settled = async (name: string, how: { keeps?: boolean }) => {
      writeFileSync(at(`${name}.part`), name);
      await settle(disk, at(`${name}.part`), at(name), how);
      return filesBelow(folder).filter((file) => file.startsWith(name));
    };
    expect(await settled('a', {})).toEqual(['a']);
    expect(await settled('b', { keeps: true })).toEqual(['b', 'b.part']);
    // They are one file: nothing was copied.
    expect(statSync(at('b')).ino).toBe(statSync(at('b.part')).ino);
    disk.link = () => Promise.reject(diskError('EPERM'));
    expect(await settled('c', { keeps: true })).toEqual(['c']);
    await expect(settled('b', { keeps: true })).rejects.toThrow(/exists already/);
    expect(readFileSync(at('b.part'), 'utf8')).toBe('b');
  });

  it('sets the time of a file to what is said, and to now', async () => {
    writeFileSync(at('a'), '');
    await disk.touch(at('a'), 1_600_000_000_000);
    expect((await disk.facts(at('a')))?.mtimeMillis).toBe(1_600_000_000_000);
    await disk.touch(at('a'));
    expect((await disk.facts(at('a')))!.mtimeMillis).toBeGreaterThan(1_700_000_000_000);
  });

  it('replaces our own text only while it is as we last saw it', async () => {
    writeFileSync(at('own'), 'seen');
    expect(await replaceOwn(disk, at('own'), 'new', sha256Of('seen'), 'J')).toBe(true);
    expect(await replaceOwn(disk, at('own'), 'newer', sha256Of('seen'), 'J')).toBe(false);
    expect(await replaceOwn(disk, at('own'), 'newer', null, 'J')).toBe(false);
    expect(readFileSync(at('own'), 'utf8')).toBe('new');
    expect(filesBelow(folder)).toEqual(['own']);
  });

  it('knows its own temporary files, even of very long names', () => {
    const long = temporaryName(at(`${'é'.repeat(120)}.jpg`), '01J0000000000000000000000A');
    expect(Buffer.byteLength(path.basename(long))).toBeLessThanOrEqual(255);
    expect(isTemporaryOf(path.basename(long), '01J0000000000000000000000A')).toBe(true);
    expect(isTemporaryOf(path.basename(long), '01J0000000000000000000000B')).toBe(false);
    expect(isTemporaryOf('IMG_0001.JPG', '01J0000000000000000000000A')).toBe(false);
  });

  it.each(['../x', 'a/../../x', '/etc/passwd', 'a//b', './a', '', 'a\0b', 'C:\\x', 'a\\b'])(
    'refuses the path “%s”',
    async (relative) => {
      await expect(resolveBelow(disk, folder, 'V', relative)).rejects.toMatchObject({ code: 'path.outside' });
    },
  );

  it.each(['مهمانی\u200cها/عکس.jpg', 'a/\u202eb', 'क्\u200dष'])(
    'takes the path “%s”, which is legal',
    async (relative) => {
      expect(await resolveBelow(disk, folder, 'V', relative)).toBe(path.join(folder, relative));
    },
  );

  it('refuses a way through a link', async () => {
    mkdirSync(at('real'));
    symlinkSync('/etc', at('real/link'));
    await expect(resolveBelow(disk, folder, 'V', 'real/link/passwd')).rejects.toMatchObject({
      code: 'path.outside',
    });
    expect(await resolveBelow(disk, folder, 'V', 'real/new/file')).toBe(at('real/new/file'));
  });
});

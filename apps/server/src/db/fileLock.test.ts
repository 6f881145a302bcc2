import { mkdtempSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { underLock } from './fileLock';

describe('a lock on a file', () => {
  let folder: string;
  const lock = () => path.join(folder, 'list.lock');
  beforeEach(() => (folder = mkdtempSync(path.join(os.tmpdir(), 'arkiv-lock-'))));
  afterEach(() => rmSync(folder, { recursive: true }));

  it('lets one at a time do what is done under it, and gives each its turn', async () => {
    let inside = 0;
    let most = 0;
    const done: number[] = [];
    const one = (n: number) =>
      underLock(lock(), async () => {
        inside += 1;
        most = Math.max(most, inside);
        await new Promise((resolve) => setTimeout(resolve, 5));
        inside -= 1;
        done.push(n);
        return n;
      });
    expect(await Promise.all([1, 2, 3, 4].map(one))).toEqual([1, 2, 3, 4]);
    expect([most, done.sort()]).toEqual([1, [1, 2, 3, 4]]);
  });

  it('is given back where what was done under it failed', async () => {
    await expect(underLock(lock(), () => Promise.reject(new Error('the disk is full')))).rejects.toThrow(
      'the disk is full',
    );
    expect(await underLock(lock(), () => Promise.resolve('free'))).toBe('free');
  });

  it('says so where it cannot be made', async () => {
    await expect(
      underLock(path.join(folder, 'no', 'such', 'lock'), () => Promise.resolve()),
    ).rejects.toThrow();
  });
});

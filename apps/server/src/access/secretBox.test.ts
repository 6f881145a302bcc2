import { mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import type { ArkivConfig } from '../config/config';
import { NodeDisk } from '../disk/nodeDisk';
import { SecretBox } from './secretBox';

describe('what opens destinations', () => {
  let dataDir: string;
  const box = () => new SecretBox({ dataDir } as ArkivConfig, new NodeDisk());
  beforeEach(() => (dataDir = mkdtempSync(path.join(os.tmpdir(), 'arkiv-secret-'))));
  afterEach(() => rmSync(dataDir, { recursive: true }));

  it('is read again by who has the key, after a restart too, and shows nothing of itself', async () => {
    const secret = { password: 'ZxUnusual', privateKey: '-----BEGIN' };
    const locked = await box().lock(secret, 'D1');
    // By chance four letters stand anywhere; these nine would not within the age of the Earth.
    expect(locked).not.toContain('ZxUnusual');
    expect(Buffer.from(locked, 'base64').toString('latin1')).not.toContain('ZxUnusual');
    expect(await box().unlock(locked, 'D1', 'Client')).toEqual(secret);
    const key = path.join(dataDir, 'secrets.key');
    expect(statSync(key).mode & 0o777).toBe(0o600);
    expect(readFileSync(key)).toHaveLength(32);
    // The same is never written in the same way.
    expect(await box().lock(secret, 'D1')).not.toBe(locked);
  });

  it('opens nothing else, and is not opened by another key or after a change', async () => {
    const locked = await box().lock({ password: 'p' }, 'D1');
    await expect(box().unlock(locked, 'D2', 'Client')).rejects.toMatchObject({ code: 'destination.secret' });
    const bytes = Buffer.from(locked, 'base64');
    bytes[bytes.length - 1]! ^= 1;
    await expect(box().unlock(bytes.toString('base64'), 'D1', 'Client')).rejects.toMatchObject({
      code: 'destination.secret',
    });
    await expect(box().unlock('', 'D1', 'Client')).rejects.toMatchObject({ code: 'destination.secret' });
    writeFileSync(path.join(dataDir, 'secrets.key'), Buffer.alloc(32, 7));
    await expect(box().unlock(locked, 'D1', 'Client')).rejects.toMatchObject({ code: 'destination.secret' });
  });

  it('has one key, however many ask for it at first', async () => {
    const one = box();
    const locked = await Promise.all(['a', 'b', 'c'].map((id) => one.lock({ id }, id)));
    for (const [i, id] of ['a', 'b', 'c'].entries())
      expect(await box().unlock(locked[i]!, id, id)).toEqual({ id });
  });
});

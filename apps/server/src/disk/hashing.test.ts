import { createHash, randomBytes } from 'node:crypto';
import { Worker } from 'node:worker_threads';
import { alignedBuffer } from './aligned';
import { HashStream } from './hashing';

const inOneGo = (...parts: Uint8Array[]) =>
  parts.reduce((hash, part) => hash.update(part), createHash('sha256')).digest('hex');

describe('checksums taken outside of the server’s thread', () => {
  it('are those of FIPS 180-4, of nothing, “abc” and a million times “a”', async () => {
    expect(await new HashStream().digest()).toBe(
      'e3b0c44298fc1c149afbf4c8996fb92427ae41e4649b934ca495991b7852b855',
    );
    const abc = new HashStream();
    await abc.update(Buffer.from('abc'));
    expect(await abc.digest()).toBe('ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad');
    const million = new HashStream();
    for (let i = 0; i < 10; i++) await million.update(Buffer.alloc(100_000, 'a'));
    expect(await million.digest()).toBe('cdc76e5c9914fb9281a1c7e284d73e67f1809a48a497200e046d39ccc7112cd0');
  });

  it('do not mix streams that are open at the same time', async () => {
    const parts = Array.from({ length: 9 }, () => [randomBytes(70_001), randomBytes(3), randomBytes(4096)]);
    const sums = await Promise.all(
      parts.map(async (stream) => {
        const hash = new HashStream();
        for (const part of stream) await hash.update(part);
        return hash.digest();
      }),
    );
    expect(sums).toEqual(parts.map((stream) => inOneGo(...stream)));
  });

  it('have read a shared buffer when they say so: it can be filled anew', async () => {
    const buffer = alignedBuffer(1 << 20);
    const hash = new HashStream();
    const parts = Array.from({ length: 8 }, () => randomBytes(1 << 20));
    for (const part of parts) {
      buffer.set(part);
      await hash.update(buffer);
    }
    expect(await hash.digest()).toBe(inOneGo(...parts));
  });

  it('are refused, not awaited for ever, when the thread ends; the next stream has a new thread', async () => {
    const ended = jest.spyOn(Worker.prototype, 'postMessage').mockImplementation(function (this: Worker) {
      void this.terminate();
    });
    const hash = new HashStream();
    await expect(hash.update(Buffer.from('abc'))).rejects.toThrow('the thread that takes checksums ended');
    ended.mockRestore();
    await expect(hash.digest()).rejects.toThrow('the thread that takes checksums ended');
    hash.drop();
    const next = new HashStream();
    await next.update(Buffer.from('abc'));
    expect(await next.digest()).toBe(inOneGo(Buffer.from('abc')));
  });
});

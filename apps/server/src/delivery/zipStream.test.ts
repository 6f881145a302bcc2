import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { zipStream, type ZipPart } from './zipStream';

const [LARGE, MTIME] = [300_000, Date.UTC(2026, 9, 16, 20, 15)];
const part = (name: string, chunks: ZipPart['chunks']): ZipPart => ({
  ...{ name, mtimeMillis: MTIME, size: LARGE, chunks },
});
async function* whole(): AsyncGenerator<Buffer> {
  for (let n = 0; n < 3; n++) yield await Promise.resolve(Buffer.alloc(LARGE / 3, n));
}
const read = async (stream: AsyncIterable<Buffer>): Promise<Buffer> => {
  const all: Buffer[] = [];
  for await (const chunk of stream) all.push(chunk);
  return Buffer.concat(all);
};

describe('A zip that is made while it is read', () => {
  let folder: string;
  beforeAll(() => (folder = mkdtempSync(path.join(os.tmpdir(), 'arkiv-zip-'))));
  afterAll(() => rmSync(folder, { recursive: true }));

  it('is as long as it said before, opens elsewhere, and has the same bytes a second time', async () => {
    const parts = [part('a.jpg', whole), part('b/Ü.jpg', whole)];
    const { stream, size } = zipStream(parts);
    const bytes = await read(stream);
    expect(await size).toBe(bytes.length);
    expect((await read(zipStream(parts).stream)).equals(bytes)).toBe(true);
    const file = path.join(folder, 'one.zip');
    writeFileSync(file, bytes);
    expect(execFileSync('unzip', ['-t', file], { encoding: 'utf8' })).toContain('No errors detected');
  });

  it('breaks off with what went wrong where a file cannot be read to its end', async () => {
    async function* broken(): AsyncGenerator<Buffer> {
      yield Buffer.alloc(LARGE / 3);
      await Promise.resolve();
      throw new Error('the drive was pulled out');
    }
    const { stream } = zipStream([part('a.jpg', whole), part('b.jpg', broken), part('c.jpg', whole)]);
    await expect(read(stream)).rejects.toThrow('the drive was pulled out');
  });

  it('is no zip where a file is shorter than it was', async () => {
    async function* short(): AsyncGenerator<Buffer> {
      yield await Promise.resolve(Buffer.alloc(LARGE - 1));
    }
    await expect(read(zipStream([part('a.jpg', short)]).stream)).rejects.toThrow(
      'unexpected number of bytes',
    );
  });

  it('leaves no file open when nobody reads on', async () => {
    let open = 0;
    async function* endless(): AsyncGenerator<Buffer> {
      open += 1;
      try {
        for (;;) yield await Promise.resolve(Buffer.alloc(100_000));
      } finally {
        open -= 1;
      }
    }
    const { stream } = zipStream([part('a.jpg', endless)]);
    for await (const chunk of stream) if (chunk) break;
    await new Promise((resolve) => stream.once('close', resolve).destroy());
    await new Promise(setImmediate);
    expect(open).toBe(0);
  });
});

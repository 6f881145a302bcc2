import path from 'node:path';
import type { Readable } from 'node:stream';
import type { FileStat, WebDAVClient } from 'webdav' with { 'resolution-mode': 'import' };
import { hashOf } from './put';
import { RemoteError, type Remote, type Target } from './remote';

type WebdavTarget = Extract<Target, { kind: 'webdav' }>;

/** A server that speaks WebDAV (RFC 4918). A file that was cut off begins anew: it knows no writing within one. */
export class WebdavRemote implements Remote {
  readonly appends = false;

  private constructor(private readonly client: WebDAVClient) {}

  static async open({ url, user, password }: WebdavTarget): Promise<WebdavRemote> {
    const { createClient } = await import('webdav');
    const client = createClient(url, user === '' ? {} : { username: user, password });
    const remote = new WebdavRemote(client);
    try {
      await client.stat('/');
    } catch (error) {
      if (statusOf(error) === 404) throw new RemoteError('folder', 'there is no folder under this address');
      throw troubleOf(error, 'it');
    }
    return remote;
  }

  async size(file: string): Promise<number | null> {
    try {
      return ((await this.client.stat(at(file))) as FileStat).size;
    } catch (error) {
      if (statusOf(error) === 404) return null;
      throw troubleOf(error, file);
    }
  }

  async makeFolder(folder: string): Promise<void> {
    if (folder === '.' || folder === '') return;
    // One after the other: not every server makes several at once, and one that is there is no failure.
    const parts = folder.split('/');
    for (let i = 1; i <= parts.length; i++) {
      const one = parts.slice(0, i).join('/');
      try {
        if (!(await this.client.exists(at(one)))) await this.client.createDirectory(at(one));
      } catch (error) {
        if (statusOf(error) !== 405) throw troubleOf(error, one);
      }
    }
  }

  async write(file: string, _from: number, source: Readable, length: number): Promise<void> {
    try {
      const done = await this.client.putFileContents(at(file), source, {
        ...{ contentLength: length, overwrite: true },
      });
      if (!done) throw new RemoteError('failed', `${file} was not taken`);
    } catch (error) {
      source.destroy();
      throw troubleOf(error, file);
    }
  }

  async sha256(file: string): Promise<string> {
    try {
      // What lies on the way must not answer in its place.
      const stream = this.client.createReadStream(at(file), {
        headers: { 'Cache-Control': 'no-cache, no-store' },
      });
      return await hashOf(stream as unknown as AsyncIterable<Buffer>);
    } catch (error) {
      throw troubleOf(error, file);
    }
  }

  async rename(from: string, to: string): Promise<void> {
    try {
      await this.client.moveFile(at(from), at(to), { overwrite: false });
    } catch (error) {
      if (statusOf(error) === 412) throw new RemoteError('exists', `${to} lies there already`);
      throw troubleOf(error, to);
    }
  }

  async remove(file: string): Promise<void> {
    try {
      await this.client.deleteFile(at(file));
    } catch (error) {
      throw troubleOf(error, file);
    }
  }

  async end(): Promise<void> {}
}

const at = (file: string): string => path.posix.join('/', file);
const statusOf = (error: unknown): number | null => (error as { status?: number }).status ?? null;

function troubleOf(error: unknown, what: string): RemoteError {
  if (error instanceof RemoteError) return error;
  const status = statusOf(error);
  if (status === 401 || status === 403) return new RemoteError('refused', 'name or password were refused');
  if (status === 507 || status === 413) return new RemoteError('full', `there is no room for ${what}`);
  if (status === 404 || status === 409) return new RemoteError('folder', `there is no folder for ${what}`);
  if (status !== null && status < 500)
    return new RemoteError('failed', `${what}: the server answered ${status}`);
  const cause = (error as { cause?: { code?: string } }).cause?.code ?? (error as { code?: string }).code;
  const said = status === null ? (cause ?? short(error)) : `it answered ${status}`;
  return new RemoteError('away', `the connection to it was lost (${said})`);
}

const short = (error: unknown): string =>
  (error instanceof Error ? error.message : String(error)).split('\n')[0]!.slice(0, 200);

import { createHash } from 'node:crypto';
import path from 'node:path';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { setImmediate as turn } from 'node:timers/promises';
import SftpClient from 'ssh2-sftp-client';
import { hashOf } from './put';
import { RemoteError, type Remote, type Target } from './remote';

type SftpTarget = Extract<Target, { kind: 'sftp' }>;

/** Milliseconds for a server to answer at all; one on the other side of the world takes some two seconds. */
const ANSWERS_WITHIN = 15_000;

/** A server that speaks SFTP, over SSH. */
export class SftpRemote implements Remote {
  readonly appends = true;
  private lost = false;
  /** fails when the line is lost: what is under way then is answered by nobody */
  private readonly loss: Promise<never>;

  private constructor(
    private readonly client: SftpClient,
    private readonly root: string,
  ) {
    this.loss = new Promise((_, reject) => {
      const lose = () => {
        this.lost = true;
        reject(new RemoteError('away', 'the connection to it was lost'));
      };
      client.on('close', lose);
      client.on('end', lose);
    });
    this.loss.catch(() => undefined);
  }

  /** A server's key, before anything secret is told to it. */
  static async keyOf(target: SftpTarget): Promise<string> {
    const { key, error } = await connect(target, () => false);
    if (key === null) throw troubleOf(error, target.host);
    return key;
  }

  /** Throws `hostkey` where it is not the server that is trusted: it is told nothing then. */
  static async open(target: SftpTarget): Promise<SftpRemote> {
    const { client, key, error } = await connect(target, (given) => given === target.hostKey);
    if (key !== null && key !== target.hostKey)
      throw new RemoteError('hostkey', `${target.host} answers with the key ${key}, which is not trusted`);
    if (client === null) throw troubleOf(error, target.host);
    try {
      // Each request goes at once: waiting for more to send costs 40 ms a request.
      (client as unknown as { client: { setNoDelay: (is: boolean) => void } }).client.setNoDelay(true);
      const root = await client.realPath(target.path === '' ? '.' : target.path);
      const home = root === '' ? target.path : root;
      // A folder that is not there is never made: it may be where a disk was.
      if ((await client.exists(home)) !== 'd')
        throw new RemoteError('folder', `there is no folder ${home} on ${target.host}`);
      return new SftpRemote(client, home);
    } catch (failure) {
      await client.end().catch(() => undefined);
      throw troubleOf(failure, target.host);
    }
  }

  async size(file: string): Promise<number | null> {
    try {
      return (await this.known(this.client.stat(this.at(file)))).size;
    } catch (error) {
      if (isMissing(error)) return null;
      throw await this.trouble(error, file);
    }
  }

  async makeFolder(folder: string): Promise<void> {
    await this.told(folder, () => this.make(this.at(folder)));
  }

  /** One after the other, and each may be made by another line between being looked for and being made: both lines want the same. */
  private async make(at: string): Promise<void> {
    // A link may lead to a folder; if it does not, writing says so.
    const isThere = async () => ['d', 'l'].includes(String(await this.client.exists(at)));
    if (await isThere()) return;
    const above = path.posix.dirname(at);
    if (above !== at) await this.make(above);
    try {
      await this.client.mkdir(at);
    } catch (error) {
      if (!(await isThere())) throw error;
    }
  }

  async write(file: string, from: number, source: Readable): Promise<void> {
    const options = from === 0 ? { flags: 'w' as const } : { flags: 'r+' as const, start: from };
    await this.told(file, () => pipeline(source, this.client.createWriteStream(this.at(file), options)));
  }

  async sha256(file: string): Promise<string> {
    try {
      return await this.known(hashOf(this.client.createReadStream(this.at(file)) as AsyncIterable<Buffer>));
    } catch (error) {
      throw await this.trouble(error, file);
    }
  }

  async rename(from: string, to: string): Promise<void> {
    // Of SFTP's renames the first one, which never writes over (draft-ietf-secsh-filexfer-02, 6.5); asked before, as not all servers hold to it.
    if ((await this.size(to)) !== null) throw new RemoteError('exists', `${to} lies there already`);
    await this.told(to, () => this.client.rename(this.at(from), this.at(to)));
  }

  async remove(file: string): Promise<void> {
    await this.told(file, () => this.client.delete(this.at(file)));
  }

  async end(): Promise<void> {
    await this.client.end().catch(() => undefined);
  }

  private at(file: string): string {
    return path.posix.join(this.root, file);
  }

  private async told(what: string, work: () => Promise<unknown>): Promise<void> {
    try {
      await this.known(work());
    } catch (error) {
      throw await this.trouble(error, what);
    }
  }

  /** What comes of a request, or that the line is lost. */
  private known<T>(request: Promise<T>): Promise<T> {
    request.catch(() => undefined);
    return Promise.race([request, this.loss]);
  }

  /** What fails as the line is lost is told before the line says so. */
  private async trouble(error: unknown, what: string): Promise<RemoteError> {
    await turn();
    return this.lost ? new RemoteError('away', 'the connection to it was lost') : troubleOf(error, what);
  }
}

/** Connects to a server whose key may be; `client` is null where nothing came of it. */
async function connect(
  target: SftpTarget,
  may: (key: string) => boolean,
): Promise<{ client: SftpClient | null; key: string | null; error: unknown }> {
  const client = new SftpClient('arkiv', {
    // What fails fails where it is waited for.
    ...{ error: () => undefined, end: () => undefined, close: () => undefined },
  });
  let key: string | null = null;
  try {
    await client.connect({
      ...{ host: target.host, port: target.port, username: target.user, readyTimeout: ANSWERS_WITHIN },
      ...(target.password !== null && { password: target.password }),
      ...(target.privateKey !== null && { privateKey: target.privateKey }),
      ...(target.passphrase !== null && { passphrase: target.passphrase }),
      keepaliveInterval: ANSWERS_WITHIN / 3,
      hostVerifier: (given: Buffer) => may((key = fingerprint(given))),
    });
    return { client, key, error: null };
  } catch (error) {
    await client.end().catch(() => undefined);
    return { client: null, key, error };
  }
}

/** As OpenSSH shows a server's key. */
const fingerprint = (key: Buffer): string =>
  `SHA256:${createHash('sha256').update(key).digest('base64').replace(/=+$/, '')}`;

const codeOf = (error: unknown): string => String((error as { code?: unknown }).code ?? '');
const isMissing = (error: unknown): boolean => codeOf(error) === 'ENOENT' || codeOf(error) === '2';

const AWAY = ['ECONNREFUSED', 'ECONNRESET', 'ENOTFOUND', 'ETIMEDOUT', 'EHOSTUNREACH', 'ENETUNREACH', 'EPIPE'];

function troubleOf(error: unknown, what: string): RemoteError {
  if (error instanceof RemoteError) return error;
  const code = codeOf(error);
  const said = error instanceof Error ? error.message : String(error);
  if (/authentication|passphrase|privateKey|Cannot parse/i.test(said))
    return new RemoteError('refused', 'name, password or key were refused');
  if (/No space|quota|disk full/i.test(said)) return new RemoteError('full', `there is no room for ${what}`);
  if (code === '3' || code === 'EACCES' || /permission denied/i.test(said))
    return new RemoteError('refused', `${what} cannot be written there`);
  if (
    AWAY.includes(code) ||
    /Timed out|not connected|No SFTP connection|ended|closed|reset|getaddrinfo|Connection lost|ERR_NOT_CONNECTED|No response/i.test(
      said,
    )
  )
    return new RemoteError('away', `the connection to it was lost (${short(said)})`);
  return new RemoteError('failed', `${what}: ${short(said)}`);
}

const short = (said: string): string => said.split('\n')[0]!.slice(0, 200);

import { generateKeyPairSync } from 'node:crypto';
import type { AddressInfo } from 'node:net';
import path from 'node:path';
import type { Connection, FileEntry, Server, SFTPWrapper } from 'ssh2';
import { diskErrorCode, type Disk, type OpenFile } from '../../disk/disk';
import { discard } from '../../disk/place';
import { Cut, FaultyIntake, Full, STAND_IN_PASSWORD, STAND_IN_USER } from './serverFaults';

/** draft-ietf-secsh-filexfer-02, 6.3 and 7. */
const OPEN_MODE = { WRITE: 0x02, CREAT: 0x08, TRUNC: 0x10 };
const STATUS_CODE = { OK: 0, EOF: 1, NO_SUCH_FILE: 2, FAILURE: 4 };
const [FILE_MODE, FOLDER_MODE] = [0o100644, 0o040755];

/** A key of its own for a server (P-256, PEM): of those that the library itself makes some cannot be read again (6 of 2,000 here). */
export const newHostKey = (): string =>
  generateKeyPairSync('ec', { namedCurve: 'P-256' })
    .privateKey.export({ type: 'sec1', format: 'pem' })
    .toString();

/** A small SFTP server (draft-ietf-secsh-filexfer-02) over a folder, on the loopback address alone. */
export class SftpStandIn {
  readonly intake = new FaultyIntake();
  private server: Server | null = null;
  private readonly open = new Set<Connection>();

  constructor(
    private readonly disk: Disk,
    private readonly root: string,
    /** PEM or OpenSSH */
    private readonly hostKey: string,
  ) {}

  async listen(port: number): Promise<number> {
    // Loaded only where somebody plays with it.
    const {
      default: { Server },
    } = await import('ssh2');
    const server = new Server({ hostKeys: [this.hostKey] }, (client) => this.serve(client));
    await new Promise<void>((resolve, reject) => {
      server.once('error', reject);
      server.listen(port, '127.0.0.1', resolve);
    });
    this.server = server;
    return (server.address() as AddressInfo).port;
  }

  close(): void {
    for (const client of this.open) client.end();
    this.server?.close();
  }

  private serve(client: Connection): void {
    this.open.add(client);
    // Each answer goes at once: waiting for more to send costs 40 ms a request.
    (client as Connection & { setNoDelay: (is: boolean) => void }).setNoDelay(true);
    client.on('close', () => this.open.delete(client));
    client.on('error', () => undefined);
    client.on('authentication', (context) => {
      const may =
        context.method === 'password' &&
        context.username === STAND_IN_USER &&
        context.password === STAND_IN_PASSWORD &&
        !this.intake.faults.refuses;
      if (may) context.accept();
      else context.reject(['password']);
    });
    client.on('session', (accept) => {
      accept().on('sftp', (begin) => new Session(begin(), this.disk, this.root, this.intake, client));
    });
  }
}

interface Handle {
  at: string;
  file: OpenFile | null;
  /** of a folder: its names were told */
  told: boolean;
}

/** One client's requests, each answered by itself. */
class Session {
  private readonly handles = new Map<number, Handle>();
  private last = 0;

  constructor(
    private readonly sftp: SFTPWrapper,
    private readonly disk: Disk,
    private readonly root: string,
    private readonly intake: FaultyIntake,
    private readonly client: Connection,
  ) {
    const on = (id: number, work: () => Promise<void>): void => {
      work().catch((error: unknown) => {
        if (error instanceof Cut) return this.client.end();
        const message = error instanceof Full ? 'No space left on device' : undefined;
        sftp.status(id, codeOf(error), message);
      });
    };
    sftp.on('REALPATH', (id, asked) => sftp.name(id, [entry(path.posix.resolve('/', asked))]));
    sftp.on('STAT', (id, asked) => on(id, () => this.stat(id, asked)));
    sftp.on('LSTAT', (id, asked) => on(id, () => this.stat(id, asked)));
    sftp.on('FSTAT', (id, handle) => on(id, () => this.stat(id, null, this.of(handle).at)));
    sftp.on('OPEN', (id, asked, flags) => on(id, () => this.openFile(id, asked, flags)));
    sftp.on('READ', (id, handle, offset, length) => on(id, () => this.read(id, handle, offset, length)));
    sftp.on('WRITE', (id, handle, offset, data) =>
      on(id, async () => {
        await this.of(handle).file!.write(await this.intake.take(data), offset);
        sftp.status(id, STATUS_CODE.OK);
      }),
    );
    sftp.on('CLOSE', (id, handle) =>
      on(id, async () => {
        await this.of(handle).file?.close();
        this.handles.delete(handle.readUInt32BE(0));
        sftp.status(id, STATUS_CODE.OK);
      }),
    );
    sftp.on('MKDIR', (id, asked) =>
      on(id, async () => {
        // As OpenSSH's does: one folder at a time, and none that is there.
        if (await this.disk.facts(this.at(asked))) return void sftp.status(id, STATUS_CODE.FAILURE);
        if ((await this.disk.facts(path.dirname(this.at(asked))))?.kind !== 'folder')
          return void sftp.status(id, STATUS_CODE.NO_SUCH_FILE);
        await this.disk.makeFolders(this.at(asked));
        sftp.status(id, STATUS_CODE.OK);
      }),
    );
    sftp.on('REMOVE', (id, asked) =>
      on(id, async () => {
        await this.disk.unlink(this.at(asked));
        sftp.status(id, STATUS_CODE.OK);
      }),
    );
    sftp.on('RENAME', (id, from, to) =>
      on(id, async () => {
        if (await this.disk.facts(this.at(to))) return void sftp.status(id, STATUS_CODE.FAILURE);
        await this.disk.rename(this.at(from), this.at(to));
        sftp.status(id, STATUS_CODE.OK);
      }),
    );
    sftp.on('OPENDIR', (id, asked) =>
      on(id, async () => {
        const at = this.at(asked);
        if ((await this.disk.facts(at))?.kind !== 'folder')
          return void sftp.status(id, STATUS_CODE.NO_SUCH_FILE);
        sftp.handle(id, this.hold({ at, file: null, told: false }));
      }),
    );
    sftp.on('READDIR', (id, handle) => on(id, () => this.list(id, this.of(handle))));
    client.on('close', () => {
      for (const { file } of this.handles.values()) void file?.close().catch(() => undefined);
      this.handles.clear();
    });
    for (const ignored of ['SETSTAT', 'FSETSTAT'] as const)
      sftp.on(ignored, (id: number) => sftp.status(id, STATUS_CODE.OK));
  }

  private async stat(id: number, asked: string | null, at = this.at(asked!)): Promise<void> {
    const facts = await this.disk.facts(at);
    if (!facts) return void this.sftp.status(id, STATUS_CODE.NO_SUCH_FILE);
    const seconds = Math.floor(facts.mtimeMillis / 1000);
    this.sftp.attrs(id, {
      ...{ mode: facts.kind === 'folder' ? FOLDER_MODE : FILE_MODE, uid: 0, gid: 0 },
      ...{ size: facts.size, atime: seconds, mtime: seconds },
    });
  }

  private async openFile(id: number, asked: string, flags: number): Promise<void> {
    const at = this.at(asked);
    const there = await this.disk.facts(at);
    const writes = (flags & OPEN_MODE.WRITE) !== 0;
    if (!writes) {
      if (there?.kind !== 'file') return void this.sftp.status(id, STATUS_CODE.NO_SUCH_FILE);
      return void this.sftp.handle(id, this.hold({ at, file: await this.disk.openRead(at), told: false }));
    }
    let kept: Buffer | null = null;
    if (there && (flags & OPEN_MODE.TRUNC) === 0) kept = await this.disk.readAll(at, there.size);
    if (there) await discard(this.disk, at);
    else if ((flags & OPEN_MODE.CREAT) === 0) return void this.sftp.status(id, STATUS_CODE.NO_SUCH_FILE);
    const file = await this.disk.createNew(at);
    if (kept) await file.write(kept, 0);
    this.sftp.handle(id, this.hold({ at, file, told: false }));
  }

  private async read(id: number, handle: Buffer, offset: number, length: number): Promise<void> {
    const target = Buffer.alloc(length);
    const got = await this.of(handle).file!.read(target, offset);
    if (got === 0) return void this.sftp.status(id, STATUS_CODE.EOF);
    this.sftp.data(id, target.subarray(0, got));
  }

  private async list(id: number, handle: Handle): Promise<void> {
    if (handle.told) return void this.sftp.status(id, STATUS_CODE.EOF);
    handle.told = true;
    const names = (await this.disk.names(handle.at)).map(String);
    this.sftp.name(id, names.map(entry));
  }

  private hold(handle: Handle): Buffer {
    const number = ++this.last;
    this.handles.set(number, handle);
    const bytes = Buffer.alloc(4);
    bytes.writeUInt32BE(number, 0);
    return bytes;
  }

  private of(handle: Buffer): Handle {
    return this.handles.get(handle.readUInt32BE(0))!;
  }

  private at(asked: string): string {
    // Resolved against the root first: nothing leads out of it.
    return path.join(this.root, path.posix.resolve('/', asked));
  }
}

const entry = (filename: string): FileEntry =>
  ({
    filename,
    longname: filename,
    attrs: { mode: FILE_MODE, uid: 0, gid: 0, size: 0, atime: 0, mtime: 0 },
  }) as FileEntry;

const codeOf = (error: unknown): number =>
  diskErrorCode(error) === 'ENOENT' ? STATUS_CODE.NO_SUCH_FILE : STATUS_CODE.FAILURE;

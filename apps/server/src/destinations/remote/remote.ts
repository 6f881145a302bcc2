import type { Readable } from 'node:stream';

/** Where files go, with what opens it. It goes to the process that speaks to it and nowhere else. */
export type Target =
  | { kind: 'folder'; path: string }
  | { kind: 'webdav'; url: string; user: string; password: string }
  | {
      kind: 'sftp';
      host: string;
      port: number;
      user: string;
      /** folder there; empty: the one that one comes into */
      path: string;
      /** SHA-256 of the server's key as OpenSSH writes it; null: any, which is told */
      hostKey: string | null;
      password: string | null;
      privateKey: string | null;
      passphrase: string | null;
    };

export type RemoteTrouble =
  'refused' | 'away' | 'full' | 'exists' | 'changed' | 'source' | 'hostkey' | 'folder' | 'failed';

/** What went wrong at a destination. `message` names no secret. */
export class RemoteError extends Error {
  constructor(
    readonly trouble: RemoteTrouble,
    message: string,
  ) {
    super(message);
  }
}

/** A place that files are copied to. Paths go by `/`, below the destination's own folder. */
export interface Remote {
  /** a file that was begun can be gone on with */
  readonly appends: boolean;
  /** bytes; null: nothing is there */
  size(file: string): Promise<number | null>;
  makeFolder(folder: string): Promise<void>;
  /** Writes a file from a position on; beyond 0 only where it `appends`. */
  write(file: string, from: number, source: Readable, length: number): Promise<void>;
  /** Reads a file back, all of it, and gives its checksum. */
  sha256(file: string): Promise<string>;
  /** Gives a file its name; throws `exists` where that is taken. */
  rename(from: string, to: string): Promise<void>;
  remove(file: string): Promise<void>;
  end(): Promise<void>;
}

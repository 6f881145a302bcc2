import { createCipheriv, createDecipheriv, randomBytes } from 'node:crypto';
import path from 'node:path';
import { Injectable } from '@nestjs/common';
import { ArkivError } from '@arkiv/core';
import { ArkivConfig } from '../config/config';
import { Disk } from '../disk/disk';
import { placeNew } from '../disk/place';

/** In the data folder, beside the database and never in it or its copies. */
const KEY_FILE = 'secrets.key';
const OWNER_ONLY = 0o600;
/** Bytes of an AES-256 key, and of what GCM wants beside it (NIST SP 800-38D, 8.2). */
const [KEY, NONCE, TAG] = [32, 12, 16];

/**
 * Keeps secrets so that who gets hold of the database, or of a copy of it, cannot read them: AES-256 in GCM under a key that lies in a
 * file of its own, for its owner alone. What one was encrypted for is part of it: it opens nothing else.
 */
@Injectable()
export class SecretBox {
  private key: Promise<Buffer> | null = null;

  constructor(
    private readonly config: ArkivConfig,
    private readonly disk: Disk,
  ) {}

  async lock(secret: object, of: string): Promise<string> {
    const nonce = randomBytes(NONCE);
    const cipher = createCipheriv('aes-256-gcm', await this.own(), nonce);
    cipher.setAAD(Buffer.from(of));
    const locked = Buffer.concat([cipher.update(JSON.stringify(secret), 'utf8'), cipher.final()]);
    return Buffer.concat([nonce, cipher.getAuthTag(), locked]).toString('base64');
  }

  /** Throws `destination.secret` where it cannot be opened: with another key, as in a restored database. */
  async unlock(text: string, of: string, name: string): Promise<object> {
    try {
      const bytes = Buffer.from(text, 'base64');
      const decipher = createDecipheriv('aes-256-gcm', await this.own(), bytes.subarray(0, NONCE));
      decipher.setAAD(Buffer.from(of));
      decipher.setAuthTag(bytes.subarray(NONCE, NONCE + TAG));
      const open = Buffer.concat([decipher.update(bytes.subarray(NONCE + TAG)), decipher.final()]);
      return JSON.parse(open.toString('utf8')) as object;
    } catch {
      throw new ArkivError('destination.secret', { name });
    }
  }

  private own(): Promise<Buffer> {
    this.key ??= this.readOrMake().catch((error: unknown) => {
      this.key = null;
      throw error;
    });
    return this.key;
  }

  private async readOrMake(): Promise<Buffer> {
    const file = path.join(this.config.dataDir, KEY_FILE);
    if (!(await this.disk.facts(file)))
      await placeNew(this.disk, file, randomBytes(KEY), 'secrets', OWNER_ONLY);
    return this.disk.readAll(file, KEY);
  }
}

import { X509Certificate } from 'node:crypto';
import os from 'node:os';
import path from 'node:path';
import { ArkivError } from '@arkiv/core';
import type { ArkivConfig } from '../config/config';
import type { Disk } from '../disk/disk';
import { placeNew, readOwn } from '../disk/place';

/** What HTTPS is served with. */
export interface Certificate {
  /** PEM */
  cert: string;
  key: string;
  /** SHA-256, as browsers show it */
  fingerprint: string;
  /** made by Arkiv, so that browsers ask once whether it is trusted */
  own: boolean;
}

/** Years that a certificate of our own lasts: it is trusted by its fingerprint, and changing it asks everybody again. */
const YEARS = 10;

/**
 * The owner's certificate where the settings name one, else one that is made once and kept in the data directory.
 * Throws `access.certificate` where the named files cannot be used.
 */
export async function certificateFor(config: ArkivConfig, disk: Disk, now: number): Promise<Certificate> {
  if (config.certificate !== '' || config.privateKey !== '') {
    const [cert, key] = [await textOf(disk, config.certificate), await textOf(disk, config.privateKey)];
    return { cert, key, fingerprint: fingerprintOf(cert, config.certificate), own: false };
  }
  const folder = path.join(config.dataDir, 'certificate');
  const [certFile, keyFile] = [path.join(folder, 'cert.pem'), path.join(folder, 'key.pem')];
  const cert = await readOwn(disk, certFile);
  const key = await readOwn(disk, keyFile);
  if (cert !== null && key !== null)
    return { cert, key, fingerprint: fingerprintOf(cert, certFile), own: true };
  const made = await make(now);
  // The key first, and for the owner's eyes only: a certificate without it is made anew.
  if (key !== null) await disk.unlink(keyFile);
  if (cert !== null) await disk.unlink(certFile);
  await placeNew(disk, keyFile, Buffer.from(made.private), 'certificate', OWNER_ONLY);
  await placeNew(disk, certFile, Buffer.from(made.cert), 'certificate');
  return { cert: made.cert, key: made.private, fingerprint: fingerprintOf(made.cert, certFile), own: true };
}

const OWNER_ONLY = 0o600;

async function make(now: number): Promise<{ private: string; cert: string }> {
  const { generate } = await import('selfsigned');
  const addresses = Object.values(os.networkInterfaces()).flatMap((list) => list ?? []);
  return generate([{ name: 'commonName', value: 'Arkiv' }], {
    keyType: 'ec',
    algorithm: 'sha256',
    notBeforeDate: new Date(now),
    notAfterDate: new Date(now + YEARS * 365 * 24 * 60 * 60 * 1000),
    extensions: [
      { name: 'basicConstraints', cA: false, critical: true },
      { name: 'extKeyUsage', serverAuth: true },
      {
        name: 'subjectAltName',
        altNames: [
          { type: 2, value: 'localhost' },
          { type: 2, value: os.hostname() },
          ...addresses.map(({ address }) => ({ type: 7 as const, ip: address.replace(/%.*$/, '') })),
        ],
      },
    ],
  });
}

async function textOf(disk: Disk, file: string): Promise<string> {
  const text = file === '' ? null : await readOwn(disk, path.resolve(file));
  if (text === null)
    throw new ArkivError('access.certificate', { file: file || '(none named)', reason: 'it is not there' });
  return text;
}

function fingerprintOf(cert: string, file: string): string {
  try {
    return new X509Certificate(cert).fingerprint256;
  } catch (error) {
    throw new ArkivError('access.certificate', { file, reason: (error as Error).message });
  }
}

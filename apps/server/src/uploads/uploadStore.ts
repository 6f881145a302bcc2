import path from 'node:path';
import { Injectable } from '@nestjs/common';
import { ArkivError } from '@arkiv/core';
import { ArkivConfig } from '../config/config';
import { Disk } from '../disk/disk';
import { discard, placeNew, readOwn, removeEmptyFolders, replaceOwn, settle, sha256Of } from '../disk/place';
import { hashFile } from '../disk/verifiedCopy';
import { resolveBelow } from '../disk/volumePath';

/** What is sent in one go: it lies in a folder of its own until it was taken in. */
export interface Upload {
  id: string;
  name: string;
  /** milliseconds since 1970 UTC */
  at: number;
  /** what its folder is called, which its receipts name as the card */
  folder: string;
  /** the reader under which it can be taken in; null: it is still coming */
  readerId: string | null;
  /** by which link it comes, and who sends it there; missing: the studio itself does */
  link?: { id: string; by: string };
}

/** A file that is coming, as its sender names it. */
export interface ComingFile {
  id: string;
  uploadId: string;
  /** below the folder that was chosen, as on cards */
  path: string;
  /** bytes */
  size: number;
  /** when it was changed last where it comes from, milliseconds since 1970 UTC; missing: that was not said */
  modified?: number;
}

/** A file that is here as it was sent. */
export interface WholeFile {
  /** below the upload's folder */
  path: string;
  size: number;
  sha256: string;
}

/** Letters of ids: those of ULIDs, so that none is a path. */
const ID = /^[0-9A-Z]{26}$/;
export const isUploadId = (id: string): boolean => ID.test(id);

/** Tries of other names for a file whose own is taken by another one: names of bodies begin anew after 9,999 frames. */
const MOST_NAMES = 10_000;

/**
 * What is being sent, in the data directory: a folder for each upload, with what it is (`upload.json`), what is coming (`coming/<file>.json`
 * and, as far as it has come, `<file>.part`), what is whole (`files/`), and what that is (`whole/<file>.json`). All of it is read from there, so a restart changes nothing.
 */
@Injectable()
export class UploadStore {
  private readonly root: string;

  constructor(
    config: ArkivConfig,
    private readonly disk: Disk,
  ) {
    this.root = path.join(config.dataDir, 'uploads');
  }

  private at(uploadId: string, ...more: string[]): string {
    if (!isUploadId(uploadId)) throw new ArkivError('not-found', { what: 'upload', id: uploadId });
    return path.join(this.root, uploadId, ...more);
  }

  filesOf = ({ id, folder }: Pick<Upload, 'id' | 'folder'>): string => this.at(id, 'files', folder);

  async make(upload: Upload): Promise<void> {
    await this.disk.makeFolders(this.at(upload.id, 'coming'));
    await this.disk.makeFolders(this.at(upload.id, 'whole'));
    await this.disk.makeFolders(this.filesOf(upload));
    await this.say(upload);
  }

  /** Says anew what an upload is. */
  async say(upload: Upload): Promise<void> {
    const place = this.at(upload.id, 'upload.json');
    const before = await readOwn(this.disk, place);
    const seen = before === null ? null : sha256Of(before);
    await replaceOwn(this.disk, place, `${JSON.stringify(upload)}\n`, seen, upload.id);
  }

  async get(id: string): Promise<Upload> {
    const text = await readOwn(this.disk, this.at(id, 'upload.json'));
    if (text === null) throw new ArkivError('not-found', { what: 'upload', id });
    return JSON.parse(text) as Upload;
  }

  /** The newest first. */
  async all(): Promise<Upload[]> {
    if (!(await this.disk.facts(this.root))) return [];
    const ids = (await this.disk.names(this.root)).map(String).filter(isUploadId).sort().reverse();
    const uploads: Upload[] = [];
    for (const id of ids) {
      const text = await readOwn(this.disk, this.at(id, 'upload.json'));
      if (text !== null) uploads.push(JSON.parse(text) as Upload);
    }
    return uploads;
  }

  /** Begins a file: it is there with no bytes. Throws `path.outside` for a name that would lead elsewhere. */
  async begin(file: ComingFile): Promise<void> {
    const upload = await this.get(file.uploadId);
    await resolveBelow(this.disk, this.filesOf(upload), upload.name, file.path);
    if (!isUploadId(file.id)) throw new ArkivError('not-found', { what: 'file', id: file.id });
    const text = Buffer.from(`${JSON.stringify(file)}\n`);
    await placeNew(this.disk, this.at(file.uploadId, 'coming', `${file.id}.json`), text, file.id);
    await (await this.disk.createNew(this.partOf(file))).close();
  }

  partOf = ({ uploadId, id }: Pick<ComingFile, 'uploadId' | 'id'>): string =>
    this.at(uploadId, 'coming', `${id}.part`);

  /** A file that is coming; null: it is not, or no more. */
  async coming(uploadId: string, id: string): Promise<ComingFile | null> {
    if (!isUploadId(id)) return null;
    const text = await readOwn(this.disk, this.at(uploadId, 'coming', `${id}.json`));
    return text === null ? null : (JSON.parse(text) as ComingFile);
  }

  async allComing(uploadId: string): Promise<ComingFile[]> {
    const names = (await this.disk.names(this.at(uploadId, 'coming'))).map(String);
    const files: ComingFile[] = [];
    for (const name of names.sort()) {
      const id = /^([0-9A-Z]{26})\.json$/.exec(name)?.[1];
      const file = id === undefined ? null : await this.coming(uploadId, id);
      if (file) files.push(file);
    }
    return files;
  }

  /** Bytes of the files that are on their way by a link, as whole as they are to be. */
  async comingBy(linkId: string): Promise<number> {
    let bytes = 0;
    for (const { id, link } of await this.all())
      if (link?.id === linkId) for (const { size } of await this.allComing(id)) bytes += size;
    return bytes;
  }

  /** Bytes of it that have come. */
  async come(file: ComingFile): Promise<number> {
    return (await this.disk.facts(this.partOf(file)))?.size ?? 0;
  }

  /** Writes what comes after so many bytes; returns how many there are then. What came before a stream breaks off is kept. */
  async write(file: ComingFile, stream: AsyncIterable<Uint8Array>, from: number): Promise<number> {
    const part = this.partOf(file);
    // A stop may have come before it was made, or after it had its name and before that was noted: it begins anew, and equal content is there once.
    const isThere = (await this.disk.facts(part)) !== null;
    const open = isThere ? await this.disk.openAgain(part) : await this.disk.createNew(part);
    let at = from;
    try {
      for await (const bytes of stream) {
        // More than was said never comes onto the disk.
        if (at + bytes.byteLength > file.size) break;
        await open.write(bytes, at);
        at += bytes.byteLength;
      }
    } finally {
      await open.sync().finally(() => open.close());
    }
    return at;
  }

  /** Lets go of a file that is coming. */
  async leave(file: ComingFile): Promise<void> {
    await discard(this.disk, this.partOf(file));
    await discard(this.disk, this.at(file.uploadId, 'coming', `${file.id}.json`));
  }

  /**
   * Reads what has come from the disk, and gives it its name where it is what was sent. Throws `upload.short` and
   * `upload.differs`; the latter is let go of. Equal content of the same name is there once; another file of that name gets another one.
   */
  async finish(file: ComingFile, sha256: string): Promise<string> {
    const part = this.partOf(file);
    const size = await this.come(file);
    const said = { file: file.path, size: file.size };
    if (size !== file.size) throw new ArkivError('upload.short', { ...said, come: size });
    const read = await hashFile(this.disk, part);
    if (read.sha256 !== sha256) {
      await this.leave(file);
      throw new ArkivError('upload.differs', said);
    }
    const upload = await this.get(file.uploadId);
    const files = this.filesOf(upload);
    const { dir, name, ext } = path.posix.parse(file.path);
    for (let n = 1; n <= MOST_NAMES; n++) {
      const named = n === 1 ? file.path : path.posix.join(dir, `${name} (${n})${ext}`);
      const to = await resolveBelow(this.disk, files, upload.name, named);
      const there = await this.disk.facts(to);
      if (
        there?.kind === 'file' &&
        there.size === size &&
        (await hashFile(this.disk, to)).sha256 === sha256
      ) {
        await this.noteWhole(file, named, sha256);
        return named;
      }
      if (there) continue;
      await this.disk.makeFolders(path.dirname(to));
      // What has no time of its own belongs to the day on which its file was written, and that is not today.
      if (file.modified !== undefined) await this.disk.touch(part, file.modified);
      // Until it is noted that it is whole, its sender finds all of it here, and proves it once more.
      await settle(this.disk, part, to, { keeps: true });
      await this.noteWhole(file, named, sha256);
      return named;
    }
    throw new ArkivError('file.exists', { file: file.path });
  }

  /** Its sender is told so, and sends it no more. */
  private async noteWhole(file: ComingFile, named: string, sha256: string): Promise<void> {
    const place = this.at(file.uploadId, 'whole', `${file.id}.json`);
    const text = `${JSON.stringify({ path: named, size: file.size, sha256 })}\n`;
    if (!(await this.disk.facts(place))) await placeNew(this.disk, place, Buffer.from(text), file.id);
    await this.leave(file);
  }

  /** A file that was found whole under the id that it came by; null: none was. */
  async wholeBy(uploadId: string, id: string): Promise<WholeFile | null> {
    if (!isUploadId(id)) return null;
    const text = await readOwn(this.disk, this.at(uploadId, 'whole', `${id}.json`));
    return text === null ? null : (JSON.parse(text) as WholeFile);
  }

  /** What is whole of an upload. */
  async whole(uploadId: string): Promise<WholeFile[]> {
    const folder = this.at(uploadId, 'whole');
    // Whose sender did not hear that it was whole comes twice, under one name.
    const files = new Map<string, WholeFile>();
    for (const name of (await this.disk.names(folder)).map(String).sort()) {
      const text = name.endsWith('.json') ? await readOwn(this.disk, path.join(folder, name)) : null;
      const file = text === null ? null : (JSON.parse(text) as WholeFile);
      if (file) files.set(file.path, file);
    }
    return [...files.values()];
  }

  /** Takes away what is said of an upload of which no file is left. Whether that was so; nothing is done where any is. */
  async forgetEmpty(upload: Upload): Promise<boolean> {
    if (
      !(await removeEmptyFolders(this.disk, this.at(upload.id, 'files'))) &&
      (await this.disk.facts(this.at(upload.id, 'files')))
    )
      return false;
    for (const file of await this.allComing(upload.id)) await this.leave(file);
    const whole = this.at(upload.id, 'whole');
    for (const name of await this.disk.names(whole))
      await discard(this.disk, path.join(whole, name.toString()));
    await discard(this.disk, this.at(upload.id, 'upload.json'));
    await removeEmptyFolders(this.disk, this.at(upload.id));
    return true;
  }
}

import path from 'node:path';
import { Injectable } from '@nestjs/common';
import {
  ArkivError,
  BAG_DECLARATION,
  BAG_DECLARATION_NAME,
  BAG_INFO_NAME,
  BAG_MANIFEST_NAME,
  BAG_PAYLOAD,
  BAG_TAG_MANIFEST_NAME,
  bagInfoText,
  bagManifestText,
  manifestText,
  type ManifestLine,
} from '@arkiv/core';
import { UnitOfWork } from '../db/unitOfWork';
import { Disk } from '../disk/disk';
import { sha256Of } from '../disk/place';
import { placeStream } from '../disk/placeStream';
import { OtherContent, placeProven } from '../disk/provenBytes';
import { hashFile } from '../disk/verifiedCopy';
import type { Delivery, DeliveryFile, DeliveryZip, SetText } from '../ledger/delivery.entity';
import { OutLedger } from '../ledger/outLedger';
import { SettingsService } from '../settings/settings.service';
import type { Volume } from '../volumes/volume.entity';
import { VolumesService } from '../volumes/volumes.service';
import { liesThere, payloadOf, specsOf } from './deliverySet';
import { FinishedFiles } from './finishedFiles.service';
import { proofSheet, type Proof } from './proofSheet';
import { ZipMaker } from './zip';

/** The manifest of a set that is no bag, and the sheet of its pictures. */
export const MANIFEST_NAME = 'manifest.sha256';
export const SHEET_NAME = 'proof-sheet.pdf';

/** Puts what belongs to a set as a whole beside its files: takes out what is no part of it, proof sheet, manifest or bag, zip. */
@Injectable()
export class WholeSet {
  constructor(
    private readonly disk: Disk,
    private readonly work: UnitOfWork,
    private readonly ledger: OutLedger,
    private readonly volumes: VolumesService,
    private readonly settings: SettingsService,
    private readonly finished: FinishedFiles,
    private readonly zips: ZipMaker,
  ) {}

  /** Can be repeated with the same result. Returns the zip, and what of the set's folder had to be left as it lies there. */
  async close(delivery: Delivery, signal?: AbortSignal): Promise<{ zip: DeliveryZip; left: string[] }> {
    const volume = await this.volumes.get(delivery.volumeId);
    await this.volumes.check(volume);
    const files = await this.ledger.deliveryFiles(delivery.id);
    const left = await this.takeOut(delivery, files, volume);
    const set = new Writing(this.disk, this.work, this.ledger, this.volumes, delivery, volume, signal);
    await set.know();
    const payload = payloadOf(delivery.folder, delivery.along, BAG_PAYLOAD);
    const there = files.filter(liesThere);
    const lines = there.map(({ to, sha256 }) => ({ sha256: sha256!, path: to.slice(payload.length + 1) }));
    let bytes = there.reduce((sum, { size }) => sum + (size ?? 0), 0);
    if (delivery.along.sheet) {
      const made = await set.stream(`${payload}/${SHEET_NAME}`, () => this.sheet(delivery, there));
      lines.push({ sha256: made.sha256, path: SHEET_NAME });
      bytes += made.size;
    }
    if (delivery.along.bag) await this.bag(delivery, lines, bytes, set);
    else await set.text(`${delivery.folder}/${MANIFEST_NAME}`, manifestText(lines));
    const own = set.written;
    const zip = await this.zip(delivery, [...there.map(({ to }) => to), ...own], volume, set.zips(), signal);
    return { zip, left };
  }

  private async *sheet(delivery: Delivery, files: readonly DeliveryFile[]): AsyncGenerator<Uint8Array> {
    const specs = specsOf(delivery);
    const first = files.filter(({ spec, picture }) => spec === 0 && picture !== null);
    const finished = this.finished;
    async function* proofs(): AsyncGenerator<Proof> {
      for (const { picture, to } of first)
        yield {
          name: path.posix.basename(to, path.posix.extname(to)),
          jpeg: (await finished.proof(picture!, specs)).bytes,
        };
    }
    const words = `${first.length} ${first.length === 1 ? 'picture' : 'pictures'}`;
    yield* proofSheet({ title: delivery.title, words, at: delivery.at }, proofs());
  }

  private async bag(
    { folder, title, at }: Delivery,
    payload: readonly ManifestLine[],
    bytes: number,
    set: Writing,
  ): Promise<void> {
    const { creator } = await this.settings.all();
    const day = new Date(at).toISOString().slice(0, 10);
    const lines = payload.map((line) => ({ ...line, path: `${BAG_PAYLOAD}/${line.path}` }));
    const texts: [string, string][] = [
      [BAG_DECLARATION_NAME, BAG_DECLARATION],
      [BAG_INFO_NAME, bagInfoText({ from: creator, words: title, day, bytes, files: payload.length })],
      [BAG_MANIFEST_NAME, bagManifestText(lines)],
    ];
    for (const [name, text] of texts) await set.text(`${folder}/${name}`, text);
    const own = texts.map(([name, text]) => ({ path: name, sha256: sha256Of(text) }));
    await set.text(`${folder}/${BAG_TAG_MANIFEST_NAME}`, bagManifestText(own));
  }

  /** All with their manifest inside: what the client unpacks can be checked. */
  private async zip(
    { id, folder, at }: Delivery,
    files: readonly string[],
    volume: Volume,
    over: readonly string[],
    signal?: AbortSignal,
  ): Promise<DeliveryZip> {
    const entries = await Promise.all(
      files.map(async (relative) => {
        const file = await this.volumes.resolve(volume, relative);
        const facts = await this.disk.facts(file);
        const name = `${path.posix.basename(folder)}/${relative.slice(folder.length + 1)}`;
        return { file, name, mtimeMillis: facts?.mtimeMillis ?? at };
      }),
    );
    const final = `${folder}.zip`;
    const made = await this.zips.make(await this.volumes.resolve(volume, final), entries, {
      ...{ job: id, over, signal },
    });
    return { path: final, ...made };
  }

  /** What lay in the set before and is no part of it any more goes, if it is what was made; anything else stays, and is named. */
  private async takeOut(
    delivery: Delivery,
    files: readonly DeliveryFile[],
    volume: Volume,
  ): Promise<string[]> {
    if (delivery.follows === null) return [];
    const now = new Set(files.map(({ to }) => to));
    const left: string[] = [];
    for (const was of await this.ledger.deliveryFiles(delivery.follows)) {
      if (!liesThere(was) || now.has(was.to)) continue;
      const file = await this.volumes.resolve(volume, was.to);
      if (!(await this.disk.facts(file))) continue;
      const { sha256 } = await hashFile(this.disk, file);
      if (sha256 === was.sha256) await this.disk.unlink(file);
      else left.push(was.to);
    }
    return left;
  }
}

/** What one closing of a set writes of its own. It is noted before it lies there, so that it is known as ours whenever that breaks off. */
class Writing {
  readonly written: string[] = [];
  private known: SetText[] = [];
  private before: Delivery[] = [];

  constructor(
    private readonly disk: Disk,
    private readonly work: UnitOfWork,
    private readonly ledger: OutLedger,
    private readonly volumes: VolumesService,
    private readonly delivery: Delivery,
    private readonly volume: Volume,
    private readonly signal?: AbortSignal,
  ) {}

  /** Looks up what was ever written of its own into this folder. */
  async know(): Promise<void> {
    this.before = await this.ledger.deliveriesInto(this.delivery.volumeId, this.delivery.folder);
    this.known = this.before.flatMap(({ texts }) => texts);
    for (const one of this.before) {
      if (one.texts.length > 0 || one.zip === null) continue;
      // An earlier version kept no list; its manifest can be said again.
      const lines = (await this.ledger.deliveryFiles(one.id))
        .filter(liesThere)
        .map(({ to, sha256 }) => ({ sha256: sha256!, path: to.slice(one.folder.length + 1) }));
      this.known.push({ path: `${one.folder}/${MANIFEST_NAME}`, sha256: sha256Of(manifestText(lines)) });
    }
  }

  /** Checksums of the zips that were made of this folder. */
  zips(): string[] {
    return this.before.flatMap(({ zip }) => zip?.sha256 ?? []);
  }

  async text(relative: string, text: string): Promise<void> {
    const bytes = Buffer.from(text);
    await this.note(relative, sha256Of(bytes));
    const final = await this.volumes.resolve(this.volume, relative);
    try {
      await placeProven(this.disk, final, bytes, {
        ...{ job: this.delivery.id, over: this.of(relative), signal: this.signal },
      });
    } catch (error) {
      if (error instanceof OtherContent)
        throw new ArkivError('file.exists', { file: path.basename(relative) });
      throw error;
    }
    this.written.push(relative);
  }

  /** What is too large for memory: known once it lies there. A run that broke off before it was noted has made the same bytes. */
  async stream(
    relative: string,
    make: () => AsyncIterable<Uint8Array>,
  ): Promise<{ sha256: string; size: number }> {
    const final = await this.volumes.resolve(this.volume, relative);
    const made = await placeStream(this.disk, final, make(), {
      ...{ job: this.delivery.id, over: this.of(relative), signal: this.signal },
    });
    await this.note(relative, made.sha256);
    this.written.push(relative);
    return made;
  }

  private of(relative: string): string[] {
    return this.known.filter((one) => one.path === relative).map(({ sha256 }) => sha256);
  }

  private async note(relative: string, sha256: string): Promise<void> {
    if (this.known.some((one) => one.path === relative && one.sha256 === sha256)) return;
    this.known.push({ path: relative, sha256 });
    const own = await this.ledger.delivery(this.delivery.id);
    const texts = [...(own?.texts ?? []), { path: relative, sha256 }];
    await this.work.write((manager) => this.ledger.noteTexts(manager, this.delivery.id, texts));
  }
}

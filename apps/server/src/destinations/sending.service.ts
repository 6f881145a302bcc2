import path from 'node:path';
import { Injectable } from '@nestjs/common';
import { ArkivError } from '@arkiv/core';
import { UnitOfWork } from '../db/unitOfWork';
import { liesThere } from '../delivery/deliverySet';
import { Disk } from '../disk/disk';
import { hashFile } from '../disk/verifiedCopy';
import { Happenings } from '../events/domainEvents';
import { JobsService } from '../jobs/jobs.service';
import type { Delivery } from '../ledger/delivery.entity';
import { OutLedger, type SentNow } from '../ledger/outLedger';
import type { Sent, SentFile } from '../ledger/sent.entity';
import { Clock } from '../system/clock';
import { Ids } from '../system/ids';
import { VolumesService } from '../volumes/volumes.service';
import { DestinationsService, placeOf } from './destinations.service';

/** What of a set is sent: its folder with all that is in it, its zip, or both. */
export const SENT_PARTS = ['folder', 'zip', 'both'] as const;
export type SentPart = (typeof SENT_PARTS)[number];

export interface SendRequest {
  destinationId: string;
  part: SentPart;
  /** only the files of these frames, without what is of the whole set; null: all */
  frameIds: string[] | null;
}

type Going = Pick<SentFile, 'frameId' | 'from' | 'to' | 'size' | 'sha256'>;

/** Copies sets to where clients get them; nothing is ever moved. */
@Injectable()
export class SendingService {
  constructor(
    private readonly destinations: DestinationsService,
    private readonly ledger: OutLedger,
    private readonly volumes: VolumesService,
    private readonly jobs: JobsService,
    private readonly work: UnitOfWork,
    private readonly disk: Disk,
    private readonly happenings: Happenings,
    private readonly clock: Clock,
    private readonly ids: Ids,
  ) {}

  /** Throws `destination.*`, `delivery.changed` where a text of the set is not what was made, `volume.offline`. */
  async send(deliveryId: string, request: SendRequest): Promise<{ jobId: string }> {
    const delivery = await this.ledger.delivery(deliveryId);
    if (!delivery?.zip) throw new ArkivError('not-found', { what: 'finished delivery', id: deliveryId });
    const destination = await this.destinations.get(request.destinationId);
    if (destination.kind === 'sftp' && destination.reach.hostKey === null)
      throw new ArkivError('destination.untrusted', { name: destination.name });
    const going = await this.going(delivery, request);
    if (going.length === 0) throw new ArkivError('destination.nothing', { name: delivery.name });
    const jobId = this.ids.newId();
    const place = placeOf(destination.kind, destination.reach);
    const sent: Sent = {
      ...{ id: jobId, deliveryId, shootId: delivery.shootId, destinationId: destination.id },
      ...{ destination: destination.name, place, folder: path.posix.basename(delivery.folder) },
      ...{ carried: destination.reach.carried, confirmedAt: null, at: this.clock.now(), finishedAt: null },
    };
    const files = going.map((file, seq): SentFile => ({
      ...file,
      ...{ sentId: jobId, seq, fate: 'todo', provenAt: null },
    }));
    await this.jobs.begin([
      {
        job: {
          ...{ id: jobId, kind: 'send', title: `${delivery.title} → ${destination.name}` },
          ...{ shootId: delivery.shootId, params: {} },
        },
        items: files.map(({ size, to }) => ({ size, name: to, data: {} })),
        head: (manager) => this.ledger.openSent(manager, sent),
        part: (manager, from, to) => this.ledger.addSentFiles(manager, files.slice(from, to)),
      },
    ]);
    return { jobId };
  }

  /** Where the sets of a shoot were sent, the newest first; each with the set as it is now. `older`: it was brought up to date since. */
  async ofShoot(shootId: string): Promise<(SentNow & { older: boolean })[]> {
    const later = new Map<string, string>();
    for (const { id, follows } of await this.ledger.deliveries(shootId))
      if (follows !== null) later.set(follows, id);
    const newest = (id: string): string => (later.has(id) ? newest(later.get(id)!) : id);
    const all = await this.ledger.sentOfShoot(shootId);
    return all.map(({ deliveryId, ...one }) => {
      const now = newest(deliveryId);
      return { ...one, deliveryId: now, older: now !== deliveryId, carried: Boolean(one.carried) };
    });
  }

  /** Somebody knows that what another program carries has arrived. */
  async confirm(id: string): Promise<void> {
    const sent = await this.ledger.sent(id);
    if (!sent?.carried || sent.finishedAt === null)
      throw new ArkivError('not-found', { what: 'sending that another program carries', id });
    await this.work.write(async (manager) => {
      await this.ledger.changeSent(manager, id, { confirmedAt: this.clock.now() });
      this.happenings.after(manager, 'sent', { shootId: sent.shootId });
    });
  }

  private async going(delivery: Delivery, { part, frameIds }: SendRequest): Promise<Going[]> {
    const volume = await this.volumes.get(delivery.volumeId);
    await this.volumes.check(volume);
    const { folder } = delivery;
    const name = path.posix.basename(folder);
    const to = (file: string) => `${name}/${file.slice(folder.length + 1)}`;
    const chosen = frameIds && new Set(frameIds);
    const files = (await this.ledger.deliveryFiles(delivery.id)).filter(
      (file) => liesThere(file) && (!chosen || chosen.has(file.frameId)),
    );
    const own = files.map(({ frameId, to: from, size, sha256 }): Going => ({
      ...{ frameId, from, to: to(from), size: size!, sha256: sha256! },
    }));
    if (chosen) return own;
    const zip = delivery.zip!;
    const zipped: Going = {
      ...{ frameId: null, from: zip.path, to: path.posix.basename(zip.path) },
      ...{ size: zip.size, sha256: zip.sha256 },
    };
    if (part === 'zip') return [zipped];
    const texts: Going[] = [];
    for (const at of new Set(delivery.texts.map((text) => text.path))) {
      const file = await this.volumes.resolve(volume, at);
      const facts = await this.disk.facts(file);
      // What was to be written once is not there any more where the set has no such text now.
      if (!facts) continue;
      const { sha256 } = await hashFile(this.disk, file);
      if (!delivery.texts.some((text) => text.path === at && text.sha256 === sha256))
        throw new ArkivError('delivery.changed', { file: at });
      texts.push({ frameId: null, from: at, to: to(at), size: facts.size, sha256 });
    }
    // The manifest vouches for what is there: it comes after it.
    return [...own, ...texts, ...(part === 'both' ? [zipped] : [])];
  }
}

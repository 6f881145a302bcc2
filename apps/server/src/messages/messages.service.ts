import path from 'node:path';
import {
  Injectable,
  Logger,
  type OnApplicationBootstrap,
  type BeforeApplicationShutdown,
} from '@nestjs/common';
import { ArkivError, endingOf, type MessageKind, type OutputSpec } from '@arkiv/core';
import { UnitOfWork } from '../db/unitOfWork';
import { FinishedFiles } from '../delivery/finishedFiles.service';
import { sha256Of } from '../disk/place';
import { Happenings } from '../events/domainEvents';
import { FramesService } from '../frames/frames.service';
import type { Delivery, DeliveryFile } from '../ledger/delivery.entity';
import { GalleryDoors } from '../gallery/galleryDoors.service';
import type { GalleryLink } from '../ledger/gallery.entity';
import { GalleryLedger } from '../ledger/galleryLedger';
import type { Message } from '../ledger/message.entity';
import { MessageLedger } from '../ledger/messageLedger';
import { OutLedger } from '../ledger/outLedger';
import { SettingsService } from '../settings/settings.service';
import { ShootsService } from '../shoots/shoots.service';
import { Clock } from '../system/clock';
import { Ids } from '../system/ids';
import { MailAccounts } from './mailAccounts.service';
import { Mailer, MailUnknown } from './mailer';

/** Words to one address. */
export interface Written {
  to: string;
  subject: string;
  text: string;
}

/** Words that tell of a gallery's link. */
export interface WrittenOfLink extends Written {
  linkId: string;
}

/** A picture that is made for a message. */
export interface MadePicture {
  frameId: string;
  from: string;
  name: string;
  bytes: Uint8Array;
}

interface Files {
  files: readonly MadePicture[];
  spec: OutputSpec;
}

/**
 * Bytes that lie beside a message at most: servers take 20 to 25 MB (common settings, no standard), and on the way a file grows by 37 %
 * (base64 in lines, RFC 2045).
 */
const MOST_ATTACHED = 14e6;
/** What is not known stays so: nobody is written twice without a press. */
const NOT_KNOWN =
  'It is not known whether it went: look among what your mail server sent, and write again if it is not there.';
const NOT_SENT = 'Arkiv ended before it went. Send it again.';
/** In the place of a pass code in what is kept. */
const CODE_KEPT = '····';

/** Writes to clients: only what somebody has seen and pressed a button for, once. */
@Injectable()
export class MessagesService implements OnApplicationBootstrap, BeforeApplicationShutdown {
  private readonly log = new Logger('messages');
  private going: Promise<unknown> = Promise.resolve();
  private isEnding = false;

  constructor(
    private readonly accounts: MailAccounts,
    private readonly mailer: Mailer,
    private readonly ledger: MessageLedger,
    private readonly galleries: GalleryLedger,
    private readonly doors: GalleryDoors,
    private readonly out: OutLedger,
    private readonly finished: FinishedFiles,
    private readonly frames: FramesService,
    private readonly shoots: ShootsService,
    private readonly settings: SettingsService,
    private readonly work: UnitOfWork,
    private readonly happenings: Happenings,
    private readonly clock: Clock,
    private readonly ids: Ids,
  ) {}

  /** What was under way when the server ended goes nowhere by itself. */
  async onApplicationBootstrap(): Promise<void> {
    for (const { id, state, shootId } of await this.ledger.inState('waiting', 'sending'))
      await this.note(shootId, id, {
        ...(state === 'waiting'
          ? { state: 'refused', reason: NOT_SENT }
          : { state: 'unknown', reason: NOT_KNOWN }),
      });
  }

  async beforeApplicationShutdown(): Promise<void> {
    this.isEnding = true;
    await this.going;
  }

  /** The newest first. */
  list(shootId: string): Promise<Message[]> {
    return this.ledger.ofShoot(shootId);
  }

  /** Sends one message for each link. Throws `mail.none`, `mail.secret`, `not-found`, `gallery.closed`. */
  async ofGallery(galleryId: string, kind: MessageKind, written: readonly WrittenOfLink[]): Promise<void> {
    const gallery = await this.galleries.gallery(galleryId);
    if (!gallery) throw new ArkivError('not-found', { what: 'gallery', id: galleryId });
    if (gallery.closedAt !== null) throw new ArkivError('gallery.closed', { name: gallery.title });
    const links = await this.galleries.links(galleryId);
    for (const { linkId } of written)
      if (!links.some(({ id, revokedAt }) => id === linkId && revokedAt === null))
        throw new ArkivError('not-found', { what: 'link', id: linkId });
    const { shootId } = gallery;
    await this.begin(
      written.map(({ linkId, ...words }) => this.message({ shootId, galleryId, linkId, kind, ...words })),
      written,
      { codes: await this.codesOf(links), made: null },
    );
  }

  /** Makes pictures by a spec, as they would lie beside a message. Throws `not-found`, `message.large`, `picture.none`. */
  async make(shootId: string, frameIds: readonly string[], specName: string): Promise<Files> {
    const spec = (await this.settings.all()).outputSpecs.find(({ name }) => name === specName);
    if (!spec || spec.format === 'asis')
      throw new ArkivError('not-found', { what: 'output spec', id: specName });
    const pictures = await this.frames.pictures(shootId);
    const files: MadePicture[] = [];
    for (const frameId of frameIds) {
      const frame = await this.frames.frame(frameId);
      const picture = pictures.get(frameId) ?? null;
      if (!frame || frame.shootId !== shootId)
        throw new ArkivError('not-found', { what: 'frame', id: frameId });
      const said = (await this.finished.said([frame])).get(frameId)!;
      const [made] = await this.finished.render([spec], { picture, from: frame.name }, said);
      const name = `${path.parse(frame.name).name}.${endingOf(spec.format, '')}`;
      files.push({ frameId, from: frame.name, name, bytes: made!.bytes });
    }
    const bytes = files.reduce((sum, file) => sum + file.bytes.length, 0);
    if (bytes > MOST_ATTACHED) throw new ArkivError('message.large', { bytes, most: MOST_ATTACHED });
    return { files, spec };
  }

  /** Sends pictures beside words. Throws as `make`, `mail.none`, `mail.secret`. */
  async withPictures(
    shootId: string,
    words: Written,
    frameIds: readonly string[],
    specName: string,
  ): Promise<void> {
    await this.shoots.get(shootId);
    await this.accounts.get();
    const made = await this.make(shootId, frameIds, specName);
    const attached = made.files.map(({ frameId, from, name, bytes }) => ({
      ...{ frameId, from, name, bytes: bytes.length, sha256: sha256Of(bytes) },
    }));
    const message = this.message({ shootId, galleryId: null, linkId: null, kind: 'pictures', ...words });
    await this.begin([{ ...message, attached }], [words], { codes: [], made });
  }

  private message(
    its: Pick<Message, 'shootId' | 'galleryId' | 'linkId' | 'kind' | 'to' | 'subject' | 'text'>,
  ): Message {
    const fresh = { attached: [], state: 'waiting' as const, reason: null, sentAt: null };
    return { ...its, ...fresh, id: this.ids.newId(), at: this.clock.now() };
  }

  /** Keeps them, then sends them one after another, also while who asked looks elsewhere. */
  private async begin(
    messages: readonly Message[],
    written: readonly Written[],
    { codes, made }: { codes: readonly string[]; made: Files | null },
  ): Promise<void> {
    // Whoever has not named a server, or whose password is lost, is told at once.
    await this.accounts.password(await this.accounts.get());
    await this.work.write(async (manager) => {
      const kept = messages.map((one) => ({ ...one, text: withoutCodes(one.text, codes) }));
      await this.ledger.open(manager, kept);
      this.happenings.after(manager, 'mail', { shootId: messages[0]!.shootId });
    });
    const send = async () => {
      for (const [i, message] of messages.entries()) await this.sendOne(message, written[i]!, made);
    };
    this.going = this.going.then(send).catch((error: unknown) => this.log.error(error));
  }

  /** Pass codes that messages tell: never kept beside the address that they open. */
  private async codesOf(links: readonly GalleryLink[]): Promise<string[]> {
    const told = await Promise.all(links.map((link) => this.doors.told(link).catch(() => null)));
    return told.flatMap((one) => (one?.code ? [one.code] : []));
  }

  private async sendOne(message: Message, { to, subject, text }: Written, made: Files | null): Promise<void> {
    const { id, shootId } = message;
    if (this.isEnding) return;
    await this.note(shootId, id, { state: 'sending' });
    try {
      const account = await this.accounts.get();
      const { studio } = await this.settings.all();
      const from = { name: studio, address: account.from };
      const files = made?.files ?? [];
      await this.mailer.send(account, await this.accounts.password(account), {
        from,
        to,
        subject,
        text,
        files,
      });
      if (made) await this.deliver(message, made);
      await this.note(shootId, id, { state: 'sent', sentAt: this.clock.now() });
    } catch (error) {
      if (error instanceof MailUnknown)
        await this.note(shootId, id, { state: 'unknown', reason: `${error.message}. ${NOT_KNOWN}` });
      else if (error instanceof ArkivError)
        await this.note(shootId, id, { state: 'refused', reason: `${error.message} ${error.body().next}` });
      else throw error;
    }
  }

  /** Pictures that went out beside a message stand in the ledger like all that went out. */
  private async deliver({ id, shootId, to, attached }: Message, { spec }: Files): Promise<void> {
    const shoot = await this.shoots.get(shootId);
    const at = this.clock.now();
    const delivery: Delivery = {
      ...{ id, kind: 'mail', shootId, volumeId: '', name: to, title: `${shoot.title} · ${to}` },
      ...{ spec: [spec], line: '', folder: '', follows: null, zip: null, texts: [] },
      ...{ along: { raws: null, sheet: false, bag: false }, at, finishedAt: null },
    };
    const files = attached.map(({ frameId, from, name, bytes, sha256 }, seq): DeliveryFile => ({
      ...{ deliveryId: id, seq, item: seq, number: seq + 1, spec: 0, frameId, picture: null, from, to: name },
      ...{ fate: 'made', recipe: null, sha256, size: bytes, width: null, height: null },
    }));
    await this.work.write(async (manager) => {
      await this.out.openDelivery(manager, delivery);
      await this.out.addDeliveryFiles(manager, files);
      await this.out.finishDelivery(manager, id, { finishedAt: at, zip: null });
      this.happenings.after(manager, 'posted', { shootId });
    });
  }

  private note(shootId: string, id: string, change: Parameters<MessageLedger['change']>[2]): Promise<void> {
    return this.work.write(async (manager) => {
      await this.ledger.change(manager, id, change);
      this.happenings.after(manager, 'mail', { shootId });
    });
  }
}

const withoutCodes = (text: string, codes: readonly string[]): string =>
  codes.reduce((words, code) => words.replaceAll(code, CODE_KEPT), text);

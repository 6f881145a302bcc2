import { Injectable } from '@nestjs/common';
import { ArkivError } from '@arkiv/core';
import express, { type Express, type NextFunction, type Request, type Response } from 'express';
import { Happenings } from '../../events/domainEvents';
import type { GalleryFrame, GalleryGuest } from '../../ledger/gallery.entity';
import { GalleryLedger } from '../../ledger/galleryLedger';
import { GalleryDoors, type Gate } from '../galleryDoors.service';
import { GalleryDownloads } from '../galleryDownloads.service';
import { GalleryFiles } from '../galleryFiles';
import { SIZE_NAMES, SIZES, type GallerySize } from '../galleryLook';
import { SayingService } from '../saying.service';
import { cookieOf, sendPage, textOf } from '../../outside/answers';
import { doorPage } from '../../outside/page';
import { MOST_BODY, OutsideApp, type OutsidePart } from '../../outside/outsideApp';
import { PageAssets } from '../../outside/pageAssets';
import { galleryPage } from './pages';
import { pageState, guestState } from './pageState';
import { sayingOf } from './sayingOf';

const MINUTE = 60_000;
/** Pages of one gallery that are told at once what changes: more than a client is people. */
const MOST_LISTENERS = 60;
/** Between signs of life on a stream: what stands in between closes silent ones after a minute at the earliest. */
const SIGN_EVERY = 25_000;

interface Visit {
  gate: Gate;
  guest: GalleryGuest;
}

/** Galleries, as clients reach them. */
@Injectable()
export class GalleryApp implements OutsidePart {
  readonly under = '/g';
  readonly told = /^gallery\./;
  private readonly listeners = new Map<string, Set<Response>>();

  constructor(
    private readonly doors: GalleryDoors,
    private readonly saying: SayingService,
    private readonly downloads: GalleryDownloads,
    private readonly files: GalleryFiles,
    private readonly ledger: GalleryLedger,
    private readonly assets: PageAssets,
    outside: OutsideApp,
    happenings: Happenings,
  ) {
    outside.add(this);
    happenings.on('gallery', ({ galleryId }) => this.tell(galleryId));
  }

  mount(app: Express): void {
    app.get('/g/:token', (request, response, next) => void this.show(request, response).catch(next));
    app.post(
      '/g/:token/in',
      express.urlencoded({ extended: false, limit: MOST_BODY }),
      (request, response, next) => void this.enter(request, response).catch(next),
    );
    const visit =
      (answer: (visit: Visit, request: Request, response: Response) => Promise<void> | void) =>
      (request: Request, response: Response, next: NextFunction): void =>
        void this.visitOf(request)
          .then((its) => {
            response.locals.isGuest = true;
            return answer(its, request, response);
          })
          .catch(next);
    app.get(
      '/g/:token/state',
      visit((its, _, response) => this.state(its, response)),
    );
    app.get(
      '/g/:token/live',
      visit((its, _, response) => this.listen(its, response)),
    );
    app.post(
      '/g/:token/say',
      express.json({ limit: MOST_BODY }),
      visit(async (its, request, response) => {
        await this.saying.say(its.gate, its.guest, sayingOf(request.body));
        await this.state(its, response);
      }),
    );
    app.get(
      '/g/:token/p/:key/:version/:size',
      visit((its, ...both) => this.picture(its, ...both)),
    );
    app.get(
      '/g/:token/d/:key/:spec',
      visit((its, ...both) => this.one(its, ...both)),
    );
    app.get(
      '/g/:token/all/:spec',
      visit((its, ...both) => this.all(its, ...both)),
    );
  }

  /** Ends what would keep the server from stopping. */
  close(): void {
    for (const all of this.listeners.values()) for (const response of all) response.end();
    this.listeners.clear();
  }

  private async show(request: Request, response: Response): Promise<void> {
    const gate = await this.doors.gate(textOf(request.params.token));
    const guest = await this.doors.guest(gate, heldBy(request, gate));
    if (!guest) return void sendPage(response, await this.door(request, gate, null));
    const shown = await this.shown(gate);
    const forms = gate.link.rights.download ? await this.downloads.forms(gate.gallery, shown) : [];
    const now = guestState(
      gate,
      guest,
      shown,
      await this.ledger.guests(gate.gallery.id),
      await this.saying.choice(gate.gallery.id),
    );
    sendPage(
      response,
      galleryPage(await this.assets.files(), pageState(baseOf(request), gate.gallery, shown, forms, now)),
    );
  }

  private async door(request: Request, { gallery, link }: Gate, problem: ArkivError | null): Promise<string> {
    const asks = { asksName: link.name === '', asksCode: link.codeHash !== null, forWhom: link.name };
    return doorPage(
      await this.assets.files(),
      baseOf(request),
      gallery.title,
      asks,
      WORDS,
      problem?.body() ?? null,
    );
  }

  private async enter(request: Request, response: Response): Promise<void> {
    const gate = await this.doors.gate(textOf(request.params.token));
    const { code, name } = (request.body ?? {}) as Record<string, unknown>;
    try {
      const held = await this.doors.enter(gate, textOf(code), textOf(name), request.ip ?? '');
      response.cookie(cookieNameOf(gate), held, {
        ...{ httpOnly: true, sameSite: 'lax', secure: request.secure, path: baseOf(request) },
        maxAge: 30 * 24 * 60 * MINUTE,
      });
      response.redirect(303, baseOf(request));
    } catch (error) {
      if (!(error instanceof ArkivError)) throw error;
      sendPage(response.status(error.status), await this.door(request, gate, error));
    }
  }

  private async state({ gate, guest }: Visit, response: Response): Promise<void> {
    const { id } = gate.gallery;
    const guests = await this.ledger.guests(id);
    response.json(guestState(gate, guest, await this.shown(gate), guests, await this.saying.choice(id)));
  }

  private listen({ gate }: Visit, response: Response): void {
    const { id } = gate.gallery;
    const all = this.listeners.get(id) ?? new Set();
    if (all.size >= MOST_LISTENERS) throw new ArkivError('gallery.much', {});
    this.listeners.set(id, all.add(response));
    response.writeHead(200, { 'content-type': 'text/event-stream', 'cache-control': 'no-store' });
    response.write(': here\n\n');
    const sign = setInterval(() => response.write(': here\n\n'), SIGN_EVERY);
    response.on('close', () => {
      clearInterval(sign);
      all.delete(response);
    });
  }

  private tell(galleryId: string): void {
    for (const response of this.listeners.get(galleryId) ?? []) response.write('data: changed\n\n');
  }

  private async picture({ gate }: Visit, { params }: Request, response: Response): Promise<void> {
    const size = SIZE_NAMES.find((one) => one === params.size);
    const frame = await this.ledger.frameOf(gate.gallery.id, textOf(params.key));
    if (!size || !frame || frame.version === 0) throw new ArkivError('gallery.none', {});
    // One that was made anew since is found under its new address only by who loads the page again: the old one shows it too.
    const isNow = textOf(params.version) === String(frame.version);
    await sendFile(response, this.files.place(frame, size), {
      'content-type': TYPES[SIZES[size]],
      'cache-control': isNow ? `private, max-age=${MONTH}, immutable` : 'private, no-cache',
    });
  }

  private async one({ gate, guest }: Visit, { params }: Request, response: Response): Promise<void> {
    if (!gate.link.rights.download) throw new ArkivError('gallery.right', {});
    const frame = await this.ledger.frameOf(gate.gallery.id, textOf(params.key));
    if (!frame || frame.version === 0) throw new ArkivError('gallery.none', {});
    const { name, bytes } = await this.downloads.one(gate.gallery, frame, Number(params.spec));
    response.attachment(name).setHeader('cache-control', 'private, no-store');
    response.end(bytes);
    await this.saying.downloaded(gate.gallery, guest, [frame.frameId], name);
  }

  private async all({ gate, guest }: Visit, { params }: Request, response: Response): Promise<void> {
    if (!gate.link.rights.download) throw new ArkivError('gallery.right', {});
    const zip = await this.downloads.zip(gate.gallery, await this.shown(gate), Number(params.spec));
    response.attachment(zip.name).setHeader('cache-control', 'private, no-store');
    response.setHeader('content-length', zip.size);
    // A stream that breaks off breaks the answer off: half a zip is none.
    zip.stream.on('error', () => response.destroy());
    response.on('close', () => zip.stream.destroy());
    response.on('finish', () => {
      void this.saying.downloaded(gate.gallery, guest, zip.frameIds, zip.name).catch(() => undefined);
    });
    zip.stream.pipe(response);
  }

  private async shown({ gallery }: Gate): Promise<GalleryFrame[]> {
    return (await this.ledger.frames(gallery.id)).filter(({ version }) => version > 0);
  }

  private async visitOf(request: Request): Promise<Visit> {
    const gate = await this.doors.gate(textOf(request.params.token));
    const guest = await this.doors.guest(gate, heldBy(request, gate));
    if (!guest) throw new ArkivError('gallery.enter', {});
    return { gate, guest };
  }
}

/** What its door says. */
const WORDS = { why: 'So that it is known whose favourites are whose.', deed: 'Open the gallery' };
const TYPES = { jpg: 'image/jpeg', webp: 'image/webp' } satisfies Record<(typeof SIZES)[GallerySize], string>;
const MONTH = 30 * 24 * 60 * 60;

const baseOf = ({ params }: Request): string => `/g/${textOf(params.token)}`;
const cookieNameOf = ({ link }: Gate): string => `gallery_${link.id}`;
const heldBy = (request: Request, gate: Gate): string | null => cookieOf(request, cookieNameOf(gate));

const sendFile = (response: Response, file: string, with_: Record<string, string>): Promise<void> =>
  new Promise((resolve, reject) =>
    response.sendFile(file, { dotfiles: 'allow', cacheControl: false, headers: with_ }, (error) => {
      // Whoever scrolled on has closed it.
      if (!error || response.headersSent) resolve();
      else reject(error);
    }),
  );

import { Injectable } from '@nestjs/common';
import { ArkivError } from '@arkiv/core';
import compression from 'compression';
import express, { type Express, type NextFunction, type Request, type Response } from 'express';
import { ipKeyGenerator, rateLimit } from 'express-rate-limit';
import helmet from 'helmet';
import { ArkivConfig } from '../../config/config';
import { Happenings } from '../../events/domainEvents';
import type { GalleryFrame, GalleryGuest } from '../../ledger/gallery.entity';
import { GalleryLedger } from '../../ledger/galleryLedger';
import { GalleryDoors, type Gate } from '../galleryDoors.service';
import { GalleryDownloads } from '../galleryDownloads.service';
import { GalleryFiles } from '../galleryFiles';
import { SIZE_NAMES, SIZES, type GallerySize } from '../galleryLook';
import { SayingService } from '../saying.service';
import { ownVisitors } from './galleryHosts';
import { doorPage, galleryPage, problemPage } from './pages';
import { PageAssets } from './pageAssets';
import { pageState, guestState } from './pageState';
import { sayingOf } from './sayingOf';

const MINUTE = 60_000;
/** Answers in a minute to one address: whoever scrolls through 800 pictures and looks at each takes 1,600; two at one address. */
const MOST_ANSWERS = 4000;
/** Answers of “no” in a minute to one address, to whom is not known: nobody mistypes a link so often; who guesses has nothing from more. */
const MOST_REFUSALS = 40;
/** Pages of one gallery that are told at once what changes: more than a client is people. */
const MOST_LISTENERS = 60;
/** Bytes of what somebody says. */
const MOST_BODY = '16kb';
/** Between signs of life on a stream: what stands in between closes silent ones after a minute at the earliest. */
const SIGN_EVERY = 25_000;

interface Visit {
  gate: Gate;
  guest: GalleryGuest;
}

/** What clients reach: galleries, and nothing else of the archive. */
@Injectable()
export class GalleryApp {
  private readonly listeners = new Map<string, Set<Response>>();

  constructor(
    private readonly config: ArkivConfig,
    private readonly doors: GalleryDoors,
    private readonly saying: SayingService,
    private readonly downloads: GalleryDownloads,
    private readonly files: GalleryFiles,
    private readonly ledger: GalleryLedger,
    private readonly assets: PageAssets,
    happenings: Happenings,
  ) {
    happenings.on('gallery', ({ galleryId }) => this.tell(galleryId));
  }

  make(secure: boolean): Express {
    const app = express();
    app.disable('x-powered-by');
    // Behind a server that speaks for it, a visitor's address is what that says.
    app.set('trust proxy', this.config.galleryAddress === '' ? false : 'loopback');
    app.use(ownVisitors(this.config));
    app.use(headers(secure || this.config.galleryAddress.startsWith('https:')));
    const limited = { windowMs: MINUTE, standardHeaders: true, legacyHeaders: false, handler: tooMuch };
    const keyGenerator = ({ ip }: Request): string => ipKeyGenerator(ip ?? '');
    const refusals = rateLimit({ ...limited, keyGenerator, limit: MOST_REFUSALS });
    app.use(rateLimit({ ...limited, keyGenerator, limit: MOST_ANSWERS }));
    // Counted when they are given: what is still asked for is no refusal, and browsers ask for a hundred pictures at once.
    app.use((request: Request, response: Response, next: NextFunction) => {
      void Promise.resolve(refusals.getKey(keyGenerator(request))).then(
        (had) => ((had?.totalHits ?? 0) >= MOST_REFUSALS ? tooMuch(request, response, next) : next()),
        next,
      );
    });
    app.use(compression({ filter: (_, response) => TEXTS.test(String(response.getHeader('content-type'))) }));
    app.get('/robots.txt', (_, response) => void response.type('text').send('User-agent: *\nDisallow: /\n'));
    app.get('/gallery.css', (_, response) => this.asset(response, 'gallery.css'));
    app.get('/gallery.js', (_, response) => this.asset(response, 'gallery.js'));
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
    app.use(() => {
      throw new ArkivError('gallery.none', {});
    });
    app.use((error: unknown, request: Request, response: Response, _: NextFunction) => {
      const refuse = () => void this.refuse(error, request, response);
      // Of whoever has come in, much may be asked for that is gone: a page that was open while its gallery was made anew.
      if (response.locals.isGuest === true || isTooMuch(error)) refuse();
      else void refusals(request, response, refuse);
    });
    return app;
  }

  /** Ends what would keep the server from stopping. */
  close(): void {
    for (const all of this.listeners.values()) for (const response of all) response.end();
    this.listeners.clear();
  }

  private async show(request: Request, response: Response): Promise<void> {
    const gate = await this.doors.gate(textOf(request.params.token));
    const guest = await this.doors.guest(gate, heldBy(request, gate));
    if (!guest) return void html(response, await this.door(request, gate, null));
    const shown = await this.shown(gate);
    const forms = gate.link.rights.download ? await this.downloads.forms(gate.gallery, shown) : [];
    const now = guestState(
      gate,
      guest,
      shown,
      await this.ledger.guests(gate.gallery.id),
      await this.saying.choice(gate.gallery.id),
    );
    html(
      response,
      galleryPage(await this.assets.files(), pageState(baseOf(request), gate.gallery, shown, forms, now)),
    );
  }

  private async door(request: Request, { gallery, link }: Gate, problem: ArkivError | null): Promise<string> {
    const asks = { asksName: link.name === '', asksCode: link.codeHash !== null, forWhom: link.name };
    return doorPage(await this.assets.files(), baseOf(request), gallery.title, asks, problem?.body() ?? null);
  }

  private async enter(request: Request, response: Response): Promise<void> {
    const gate = await this.doors.gate(textOf(request.params.token));
    const { code, name } = (request.body ?? {}) as Record<string, unknown>;
    try {
      const held = await this.doors.enter(gate, textOf(code), textOf(name), request.ip ?? '');
      response.cookie(cookieOf(gate), held, {
        ...{ httpOnly: true, sameSite: 'lax', secure: request.secure, path: baseOf(request) },
        maxAge: 30 * 24 * 60 * MINUTE,
      });
      response.redirect(303, baseOf(request));
    } catch (error) {
      if (!(error instanceof ArkivError)) throw error;
      html(response.status(error.status), await this.door(request, gate, error));
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

  private asset(response: Response, name: 'gallery.css' | 'gallery.js'): void {
    response.setHeader('cache-control', `public, max-age=${MONTH}, immutable`);
    response.sendFile(this.assets.place(name), { cacheControl: false }, (error) => {
      if (error && !response.headersSent) response.status(404).end();
    });
  }

  /** Tells nothing of the archive but what clients are told; whatever else went wrong is said as such. */
  private async refuse(error: unknown, request: Request, response: Response): Promise<void> {
    if (response.headersSent) return void response.destroy();
    const shown = shownToClients(error);
    response.status(shown.status).setHeader('cache-control', 'no-store');
    if (request.accepts(['json', 'html']) === 'html')
      html(
        response,
        problemPage(await this.assets.files().catch(() => ({ script: '', style: '' })), shown.body()),
      );
    else response.json(shown.body());
  }
}

const TYPES = { jpg: 'image/jpeg', webp: 'image/webp' } satisfies Record<(typeof SIZES)[GallerySize], string>;
/** Pictures and zips are packed already, and a stream must not wait for a block to fill. */
const TEXTS = /^(text\/(html|css|javascript)|application\/json)/;
const MONTH = 30 * 24 * 60 * 60;

/** Errors that say something to a client; anything else would tell of the archive. */
function shownToClients(error: unknown): ArkivError {
  if (error instanceof ArkivError && /^(gallery|access\.slow)/.test(error.code)) return error;
  if (error instanceof ArkivError && error.code === 'request.invalid') return error;
  const { status, type } = error as { status?: number; type?: string };
  if (typeof type === 'string' && status !== undefined && status < 500)
    return new ArkivError('request.invalid', { reason: 'it cannot be read' });
  return new ArkivError('gallery.away', { name: 'this gallery' });
}

const tooMuch = (_: Request, __: Response, next: NextFunction): void =>
  next(new ArkivError('gallery.much', {}));

const isTooMuch = (error: unknown): boolean => error instanceof ArkivError && error.code === 'gallery.much';

const headers = (secure: boolean) => {
  const all = helmet({
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'none'"],
        ...{
          imgSrc: ["'self'", 'data:'],
          styleSrc: ["'self'"],
          scriptSrc: ["'self'"],
          connectSrc: ["'self'"],
        },
        ...{ formAction: ["'self'"], frameAncestors: ["'none'"], baseUri: ["'none'"] },
      },
    },
    strictTransportSecurity: secure,
    // Other sites learn nothing of the address; our own forms still say where they come from, which “no-referrer” would hide.
    referrerPolicy: { policy: 'same-origin' },
  });
  return (request: Request, response: Response, next: NextFunction): void => {
    response.setHeader('x-robots-tag', 'noindex, nofollow');
    all(request, response, next);
  };
};

const textOf = (value: unknown): string => (typeof value === 'string' ? value : '');
const baseOf = ({ params }: Request): string => `/g/${textOf(params.token)}`;
const cookieOf = ({ link }: Gate): string => `gallery_${link.id}`;

function heldBy({ headers: { cookie = '' } }: Request, gate: Gate): string | null {
  for (const part of cookie.split(';')) {
    const [name, value] = part.trim().split('=');
    if (name === cookieOf(gate) && value) return value;
  }
  return null;
}

function html(response: Response, text: string): void {
  response.setHeader('cache-control', 'no-store');
  response.type('html').send(text);
}

const sendFile = (response: Response, file: string, with_: Record<string, string>): Promise<void> =>
  new Promise((resolve, reject) =>
    response.sendFile(file, { dotfiles: 'allow', cacheControl: false, headers: with_ }, (error) => {
      // Whoever scrolled on has closed it.
      if (!error || response.headersSent) resolve();
      else reject(error);
    }),
  );

import { Injectable } from '@nestjs/common';
import { ArkivError } from '@arkiv/core';
import compression from 'compression';
import express, { type Express, type NextFunction, type Request, type Response } from 'express';
import { ipKeyGenerator, rateLimit } from 'express-rate-limit';
import helmet from 'helmet';
import { ArkivConfig } from '../config/config';
import { sendPage } from './answers';
import { ownVisitors } from './outsideHosts';
import { PageAssets } from './pageAssets';
import { problemPage } from './page';

const MINUTE = 60_000;
/** Answers in a minute to one address: whoever scrolls through 800 pictures and looks at each takes 1,600; two at one address. */
const MOST_ANSWERS = 4000;
/** Answers of “no” in a minute to one address, to whom is not known: nobody mistypes a link so often; who guesses has nothing from more. */
const MOST_REFUSALS = 40;
/** Bytes of what somebody says. */
export const MOST_BODY = '16kb';
const MONTH = 30 * 24 * 60 * 60;
/** Pictures and zips are packed already, and a stream must not wait for a block to fill. */
const TEXTS = /^(text\/(html|css|javascript)|application\/json)/;

/** Something that people outside reach: it puts its own addresses into the application. */
export interface OutsidePart {
  /** where its addresses begin: `/g` */
  readonly under: string;
  /** answers in a minute to one network address; as for all where it says nothing */
  readonly mostAnswers?: number;
  /** codes of its errors that are told as they are; others would tell of the archive */
  readonly told: RegExp;
  mount(app: Express): void;
  /** Ends what would keep the server from stopping. */
  close?(): void;
}

/** What people outside reach: galleries and what they were given a link for, and nothing else of the archive. */
@Injectable()
export class OutsideApp {
  private readonly parts: OutsidePart[] = [];

  constructor(
    private readonly config: ArkivConfig,
    private readonly assets: PageAssets,
  ) {}

  /** Called while modules are made, before it is listened to. */
  add(part: OutsidePart): void {
    this.parts.push(part);
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
    app.use(
      rateLimit({
        ...limited,
        keyGenerator,
        limit: (asked) => this.partOf(asked)?.mostAnswers ?? MOST_ANSWERS,
      }),
    );
    // Counted when they are given: what is still asked for is no refusal, and browsers ask for a hundred pictures at once.
    app.use((request: Request, response: Response, next: NextFunction) => {
      void Promise.resolve(refusals.getKey(keyGenerator(request))).then(
        (had) => ((had?.totalHits ?? 0) >= MOST_REFUSALS ? tooMuch(request, response, next) : next()),
        next,
      );
    });
    app.use(compression({ filter: (_, response) => TEXTS.test(String(response.getHeader('content-type'))) }));
    app.get('/robots.txt', (_, response) => void response.type('text').send('User-agent: *\nDisallow: /\n'));
    for (const name of this.assets.names) app.get(`/${name}`, (_, response) => this.asset(response, name));
    for (const part of this.parts) part.mount(app);
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

  close(): void {
    for (const part of this.parts) part.close?.();
  }

  private partOf({ path }: Request): OutsidePart | undefined {
    return this.parts.find(({ under }) => path.startsWith(`${under}/`));
  }

  private asset(response: Response, name: string): void {
    response.setHeader('cache-control', `public, max-age=${MONTH}, immutable`);
    response.sendFile(this.assets.place(name), { cacheControl: false }, (error) => {
      if (error && !response.headersSent) response.status(404).end();
    });
  }

  /** Tells nothing of the archive but what people outside are told; whatever else went wrong is said as such. */
  private async refuse(error: unknown, request: Request, response: Response): Promise<void> {
    if (response.headersSent) return void response.destroy();
    const shown = shownOutside(error, this.partOf(request));
    response.status(shown.status).setHeader('cache-control', 'no-store');
    if (request.accepts(['json', 'html']) === 'html')
      sendPage(response, problemPage(await this.assets.files(), shown.body()));
    else response.json(shown.body());
  }
}

/** Errors that say something to people outside; anything else would tell of the archive. */
function shownOutside(error: unknown, part: OutsidePart | undefined): ArkivError {
  if (error instanceof ArkivError && (ALWAYS.test(error.code) || part?.told.test(error.code))) return error;
  const { status, type } = error as { status?: number; type?: string };
  if (typeof type === 'string' && status !== undefined && status < 500)
    return new ArkivError('request.invalid', { reason: 'it cannot be read' });
  return new ArkivError('gallery.away', { name: 'this page' });
}
const ALWAYS = /^(gallery\.(none|much)|access\.slow|request\.invalid)$/;

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
          workerSrc: ["'self'"],
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

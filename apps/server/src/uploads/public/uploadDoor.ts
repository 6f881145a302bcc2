import { Injectable } from '@nestjs/common';
import { ArkivError, guestName } from '@arkiv/core';
import express, { type Express, type NextFunction, type Request, type Response } from 'express';
import { SecretBox } from '../../access/secretBox';
import { cookieOf, sendPage, textOf } from '../../outside/answers';
import { doorPage } from '../../outside/page';
import { MOST_BODY, OutsideApp, type OutsidePart } from '../../outside/outsideApp';
import { PageAssets } from '../../outside/pageAssets';
import { SecretLinks } from '../../outside/secretLinks';
import { SettingsService } from '../../settings/settings.service';
import { Clock } from '../../system/clock';
import { Turns } from '../../system/turns';
import type { UploadLink } from '../uploadLink.entity';
import { UploadLinksService } from '../uploadLinks.service';
import { UploadsService, type UploadNow } from '../uploads.service';
import { UploadStreams } from '../uploadStreams';
import { sendingPage, type SendingNow } from './uploadPage';

/** How long a browser need not ask again: two weeks are what a link is open by itself. */
const STAY = 14 * 24 * 60 * 60 * 1000;
/** Where files go, by the tus protocol: the link's token, and which file. */
const STREAMS = /^\/u\/([^/]+)\/streams(?:\/[^/]+)?$/;
const WORDS = { why: 'So that it is known whose pictures are whose.', deed: 'Send pictures' };

/** Somebody who came in by a link. */
interface Guest {
  link: UploadLink;
  by: string;
}

/** Sending pictures by a link, as people outside reach it. */
@Injectable()
export class UploadDoor implements OutsidePart {
  readonly under = '/u';
  /** Each file takes three answers at least, and a fast line brings ten a second; several may share an address. */
  readonly mostAnswers = 12_000;
  readonly told = /^(upload\.|path\.outside|file\.exists)/;
  private readonly turns = new Turns(() => undefined);

  constructor(
    private readonly links: UploadLinksService,
    private readonly uploads: UploadsService,
    private readonly streams: UploadStreams,
    private readonly secrets: SecretLinks,
    private readonly box: SecretBox,
    private readonly settings: SettingsService,
    private readonly assets: PageAssets,
    private readonly clock: Clock,
    outside: OutsideApp,
  ) {
    outside.add(this);
  }

  mount(app: Express): void {
    app.get('/u/:token', (request, response, next) => void this.show(request, response).catch(next));
    app.post(
      '/u/:token/in',
      express.urlencoded({ extended: false, limit: MOST_BODY }),
      (request, response, next) => void this.enter(request, response).catch(next),
    );
    const guest =
      (answer: (guest: Guest, request: Request, response: Response) => Promise<void>) =>
      (request: Request, response: Response, next: NextFunction): void =>
        void this.guestOf(request, textOf(request.params.token ?? request.params[0]))
          .then((its) => {
            response.locals.isGuest = true;
            return answer(its, request, response);
          })
          .catch(next);
    app.get(
      '/u/:token/state',
      guest(async (its, _, response) => void response.json(await this.now(its))),
    );
    app.get(
      '/u/:token/files',
      guest(async (its, _, response) => {
        const upload = await this.uploads.openBy(its.link.id, its.by);
        response.json(upload ? await this.uploads.whole(upload.id) : []);
      }),
    );
    app.post(
      '/u/:token/begin',
      guest((its, _, response) =>
        this.oneAfterAnother(its.link, async () => {
          const open = await this.uploads.openBy(its.link.id, its.by);
          response.json({ id: open?.id ?? (await this.begin(its)).id });
        }),
      ),
    );
    app.all(
      STREAMS,
      guest((its, request, response) => this.stream(its, request, response)),
    );
    app.post(
      '/u/:token/files/:file',
      express.json({ limit: MOST_BODY }),
      guest(async (its, request, response) => {
        const upload = await this.mustBeOpen(its);
        const sum = textOf((request.body as { sha256?: unknown } | undefined)?.sha256);
        if (!/^[0-9a-f]{64}$/.test(sum)) throw new ArkivError('request.invalid', { reason: 'sha256' });
        const file = textOf(request.params.file);
        response.json(await this.uploads.finish(upload.id, file, sum).catch(asNothing));
      }),
    );
    app.post(
      '/u/:token/done',
      guest(async (its, _, response) => {
        await this.uploads.close((await this.mustBeOpen(its)).id);
        response.json(await this.now(its));
      }),
    );
    app.get(
      '/u/:token/receipt/:upload',
      guest((its, request, response) => this.receipt(its, request, response)),
    );
  }

  private async show(request: Request, response: Response): Promise<void> {
    const link = await this.links.gate(textOf(request.params.token));
    const by = await this.heldBy(request, link);
    if (by === null) return void sendPage(response, await this.door(request, link, null));
    const files = await this.assets.files();
    const { studio } = await this.settings.all();
    const { title, until } = link;
    const now = await this.now({ link, by });
    sendPage(
      response,
      sendingPage(files, { base: baseOf(request), hash: files.hash, title, studio, me: by, until, now }),
    );
  }

  private async door(request: Request, link: UploadLink, problem: ArkivError | null): Promise<string> {
    const { title, name, codeHash } = link;
    const asks = { asksName: name === '', asksCode: codeHash !== null, forWhom: name };
    const files = await this.assets.files();
    return doorPage(files, baseOf(request), title, asks, WORDS, problem?.body() ?? null);
  }

  private async enter(request: Request, response: Response): Promise<void> {
    const link = await this.links.gate(textOf(request.params.token));
    const { code, name } = (request.body ?? {}) as Record<string, unknown>;
    try {
      if (!(await this.secrets.isCode(link, textOf(code), request.ip ?? '')))
        throw new ArkivError('upload.code', {});
      const held = { by: guestName(link.name, textOf(name)), until: this.clock.now() + STAY };
      // What a browser holds says it by itself: nobody but this archive can write it, and it is for this link alone.
      const locked = await this.box.lock(held, aboutOf(link));
      response.cookie(cookieNameOf(link), Buffer.from(locked, 'base64').toString('base64url'), {
        ...{ httpOnly: true, sameSite: 'lax', secure: request.secure, path: baseOf(request), maxAge: STAY },
      });
      response.redirect(303, baseOf(request));
    } catch (error) {
      if (!(error instanceof ArkivError)) throw error;
      sendPage(response.status(error.status), await this.door(request, link, error));
    }
  }

  private async guestOf(request: Request, token: string): Promise<Guest> {
    const link = await this.links.gate(token);
    const by = await this.heldBy(request, link);
    if (by === null) throw new ArkivError('upload.enter', {});
    return { link, by };
  }

  /** Whose browser it is; null: nobody's who came in by this link, or too long ago. */
  private async heldBy(request: Request, link: UploadLink): Promise<string | null> {
    const held = cookieOf(request, cookieNameOf(link));
    if (held === null) return null;
    const locked = Buffer.from(held, 'base64url').toString('base64');
    const open = await this.box.unlock(locked, aboutOf(link), link.title).catch(() => null);
    const { by, until } = (open ?? {}) as { by?: string; until?: number };
    return by !== undefined && until !== undefined && until > this.clock.now() ? by : null;
  }

  private async now({ link, by }: Guest): Promise<SendingNow> {
    const own = await this.uploads.by(link.id, by);
    const shown = ({ id, files, bytes }: UploadNow) => ({ id, files, bytes });
    const open = own.find(({ readerId }) => readerId === null);
    return {
      left: await this.links.left(link),
      upload: open ? shown(open) : null,
      sent: own.filter(({ readerId }) => readerId !== null).map(shown),
    };
  }

  private async mustBeOpen({ link, by }: Guest): Promise<{ id: string }> {
    const open = await this.uploads.openBy(link.id, by);
    if (!open) throw new ArkivError('upload.over', { upload: link.title });
    return open;
  }

  private begin({ link, by }: Guest): Promise<UploadNow> {
    return this.uploads.begin(`${link.title}: ${by}`, { id: link.id, by });
  }

  /** What is counted before it comes is counted together with what comes beside it. */
  private oneAfterAnother(link: UploadLink, work: () => Promise<void>): Promise<void> {
    return this.turns.take(link.id, work);
  }

  private async stream(its: Guest, request: Request, response: Response): Promise<void> {
    const { id: uploadId } = await this.mustBeOpen(its);
    const sender = {
      ...{ uploadId, at: `${baseFor(textOf(request.params[0]))}/streams` },
      admit: (file: string, size: number) => this.links.admit(its.link, file, size),
    };
    const pass = () => this.streams.handle(request, response, sender);
    return request.method === 'POST' ? this.oneAfterAnother(its.link, pass) : pass();
  }

  /** What has come, with its checksums, in the format that every system's own tools check (`sha256sum -c`). */
  private async receipt({ link, by }: Guest, { params }: Request, response: Response): Promise<void> {
    const upload = (await this.uploads.by(link.id, by)).find(({ id }) => id === params.upload);
    if (!upload) throw new ArkivError('gallery.none', {});
    const lines = (await this.uploads.whole(upload.id)).map(({ sha256, path }) => `${sha256}  ${path}\n`);
    response.attachment('sent.sha256').setHeader('cache-control', 'private, no-store');
    response.type('text/plain').send(lines.join(''));
  }
}

/** What is not there of what somebody outside asks for is nothing to them, whatever it is here. */
function asNothing(error: unknown): never {
  throw error instanceof ArkivError && error.code === 'not-found'
    ? new ArkivError('gallery.none', {})
    : error;
}

const baseFor = (token: string): string => `/u/${token}`;
const baseOf = ({ params }: Request): string => baseFor(textOf(params.token));
const cookieNameOf = ({ id }: UploadLink): string => `upload_${id}`;
const aboutOf = ({ id }: UploadLink): string => `who sends by ${id}`;

import path from 'node:path';
import { ValidationPipe } from '@nestjs/common';
import type { NestExpressApplication } from '@nestjs/platform-express';
import { DocumentBuilder, SwaggerModule, type OpenAPIObject } from '@nestjs/swagger';
import { json, type NextFunction, type Request, type Response } from 'express';
import compression from 'compression';
import helmet from 'helmet';
import { Access } from './access/access.service';
import { signedIn } from './access/session';
import { isLoopback, type ArkivConfig } from './config/config';
import { EventsService } from './events/events.service';
import { ErrorFilter } from './system/errorFilter';
import { STREAMS, UploadStreams } from './uploads/uploadStreams';
import { ownPages } from './system/ownPages';

/** Everything around the modules: guards, checks, the built interface. The same for the server and its tests. */
export function setUp(app: NestExpressApplication, config: ArkivConfig): void {
  app.disable('x-powered-by');
  // A vocabulary comes as one text; as SKOS it is some two hundred bytes a term.
  for (const texts of ['/api/vocabulary/terms', '/api/albums/texts'])
    app.use(texts, signedIn(app.get(Access)), json({ limit: '32mb' }));
  app.useBodyParser('json', { limit: '4mb' });
  app.use(ownPages(config.host, !isLoopback(config.host)));
  app.use('/api', signedIn(app.get(Access)));
  const streams = app.get(UploadStreams);
  app.use(STREAMS, (request: Request, response: Response, next: NextFunction) => {
    // The protocol's server looks at the whole address.
    request.url = request.originalUrl;
    streams.handle(request, response).catch(next);
  });
  // Each answer names the newest event it can hold, so that a window knows what it missed before its stream began.
  const events = app.get(EventsService);
  app.use('/api', (_: Request, response: Response, next: NextFunction) => {
    response.setHeader('x-arkiv-event', events.latestId);
    next();
  });
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          defaultSrc: ["'self'"],
          imgSrc: ["'self'", 'data:', 'blob:'],
          // The interface's styles are made at run time and put into the page.
          styleSrc: ["'self'", "'unsafe-inline'"],
          scriptSrc: ["'self'"],
          workerSrc: ["'self'"],
          connectSrc: ["'self'"],
          fontSrc: ["'self'"],
          objectSrc: ["'none'"],
          frameAncestors: ["'none'"],
          upgradeInsecureRequests: null,
        },
      },
      // Arkiv is served over plain HTTP on the loopback address.
      strictTransportSecurity: false,
    }),
  );
  // Only JSON: pictures are packed already, and the event stream must not wait for a block to fill.
  // The lowest level: four fifths of what the highest saves, in a fifth of the time. Most windows are on this machine.
  app.use(
    compression({
      level: 1,
      filter: (_, response) => /json/.test(String(response.getHeader('content-type'))),
    }),
  );
  app.useGlobalFilters(new ErrorFilter());
  app.useGlobalPipes(new ValidationPipe({ transform: true, whitelist: true, forbidNonWhitelisted: true }));
  app.enableShutdownHooks();
  if (config.webDir) serveInterface(app, path.resolve(config.webDir));
}

/** The screen that shows a whole shoot: its frames are on their way while the browser still reads the program. */
const CULL = /^\/shoots\/([0-9A-Z]{26})\/cull$/;

function serveInterface(app: NestExpressApplication, root: string): void {
  app.useStaticAssets(root, {
    setHeaders: (response, file) => {
      const hashed = file.includes(`${path.sep}assets${path.sep}`);
      response.setHeader('Cache-Control', hashed ? 'public, max-age=31536000, immutable' : 'no-cache');
    },
  });
  // Every address that is no file and no API is a screen.
  app.use((request: Request, response: Response, next: NextFunction) => {
    if (request.method !== 'GET' || request.path.startsWith('/api') || request.path.startsWith('/assets'))
      return next();
    response.setHeader('Cache-Control', 'no-cache');
    const [, shoot] = CULL.exec(request.path) ?? [];
    if (shoot)
      response.setHeader('Link', `</api/shoots/${shoot}/frames>; rel=preload; as=fetch; crossorigin`);
    response.sendFile(path.join(root, 'index.html'), { dotfiles: 'allow' });
  });
}

export function openApi(app: NestExpressApplication): OpenAPIObject {
  const builder = new DocumentBuilder().setTitle('Arkiv').setVersion('1').build();
  return SwaggerModule.createDocument(app, builder, {
    operationIdFactory: (controller, method) => `${controller.replace('Controller', '')}_${method}`,
  });
}

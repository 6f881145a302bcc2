import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import path from 'node:path';
import { CHUNK } from '../../disk/verifiedCopy';
import { diskErrorCode, type Disk } from '../../disk/disk';
import { discard } from '../../disk/place';
import { Cut, FaultyIntake, Full, STAND_IN_PASSWORD, STAND_IN_USER } from './serverFaults';

/** A small WebDAV server (RFC 4918, class 1, without locks) over a folder, on the loopback address alone. */
export class WebdavStandIn {
  readonly intake = new FaultyIntake();
  private readonly server: Server;

  constructor(
    private readonly disk: Disk,
    private readonly root: string,
  ) {
    this.server = createServer((request, response) => {
      const { socket } = request;
      this.answer(request, response).catch((error: unknown) => {
        if (error instanceof Cut) return socket.destroy();
        const status = error instanceof Full ? 507 : diskErrorCode(error) === 'ENOENT' ? 404 : 500;
        if (response.headersSent) return socket.destroy();
        request.resume();
        response.writeHead(status, { connection: 'close' }).end();
      });
    });
  }

  listen(port: number): Promise<number> {
    return new Promise((resolve, reject) => {
      this.server.once('error', reject);
      this.server.listen(port, '127.0.0.1', () => resolve((this.server.address() as AddressInfo).port));
    });
  }

  close(): void {
    this.server.closeAllConnections();
    this.server.close();
  }

  private async answer(request: IncomingMessage, response: ServerResponse): Promise<void> {
    const given = `Basic ${Buffer.from(`${STAND_IN_USER}:${STAND_IN_PASSWORD}`).toString('base64')}`;
    if (this.intake.faults.refuses || request.headers.authorization !== given) {
      request.resume();
      return void response.writeHead(401, { 'www-authenticate': 'Basic realm="stand-in"' }).end();
    }
    const at = this.at(request.url ?? '/');
    if (at === null) return void response.writeHead(400).end();
    switch (request.method) {
      case 'OPTIONS':
        return void response
          .writeHead(200, { dav: '1', allow: 'PROPFIND, GET, PUT, MKCOL, MOVE, DELETE' })
          .end();
      case 'PROPFIND':
        return this.describe(request, response, at);
      case 'GET':
        return this.read(response, at);
      case 'PUT':
        return this.write(request, response, at);
      case 'MKCOL':
        if (await this.disk.facts(at)) return void response.writeHead(405).end();
        if (!(await this.disk.facts(path.dirname(at)))) return void response.writeHead(409).end();
        await this.disk.makeFolders(at);
        return void response.writeHead(201).end();
      case 'MOVE':
        return this.move(request, response, at);
      case 'DELETE':
        await this.disk.unlink(at);
        return void response.writeHead(204).end();
      default:
        return void response.writeHead(405).end();
    }
  }

  private async describe(request: IncomingMessage, response: ServerResponse, at: string): Promise<void> {
    request.resume();
    const facts = await this.disk.facts(at);
    if (!facts) return void response.writeHead(404).end();
    const kind = facts.kind === 'folder' ? '<d:collection/>' : '';
    const body = `<?xml version="1.0" encoding="utf-8"?><d:multistatus xmlns:d="DAV:"><d:response><d:href>${(
      request.url ?? '/'
    )
      .replace(/&/g, '&amp;')
      .replace(
        /</g,
        '&lt;',
      )}</d:href><d:propstat><d:prop><d:resourcetype>${kind}</d:resourcetype><d:getcontentlength>${facts.size}</d:getcontentlength><d:getlastmodified>${new Date(
      facts.mtimeMillis,
    ).toUTCString()}</d:getlastmodified></d:prop><d:status>HTTP/1.1 200 OK</d:status></d:propstat></d:response></d:multistatus>`;
    response.writeHead(207, { 'content-type': 'application/xml; charset=utf-8' }).end(body);
  }

  private async read(response: ServerResponse, at: string): Promise<void> {
    const facts = await this.disk.facts(at);
    if (facts?.kind !== 'file') return void response.writeHead(404).end();
    response.writeHead(200, { 'content-length': facts.size });
    for (let from = 0; from < facts.size; from += CHUNK)
      response.write(await this.disk.readPart(at, from, Math.min(CHUNK, facts.size - from)));
    response.end();
  }

  private async write(request: IncomingMessage, response: ServerResponse, at: string): Promise<void> {
    if (!(await this.disk.facts(path.dirname(at)))) {
      request.resume();
      return void response.writeHead(409).end();
    }
    await discard(this.disk, at);
    const file = await this.disk.createNew(at);
    let size = 0;
    try {
      // What is left of a request that is turned away is still heard, or nobody would hear the answer.
      for await (const bytes of request.iterator({ destroyOnReturn: false }) as AsyncIterable<Buffer>) {
        await file.write(await this.intake.take(bytes), size);
        size += bytes.length;
      }
    } finally {
      await file.close();
    }
    response.writeHead(201).end();
  }

  private async move(request: IncomingMessage, response: ServerResponse, at: string): Promise<void> {
    const to = this.at(new URL(String(request.headers.destination)).pathname);
    if (to === null) return void response.writeHead(400).end();
    if (request.headers.overwrite === 'F' && (await this.disk.facts(to)))
      return void response.writeHead(412).end();
    await this.disk.rename(at, to);
    response.writeHead(201).end();
  }

  /** Null: it would leave the folder. */
  private at(url: string): string | null {
    const parts = decodeURIComponent(url.split('?')[0]!).split('/').filter(Boolean);
    return parts.some((part) => part === '..' || part.includes('\0')) ? null : path.join(this.root, ...parts);
  }
}

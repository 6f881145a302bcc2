import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { request } from 'node:http';
import os from 'node:os';
import path from 'node:path';
import { NodeDisk } from '../../disk/nodeDisk';
import { WebdavStandIn } from './webdavStandIn';

describe('the simulated WebDAV server', () => {
  let folder: string;
  let server: WebdavStandIn;
  let port: number;
  beforeEach(async () => {
    folder = mkdtempSync(path.join(os.tmpdir(), 'arkiv-dav-'));
    mkdirSync(path.join(folder, 'home'));
    writeFileSync(path.join(folder, 'secret'), 'not to be had');
    server = new WebdavStandIn(new NodeDisk(), path.join(folder, 'home'));
    port = await server.listen(0);
  });
  afterEach(() => {
    server.close();
    rmSync(folder, { recursive: true });
  });

  /** As it stands: a client that tidies addresses up would ask for something else. */
  const ask = (method: string, at: string, { body = '', headers = {}, password = 'stand-in' } = {}) =>
    new Promise<{ status: number; text: string }>((resolve, reject) => {
      const auth = `studio:${password}`;
      const sent = request({ host: '127.0.0.1', port, method, path: at, auth, headers }, (response) => {
        let text = '';
        response.on('data', (part) => (text += String(part)));
        response.on('end', () => resolve({ status: response.statusCode!, text }));
      });
      sent.on('error', reject);
      sent.end(body);
    });
  const at = (file: string) => path.join(folder, 'home', file);

  it('takes files in and gives them out, in folders that are there', async () => {
    expect((await ask('PUT', '/no/a.txt', { body: 'x' })).status).toBe(409);
    expect((await ask('MKCOL', '/set')).status).toBe(201);
    expect((await ask('MKCOL', '/set')).status).toBe(405);
    expect((await ask('PUT', '/set/a%20b.txt', { body: 'hello' })).status).toBe(201);
    expect(readFileSync(at('set/a b.txt'), 'utf8')).toBe('hello');
    expect((await ask('GET', '/set/a%20b.txt')).text).toBe('hello');
    const found = await ask('PROPFIND', '/set/a%20b.txt');
    expect([found.status, found.text]).toEqual([207, expect.stringContaining('<d:getcontentlength>5<')]);
    expect((await ask('PROPFIND', '/nothing')).status).toBe(404);
  });

  it('gives a file another name, and never one that is taken where that is not wanted', async () => {
    writeFileSync(at('a'), 'a');
    writeFileSync(at('b'), 'b');
    const destination = `http://127.0.0.1:${port}/b`;
    expect((await ask('MOVE', '/a', { headers: { destination, overwrite: 'F' } })).status).toBe(412);
    expect(readFileSync(at('b'), 'utf8')).toBe('b');
    expect((await ask('DELETE', '/b')).status).toBe(204);
    expect((await ask('MOVE', '/a', { headers: { destination, overwrite: 'F' } })).status).toBe(201);
    expect(readFileSync(at('b'), 'utf8')).toBe('a');
  });

  it('lets nobody in without the password, and nobody out of its folder', async () => {
    expect((await ask('GET', '/', { password: 'guess' })).status).toBe(401);
    for (const way of ['/../secret', '/%2e%2e/secret', '/..%2fsecret', '/set/../../secret']) {
      const { status, text } = await ask('GET', way);
      expect([way, [400, 404].includes(status), text.includes('not to be had')]).toEqual([way, true, false]);
    }
  });
});

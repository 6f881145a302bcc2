import { mkdirSync } from 'node:fs';
import http from 'node:http';
import path from 'node:path';
import { EventsService } from '../src/events/events.service';
import { removeFolder, startArkiv, temporaryFolder, type TestArkiv } from './testArkiv';

describe('the server’s door', () => {
  let arkiv: TestArkiv;
  let data: string;

  beforeAll(async () => {
    data = temporaryFolder();
    arkiv = await startArkiv(data);
  });
  afterAll(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  /** A request with headers that fetch would not let us set. */
  const raw = (method: string, where: string, headers: Record<string, string>) =>
    new Promise<number>((resolve, reject) => {
      const { port } = new URL(arkiv.base);
      const request = http.request({ port, host: '127.0.0.1', method, path: where, headers }, (response) => {
        response.resume();
        resolve(response.statusCode ?? 0);
      });
      request.on('error', reject);
      request.end();
    });

  it('refuses other hosts, other origins and changes without our header', async () => {
    expect(await raw('GET', '/api/health', { host: 'evil.example' })).toBe(403);
    expect(await raw('GET', '/api/health', { host: 'localhost:1' })).toBe(200);
    expect(await raw('POST', '/api/readers/slot-1/eject', {})).toBe(403);
    expect(
      await raw('POST', '/api/readers/slot-1/eject', { 'x-arkiv': '1', origin: 'http://evil.example' }),
    ).toBe(403);
    expect(await raw('POST', '/api/readers/slot-1/eject', { 'x-arkiv': '1' })).toBe(204);
  });

  it('answers every failure with code, message and next step', async () => {
    expect(await arkiv.ask('GET', '/shoots/none')).toMatchObject({
      status: 404,
      body: { code: 'not-found', next: expect.any(String) as string },
    });
    expect(await arkiv.ask('GET', '/nowhere')).toMatchObject({ status: 404, body: { code: 'not-found' } });
    expect(await arkiv.ask('POST', '/marks', { operations: [{ id: 'x' }] })).toMatchObject({
      status: 400,
      body: { code: 'request.invalid' },
    });
    expect(
      await arkiv.ask('PATCH', '/settings', {
        rules: { keeper: { field: 'nope', is: 1 }, reject: { all: [] } },
      }),
    ).toMatchObject({ status: 400 });
    expect(await arkiv.ask('PATCH', '/settings', { unknown: 1 })).toMatchObject({ status: 400 });
  });

  it('keeps no name pattern by which nothing can be named', async () => {
    const refused = await arkiv.ask<{ message: string }>('PATCH', '/settings', {
      pattern: '{shoot}_{nobody}',
    });
    expect([refused.status, refused.body.message]).toEqual([400, expect.stringContaining('“nobody”')]);
    expect((await arkiv.ask('PATCH', '/settings', { pattern: '{shoot}-{number:3}' })).status).toBe(200);
    expect(await arkiv.get('/settings')).toMatchObject({ pattern: '{shoot}-{number:3}' });
  });

  it('lets nobody name a path on this machine but where a volume is added', async () => {
    expect(
      await arkiv.ask('POST', '/volumes', { root: 'relative', name: 'x', role: 'backup' }),
    ).toMatchObject({ status: 400, body: { code: 'volume.folder' } });
    expect(
      await arkiv.ask('POST', '/volumes', { root: '/no/such/folder', name: 'x', role: 'backup' }),
    ).toMatchObject({ status: 400, body: { code: 'volume.folder' } });
    expect(JSON.stringify(await arkiv.get('/volumes'))).not.toContain(data);
  });

  it('knows a volume again under another path, and refuses two with one id', async () => {
    const { mkdirSync: make, cpSync, renameSync } = await import('node:fs');
    const drive = path.join(data, 'drive');
    make(drive);
    const added = await arkiv.post<{ id: string }>('/volumes', {
      root: drive,
      name: 'Travel',
      role: 'backup',
    });
    cpSync(drive, path.join(data, 'twin'), { recursive: true });
    expect(
      await arkiv.ask('POST', '/volumes', { root: path.join(data, 'twin'), name: 'Twin', role: 'backup' }),
    ).toMatchObject({ status: 409, body: { code: 'volume.duplicate' } });
    renameSync(drive, path.join(data, 'elsewhere'));
    mkdirSync(drive);
    expect(
      (await arkiv.get<{ id: string; online: boolean }[]>('/volumes')).find((v) => v.id === added.id)!.online,
    ).toBe(false);
    const again = await arkiv.post<{ id: string }>('/volumes', {
      root: path.join(data, 'elsewhere'),
      name: 'Travel',
      role: 'backup',
    });
    expect(again.id).toBe(added.id);
  });

  it('names in each answer the newest event that it can hold', async () => {
    const events = arkiv.app.get(EventsService);
    const newest = async () =>
      (await fetch(`${arkiv.base}/api/volumes`, { headers: { 'x-arkiv': '1' } })).headers.get(
        'x-arkiv-event',
      );
    expect(await newest()).toBe(events.latestId);
    const before = events.latestId;
    events.publish('readers', {});
    expect(await newest()).toBe(events.latestId);
    expect(events.latestId).not.toBe(before);
  });

  it('gives a window that comes back what it missed, and says reset when that is gone', async () => {
    const events = arkiv.app.get(EventsService);
    const before = events.latestId;
    events.publish('readers', { n: 1 });
    events.publish('readers', { n: 2 });
    expect(events.since(before)!.map((e) => e.data)).toEqual([{ n: 1 }, { n: 2 }]);
    expect(events.since('01J-5')).toBeNull();
    for (let i = 0; i < 2100; i++) events.publish('readers', {});
    expect(events.since(before)).toBeNull();
    const controller = new AbortController();
    const stream = await fetch(`${arkiv.base}/api/events`, {
      headers: { 'last-event-id': before },
      signal: controller.signal,
    });
    const { value } = await stream.body!.getReader().read();
    expect(new TextDecoder().decode(value)).toContain('event: reset');
    controller.abort();
  });
});

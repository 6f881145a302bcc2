import type { ChildProcess } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, linkSync, readFileSync, readdirSync, renameSync, statSync } from 'node:fs';
import path from 'node:path';
import { ended, startServer } from './serverProcess';
import {
  dataWithCard,
  cardOf,
  filesBelow,
  outsideManifest,
  removeFolder,
  volumeOf,
  type Client,
} from './testArkiv';

interface Upload {
  id: string;
  name: string;
  readerId: string | null;
  files: number;
  bytes: number;
  coming: { id: string; path: string; size: number; come: number }[];
}
const sha256 = (bytes: Buffer) => createHash('sha256').update(bytes).digest('hex');
const base64 = (text: string) => Buffer.from(text).toString('base64');
const OWN = { 'x-arkiv': '1', 'tus-resumable': '1.0.0' };

describe('files that are uploaded', () => {
  let data: string;
  let server: ChildProcess;
  let client: Client;
  const open = async () => ({ process: server, client } = await startServer(data));
  const stop = async (signal: 'SIGTERM' | 'SIGKILL') => {
    server.kill(signal);
    await ended(server);
  };
  beforeEach(async () => {
    data = dataWithCard({ until: 'OCK_9970' });
    await open();
  });
  afterEach(async () => {
    await stop('SIGTERM');
    removeFolder(data);
  });

  const begin = () => client.post<Upload>('/uploads', { name: 'Second body, café' });
  const now = (id: string) => client.get<Upload>(`/uploads/${id}`);
  /** A new file of the tus protocol; its address, or how it was refused. */
  const create = async (upload: string, name: string, size: number, headers: Record<string, string> = {}) => {
    const metadata = `upload ${base64(upload)},path ${base64(name)}`;
    const answer = await fetch(`${client.base}/api/uploads/streams`, {
      method: 'POST',
      headers: { ...OWN, 'upload-length': String(size), 'upload-metadata': metadata, ...headers },
    });
    return { status: answer.status, url: answer.headers.get('location'), text: await answer.text() };
  };
  const patch = (url: string, bytes: Buffer, from: number) =>
    fetch(new URL(url, client.base), {
      method: 'PATCH',
      headers: { ...OWN, 'upload-offset': String(from), 'content-type': 'application/offset+octet-stream' },
      body: new Uint8Array(bytes),
    });
  const offset = async (url: string) =>
    Number(
      (await fetch(new URL(url, client.base), { method: 'HEAD', headers: OWN })).headers.get('upload-offset'),
    );
  const prove = (upload: string, url: string, sum: string) =>
    client.ask<{ path: string; code: string }>('POST', `/uploads/${upload}/files/${url.split('-').at(-1)}`, {
      sha256: sum,
    });
  const send = async (upload: string, name: string, bytes: Buffer) => {
    const { url } = await create(upload, name, bytes.length);
    await patch(url!, bytes, 0);
    return (await prove(upload, url!, sha256(bytes))).body.path;
  };
  const card = (file: string) => readFileSync(path.join(cardOf(data), 'DCIM/100OCKHM', file));
  const staged = () => filesBelow(path.join(data, 'uploads')).filter((file) => file.includes('/files/'));

  it('go on where they were cut off, after the server was killed too, and are whole only when they are what was sent', async () => {
    const upload = await begin();
    const bytes = card('OCK_9968.DNG');
    const { status, url } = await create(upload.id, 'DCIM/OCK_9968.DNG', bytes.length);
    expect(status).toBe(201);
    const half = bytes.length >> 1;
    expect((await patch(url!, bytes.subarray(0, half), 0)).status).toBe(204);
    await stop('SIGKILL');
    await open();
    expect(await offset(url!)).toBe(half);
    expect((await now(upload.id)).coming).toEqual([
      expect.objectContaining({ path: 'DCIM/OCK_9968.DNG', size: bytes.length, come: half }),
    ]);
    // Nothing is there under its name, and it cannot be called whole.
    expect(staged()).toEqual([]);
    expect(await prove(upload.id, url!, sha256(bytes))).toMatchObject({
      ...{ status: 409, body: { code: 'upload.short' } },
    });
    // From elsewhere than where it ended nothing is taken.
    expect((await patch(url!, bytes.subarray(half), half - 1)).status).toBe(409);
    expect((await patch(url!, bytes.subarray(half), half)).status).toBe(204);
    expect(await prove(upload.id, url!, sha256(bytes))).toMatchObject({
      ...{ status: 200, body: { path: 'DCIM/OCK_9968.DNG' } },
    });
    expect(await now(upload.id)).toMatchObject({ files: 1, bytes: bytes.length, coming: [] });
    const [file] = staged();
    expect(readFileSync(path.join(data, 'uploads', file!)).equals(bytes)).toBe(true);
    // A sender that is not sure is told what is there, and may send it once more.
    expect(await client.get(`/uploads/${upload.id}/files`)).toEqual([
      { path: 'DCIM/OCK_9968.DNG', size: bytes.length, sha256: sha256(bytes) },
    ]);
    expect(await send(upload.id, 'DCIM/OCK_9968.DNG', bytes)).toBe('DCIM/OCK_9968.DNG');
    expect(await now(upload.id)).toMatchObject({ files: 1, coming: [] });
  });

  it('are whole once, also where a stop came after a file had its name and before that was noted', async () => {
    const upload = await begin();
    const folder = path.join(data, 'uploads', upload.id);
    const bytes = card('OCK_9968.JPG');
    const sum = sha256(bytes);
    const sent = async (name: string) => {
      const { url } = await create(upload.id, name, bytes.length);
      await patch(url!, bytes, 0);
      return { url: url!, part: path.join(folder, 'coming', `${url!.split('-').at(-1)}.part`) };
    };
    const under = (name: string) => {
      const [files] = readdirSync(path.join(folder, 'files'));
      return path.join(folder, 'files', files!, name);
    };
    const [linked, moved] = [await sent('A.JPG'), await sent('B.JPG')];
    await stop('SIGKILL');
    linkSync(linked.part, under('A.JPG'));
    // Where the file system knows no links, it is moved.
    renameSync(moved.part, under('B.JPG'));
    await open();
    expect([await offset(linked.url), await offset(moved.url)]).toEqual([bytes.length, 0]);
    expect(await prove(upload.id, linked.url, sum)).toMatchObject({ status: 200, body: { path: 'A.JPG' } });
    expect((await patch(moved.url, bytes, 0)).status).toBe(204);
    expect(await prove(upload.id, moved.url, sum)).toMatchObject({ status: 200, body: { path: 'B.JPG' } });
    expect(staged().map((file) => path.basename(file))).toEqual(['A.JPG', 'B.JPG']);
    expect(await now(upload.id)).toMatchObject({ files: 2, coming: [] });
  });

  it('that came otherwise than they were sent are let go of, and others of one name are both kept', async () => {
    const upload = await begin();
    const bytes = card('OCK_9968.JPG');
    const { url } = await create(upload.id, 'A.JPG', bytes.length);
    const flipped = Buffer.from(bytes);
    flipped[100]! ^= 1;
    await patch(url!, flipped, 0);
    expect(await prove(upload.id, url!, sha256(bytes))).toMatchObject({
      ...{ status: 409, body: { code: 'upload.differs' } },
    });
    expect(staged()).toEqual([]);
    expect((await now(upload.id)).coming).toEqual([]);
    expect(await send(upload.id, 'A.JPG', bytes)).toBe('A.JPG');
    expect(await send(upload.id, 'A.JPG', flipped)).toBe('A (2).JPG');
    expect(staged().map((file) => path.basename(file))).toEqual(['A (2).JPG', 'A.JPG']);
  });

  it('keep the time at which they were written where they come from, and no time that is none', async () => {
    const upload = await begin();
    const bytes = card('OCK_9968.JPG');
    const times = [];
    for (const said of ['1600000000000', '-5', '99999999999999999999', 'yesterday']) {
      const name = `${said}.JPG`;
      const metadata = `upload ${base64(upload.id)},path ${base64(name)},modified ${base64(said)}`;
      const { url } = await create(upload.id, name, bytes.length, { 'upload-metadata': metadata });
      await patch(url!, bytes, 0);
      expect((await prove(upload.id, url!, sha256(bytes))).status).toBe(200);
      const file = staged().find((one) => one.endsWith(name))!;
      times.push(statSync(path.join(data, 'uploads', file)).mtimeMs);
    }
    expect(times[0]).toBe(1_600_000_000_000);
    for (const time of times.slice(1)) expect(time).toBeGreaterThan(1_700_000_000_000);
  });

  it('have no way out of their folder, and nobody else’s page can send any', async () => {
    const upload = await begin();
    for (const name of ['../A.JPG', '/tmp/A.JPG', 'a/../../A.JPG', 'a\\b.JPG', ''])
      expect(await create(upload.id, name, 3)).toMatchObject({
        status: 400,
        text: expect.stringContaining('path.outside'),
      });
    expect((await create('../../x', 'A.JPG', 3)).status).toBe(404);
    expect((await create(upload.id, 'A.JPG', 3, { origin: 'http://elsewhere.example' })).status).toBe(403);
    // It is not told either what it could send.
    const asked = await fetch(`${client.base}/api/uploads/streams`, {
      ...{ method: 'OPTIONS', headers: { origin: 'http://elsewhere.example' } },
    });
    expect(asked.headers.get('access-control-allow-origin')).toBeNull();
    const { url } = await create(upload.id, 'A.JPG', 3);
    // No more comes than was said.
    await patch(url!, Buffer.from('far more than three'), 0);
    expect(await offset(url!)).toBeLessThanOrEqual(3);
    expect(staged()).toEqual([]);
    expect(existsSync(path.join(data, 'A.JPG'))).toBe(false);
  });

  it('are a card when they are all there: taken in with proof, cleared by it, and gone with what was said of them', async () => {
    const upload = await begin();
    const names = readdirSync(path.join(cardOf(data), 'DCIM/100OCKHM'));
    for (const name of names) await send(upload.id, `DCIM/100OCKHM/${name}`, card(name));
    await create(upload.id, 'DCIM/100OCKHM/never.JPG', 1e6);
    const closed = await client.post<Upload>(`/uploads/${upload.id}/close`);
    expect(closed).toMatchObject({ files: names.length, coming: [], readerId: expect.any(String) });
    expect(await client.post(`/uploads/${upload.id}/close`)).toEqual(closed);
    expect((await create(upload.id, 'late.JPG', 3)).text).toContain('upload.over');
    const readerId = closed.readerId!;
    const { fingerprint } = await client.get<{ fingerprint: string }>(`/readers/${readerId}/card`);
    const { jobId } = await client.takeIn({ readerId, fingerprint });
    expect((await client.rest(jobId)).job).toMatchObject({ state: 'done', filesFailed: 0 });
    const sums = (folder: string) =>
      [...outsideManifest(folder)].flatMap(([file, sum]) => (file.endsWith('.xmp') ? [] : [sum])).sort();
    const originals = path.join(volumeOf(data, 'working'), '2026/2026-10-16_press-night/originals');
    expect(sums(originals)).toEqual(sums(path.join(cardOf(data), 'DCIM')));
    const receipts = filesBelow(path.join(originals, '../.arkiv/receipts'));
    expect(receipts.join()).toContain('second-body');
    // It is cleared as a card is, by proof; then it leaves no trace.
    await client.ask('PUT', `/readers/${readerId}/device`, { device: 'the computer of the archive' });
    expect(await client.get(`/readers/${readerId}/clearance`)).toMatchObject({ safe: true });
    const clearing = await client.post<{ jobId: string }>(`/readers/${readerId}/clear`, { fingerprint });
    expect((await client.rest(clearing.jobId)).job).toMatchObject({ state: 'done', filesFailed: 0 });
    expect(staged()).toEqual([]);
    await client.ask('POST', `/readers/${readerId}/eject`);
    expect(await client.get('/uploads')).toEqual([]);
    expect(existsSync(path.join(data, 'uploads', upload.id))).toBe(false);
  });

  it('are let go of only where none is whole', async () => {
    const upload = await begin();
    await create(upload.id, 'A.JPG', 1000);
    expect(await client.ask('POST', `/uploads/${upload.id}/forget`)).toMatchObject({ status: 204 });
    expect(await client.get('/uploads')).toEqual([]);
    const other = await begin();
    await send(other.id, 'A.JPG', card('OCK_9968.JPG'));
    expect(await client.ask('POST', `/uploads/${other.id}/forget`)).toMatchObject({
      ...{ status: 409, body: { code: 'upload.holds' } },
    });
    expect(staged()).toHaveLength(1);
  });

  it('that were taken off the list of readers are not forgotten: they wait to be taken in again', async () => {
    const upload = await begin();
    expect(await client.ask('POST', `/uploads/${upload.id}/close`)).toMatchObject({ status: 404 });
    await send(upload.id, 'A.JPG', card('OCK_9968.JPG'));
    const { readerId } = await client.post<Upload>(`/uploads/${upload.id}/close`);
    await client.ask('POST', `/readers/${readerId}/eject`);
    expect(await client.get('/uploads')).toEqual([
      expect.objectContaining({ id: upload.id, files: 1, readerId: null }),
    ]);
    const again = await client.post<Upload>(`/uploads/${upload.id}/close`);
    expect(again.readerId).not.toBeNull();
    expect(again.readerId).not.toBe(readerId);
    expect(staged()).toHaveLength(1);
  });
});

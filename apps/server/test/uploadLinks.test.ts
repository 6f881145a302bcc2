import type { ChildProcess } from 'node:child_process';
import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { Visitor } from './galleryVisitor';
import { ended, startServer } from './serverProcess';
import {
  cardOf,
  dataWithCard,
  filesBelow,
  outsideManifest,
  removeFolder,
  volumeOf,
  type Client,
} from './testArkiv';

interface Link {
  id: string;
  title: string;
  came: number;
  address: string;
  code: string | null;
}
interface Upload {
  id: string;
  name: string;
  by: string | null;
  readerId: string | null;
  files: number;
  bytes: number;
}
interface Now {
  left: number;
  upload: { id: string; files: number; bytes: number } | null;
  sent: { id: string; files: number }[];
}
const sha256 = (bytes: Buffer) => createHash('sha256').update(bytes).digest('hex');
const base64 = (text: string) => Buffer.from(text).toString('base64');
const TUS = { 'tus-resumable': '1.0.0' };
const GB = 1e9;

/** Somebody who sends by a link, as its page does. */
class Guest extends Visitor {
  begin = async () => (await this.ask('POST', 'begin')).json<{ id: string }>().id;
  now = async () => (await this.get('state')).json<Now>();

  create(upload: string, name: string, size: number) {
    const metadata = `upload ${base64(upload)},path ${base64(name)}`;
    return this.ask('POST', 'streams', undefined, {
      ...TUS,
      ...{ 'upload-length': String(size), 'upload-metadata': metadata },
    });
  }

  patch(url: string, bytes: Buffer, from = 0) {
    return this.ask('PATCH', url, bytes, {
      ...TUS,
      ...{ 'upload-offset': String(from), 'content-type': 'application/offset+octet-stream' },
    });
  }

  prove(url: string, sum: string) {
    const json = { 'content-type': 'application/json' };
    return this.ask('POST', `files/${url.split('-').at(-1)}`, JSON.stringify({ sha256: sum }), json);
  }

  async send(name: string, bytes: Buffer) {
    const { headers } = await this.create(await this.begin(), name, bytes.length);
    await this.patch(headers.location!, bytes);
    return this.prove(headers.location!, sha256(bytes));
  }
}

describe('a link by which others send', () => {
  let data: string;
  let server: ChildProcess;
  let client: Client;
  beforeAll(async () => {
    data = dataWithCard({ until: 'OCK_9970' });
    ({ process: server, client } = await startServer(data));
  });
  afterAll(async () => {
    server.kill('SIGTERM');
    await ended(server);
    removeFolder(data);
  });

  const links = () => client.get<Link[]>('/uploads/links');
  const uploads = () => client.get<Upload[]>('/uploads');
  const linkOf = async (wish: object = {}): Promise<Link> => {
    const { id } = await client.post<{ id: string }>('/uploads/links', {
      ...{ title: 'Press night', name: '', most: GB, until: null, withCode: true, ...wish },
    });
    return (await links()).find((link) => link.id === id)!;
  };
  const guestOf = async ({ address, code }: Link, name: string): Promise<Guest> => {
    const guest = new Guest(address);
    expect((await guest.enter(name, code)).status).toBe(303);
    return guest;
  };
  const card = (file: string) => readFileSync(path.join(cardOf(data), 'DCIM/100OCKHM', file));
  const staged = () => filesBelow(path.join(data, 'uploads')).filter((file) => file.includes('/files/'));

  it('asks who comes for their name and the code, and lets nobody send before that', async () => {
    const link = await linkOf({ title: 'Night of <b>puppets</b>' });
    expect(link.address).toMatch(/^http:\/\/127\.0\.0\.1:\d+\/u\/[\w-]{22}$/);
    const stranger = new Guest(link.address);
    const door = await stranger.get();
    expect([door.status, door.text.includes('Pass code')]).toEqual([200, true]);
    expect(door.text).toContain('Night of &lt;b&gt;puppets');
    for (const below of ['state', 'files', 'receipt/x'])
      expect([below, (await stranger.get(below)).status]).toEqual([below, 401]);
    for (const below of ['begin', 'done', 'files/x'])
      expect([below, (await stranger.ask('POST', below)).status]).toEqual([below, 401]);
    expect((await stranger.create('x', 'A.JPG', 3)).status).toBe(401);
    expect((await stranger.enter('Eve', 'AAAA-AAAA')).text).toContain('This code does not open the link');
    expect((await stranger.get('state')).status).toBe(401);
    expect(await uploads()).toEqual([]);
    const guest = await guestOf(link, 'Ana');
    const page = await guest.get();
    expect(page.text).toContain('You are Ana');
    expect(page.headers['content-security-policy']).toContain("default-src 'none'");
    // What a browser holds for one link opens no other, and nothing of a gallery or the archive.
    const other = new Guest((await linkOf()).address);
    expect((await other.ask('GET', 'state', undefined, { cookie: guest.held })).status).toBe(401);
    expect((await guest.get('/api/uploads')).status).toBe(404);
  });

  it('brings each one’s pictures as a card of its own, proven and with a receipt, which is taken in like any other', async () => {
    const link = await linkOf();
    const [ana, ben] = [await guestOf(link, 'Ana'), await guestOf(link, 'Ben')];
    const names = ['OCK_9968.JPG', 'OCK_9969.JPG'];
    for (const name of names) expect((await ana.send(`DCIM/${name}`, card(name))).status).toBe(200);
    // Whoever did not hear the answer asks again: it is there, and is counted once.
    const again = await ana.create(await ana.begin(), 'DCIM/again.JPG', 3);
    await ana.patch(again.headers.location!, Buffer.from('abc'));
    const proofs = [await ana.prove(again.headers.location!, sha256(Buffer.from('abc')))];
    proofs.push(await ana.prove(again.headers.location!, sha256(Buffer.from('abc'))));
    expect(proofs.map(({ status, text }) => [status, text])).toEqual(
      Array(2).fill([200, '{"path":"DCIM/again.JPG"}']),
    );
    expect((await ana.prove(again.headers.location!, sha256(Buffer.from('abd')))).status).toBe(404);
    await ben.send('IMG_1.JPG', card('OCK_9970.JPG'));
    expect((await ana.now()).upload).toMatchObject({ files: 3 });
    // Two pages of one person at once are one upload.
    const other = await guestOf(link, ' ANA ');
    expect(await Promise.all([ana.begin(), other.begin()])).toEqual(
      Array(2).fill((await ana.now()).upload!.id),
    );
    expect((await other.get('files')).json<object[]>()).toHaveLength(3);
    const done = (await ana.ask('POST', 'done')).json<Now>();
    expect(done).toMatchObject({ upload: null, sent: [{ files: 3 }] });
    expect((await ana.ask('POST', 'done')).status).toBe(409);
    const receipt = await ana.get(`receipt/${done.sent[0]!.id}`);
    const lines = receipt.text.split('\n');
    for (const name of names) expect(lines).toContain(`${sha256(card(name))}  DCIM/${name}`);
    expect(lines).toHaveLength(4);
    expect((await ben.get(`receipt/${done.sent[0]!.id}`)).status).toBe(404);
    const came = names.reduce((sum, name) => sum + card(name).length, card('OCK_9970.JPG').length + 3);
    expect((await links()).find(({ id }) => id === link.id)!.came).toBe(came);
    const theirs = (await uploads()).filter(({ name }) => name.startsWith('Press night'));
    expect(theirs.map(({ name, by, files, readerId }) => [name, by, files, readerId !== null])).toEqual([
      ['Press night: Ben', 'Ben', 1, false],
      ['Press night: Ana', 'Ana', 3, true],
    ]);
    const readerId = theirs[1]!.readerId!;
    const { fingerprint } = await client.get<{ fingerprint: string }>(`/readers/${readerId}/card`);
    const { jobId } = await client.takeIn({ readerId, fingerprint });
    expect((await client.rest(jobId)).job).toMatchObject({ state: 'done', filesFailed: 0 });
    const sums = [...outsideManifest(volumeOf(data, 'working')).values()];
    for (const name of names) expect(sums).toContain(sha256(card(name)));
  });

  it('is for so many bytes together, those on their way among them', async () => {
    const bytes = card('OCK_9968.JPG');
    const link = await linkOf({ most: 2 * bytes.length + 10 });
    const [ana, ben] = [await guestOf(link, 'Ana'), await guestOf(link, 'Ben')];
    await ana.send('A.JPG', bytes);
    const upload = await ben.begin();
    const coming = await ben.create(upload, 'B.JPG', bytes.length);
    expect(coming.status).toBe(201);
    expect((await ana.now()).left).toBe(10);
    // Asked for at once: what is counted is counted before the next one is let in.
    const asked = await Promise.all(['C.JPG', 'D.JPG'].map((name) => ben.create(upload, name, 8)));
    expect(asked.map(({ status }) => status).sort()).toEqual([201, 413]);
    expect(asked.find(({ status }) => status === 413)!.text).toContain('upload.limit');
    // What is given up leaves room again.
    expect((await ben.ask('DELETE', coming.headers.location!, undefined, TUS)).status).toBe(204);
    expect((await ana.now()).left).toBe(bytes.length + 2);
  });

  it('brings pictures and what belongs to them under names that can be written, and nothing else', async () => {
    const guest = await guestOf(await linkOf(), 'Ana');
    const upload = await guest.begin();
    const before = staged();
    for (const [name, status, code] of [
      ['run.exe', 415, 'upload.kind'],
      ['A.JPG.html', 415, 'upload.kind'],
      ['../A.JPG', 400, 'path.outside'],
      ['/tmp/A.JPG', 400, 'path.outside'],
      [`${'a'.repeat(300)}.JPG`, 422, 'upload.name'],
      ['A\u2028B.JPG', 422, 'upload.name'],
    ] as const)
      expect(await guest.create(upload, name, 3)).toMatchObject({
        status,
        text: expect.stringContaining(code),
      });
    expect(staged()).toEqual(before);
  });

  it('lets nobody write into what others send', async () => {
    const link = await linkOf();
    const [ana, ben] = [await guestOf(link, 'Ana'), await guestOf(link, 'Ben')];
    const bytes = card('OCK_9968.JPG');
    const { headers } = await ana.create(await ana.begin(), 'A.JPG', bytes.length);
    const own = await ben.begin();
    expect((await ben.create(await ana.begin(), 'A.JPG', 3)).status).toBe(404);
    // Nor into one that the studio sends itself.
    const { id } = await client.post<Upload>('/uploads', { name: 'Second body' });
    expect((await ben.create(id, 'A.JPG', 3)).status).toBe(404);
    const file = headers.location!.split('/').at(-1)!;
    const theirs = `${ben.at.pathname}/streams/${file}`;
    expect((await ben.patch(theirs, bytes)).status).toBe(404);
    expect((await ben.ask('HEAD', theirs, undefined, TUS)).status).toBe(404);
    expect((await ben.ask('DELETE', theirs, undefined, TUS)).status).toBe(404);
    expect((await ben.prove(theirs, sha256(bytes))).status).toBe(404);
    expect((await ben.ask('PATCH', `${ben.at.pathname}/streams/${own}-${file}`, bytes, TUS)).status).not.toBe(
      204,
    );
    expect((await ana.patch(headers.location!, bytes)).status).toBe(204);
    expect((await ana.prove(headers.location!, sha256(bytes))).status).toBe(200);
  });

  it('opens nothing after its time, or once it is taken back; what has come stays', async () => {
    const over = await linkOf({ until: Date.now() - 1000 });
    const late = await new Guest(over.address).get();
    expect([late.status, late.text.includes('The time to send pictures by this link is over')]).toEqual([
      410,
      true,
    ]);
    const link = await linkOf({ name: 'Ana', withCode: false });
    const guest = await guestOf(link, '');
    expect((await guest.get()).text).toContain('You are Ana');
    await guest.send('A.JPG', card('OCK_9968.JPG'));
    const { id } = (await guest.now()).upload!;
    expect((await client.ask('DELETE', `/uploads/links/${link.id}`)).status).toBe(204);
    expect((await guest.get('state')).status).toBe(410);
    expect((await links()).map((one) => one.id)).not.toContain(link.id);
    // The studio ends it, and takes in what is there.
    expect(await client.post<Upload>(`/uploads/${id}/close`)).toMatchObject({ files: 1 });
    expect((await client.ask('DELETE', `/uploads/links/${id}`)).status).toBe(404);
    expect((await new Guest(`${new URL(link.address).origin}/u/${'x'.repeat(22)}`).get()).status).toBe(404);
  });

  it('leaves its secrets unread in the database', async () => {
    const link = await linkOf();
    const token = link.address.split('/').at(-1)!;
    const stored = ['archive.sqlite', 'archive.sqlite-wal'].flatMap((name) => {
      const file = path.join(data, name);
      try {
        return [readFileSync(file)];
      } catch {
        return [];
      }
    });
    const all = Buffer.concat(stored);
    expect(all.includes(link.id)).toBe(true);
    expect([all.includes(token), all.includes(link.code!)]).toEqual([false, false]);
  });
});

import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import http from 'node:http';
import net from 'node:net';
import path from 'node:path';
import { DEFAULT_OUTPUT_SPEC, type OutputSpec } from '@arkiv/core';
import { GalleriesService } from '../src/gallery/galleries.service';
import { Clock } from '../src/system/clock';
import {
  galleryOf,
  guestOf,
  madeGallery,
  Visitor,
  type GalleryShown,
  type PageShown,
} from './galleryVisitor';
import { filesBelow, removeFolder, takenIn, until, volumeOf, type TestArkiv } from './testArkiv';

const SPEC: OutputSpec = {
  ...{ ...DEFAULT_OUTPUT_SPEC, name: 'Web', size: { by: 'long', pixels: 160 }, pattern: 'web-{number:2}' },
};
const PRINT: OutputSpec = { ...SPEC, name: 'Print', size: { by: 'whole' }, pattern: 'print-{number:2}' };
const KEPT = 5;
const keysOf = ({ pictures }: PageShown) => pictures.map(({ key }) => key);

describe('A gallery for a client', () => {
  let arkiv: TestArkiv;
  let data: string;
  let shootId: string;
  let ids: string[];
  let set: string;
  let gallery: GalleryShown;
  let now: number;

  beforeAll(async () => {
    ({ arkiv, data, shootId } = await takenIn('OCK_9973'));
    ({ id: ids } = await arkiv.frames(shootId));
    await arkiv.mark('verdict', 'undecided', 'keep', ...ids.slice(0, KEPT));
    const { jobId } = await arkiv.post<{ jobId: string }>(`/shoots/${shootId}/deliveries`, {
      ...{ name: 'Set', volumeId: await arkiv.volumeId('working'), specs: [SPEC, PRINT], sheet: true },
    });
    await arkiv.rest(jobId);
    set = jobId;
    gallery = await madeGallery(arkiv, shootId, {
      deliveryId: set,
      ownPile: true,
      words: 'Dear <b>both</b>',
    });
    now = Date.now();
    jest.spyOn(arkiv.app.get(Clock), 'now').mockImplementation(() => now);
  });
  afterAll(async () => {
    jest.restoreAllMocks();
    await arkiv.stop();
    removeFolder(data);
  });

  const shown = () => galleryOf(arkiv, shootId, gallery.id);
  const markOf = async (kind: string, frameId: string) => {
    const columns = await arkiv.columns(shootId);
    return columns[kind]![columns.id!.indexOf(frameId)];
  };
  const folder = (id = gallery.id) => path.join(data, 'galleries', id);

  describe('who comes in', () => {
    it('is asked for a code first, and sees nothing of the pictures until then', async () => {
      const visitor = new Visitor(gallery.links[0]!.address);
      const { status, text, headers } = await visitor.get();
      expect(status).toBe(200);
      expect(text).toContain('Pass code');
      expect(text).toContain('First look');
      expect(text).not.toContain('data-key');
      expect(text).not.toContain('Dear');
      expect(headers['cache-control']).toBe('no-store');
      const [key] = readdirSync(folder())[0]!.split('-1-');
      for (const below of ['state', 'live', `p/${key}/1/large`, `p/${key}/1/small`, `d/${key}/0`, 'all/0'])
        expect([below, (await visitor.get(below)).status]).toEqual([below, 401]);
      expect((await visitor.say({ kind: 'sent' })).status).toBe(401);
    });

    it('is known again by the same name, and by nobody else’s', async () => {
      const one = await guestOf(gallery, 'Ana');
      const again = await guestOf(gallery, '  ana ');
      const other = await guestOf(gallery, 'Ben');
      const [key] = keysOf(await one.page());
      await one.say({ kind: 'favourite', key, on: true });
      expect((await again.page()).now).toMatchObject({ me: 'Ana', favourites: [key] });
      expect((await other.page()).now).toMatchObject({ me: 'Ben', favourites: [] });
      expect((await shown()).guests.map(({ name }) => name)).toEqual(['Ana', 'Ben']);
    });

    it('has to wait after some wrong codes, the right one included; others come in', async () => {
      const { address, code } = gallery.links[0]!;
      const guesser = new Visitor(address);
      const first = await guesser.enter('Eve', 'AAAA-AAAA');
      expect([first.status, first.text.includes('This code does not open')]).toEqual([401, true]);
      for (let n = 0; n < 4; n++) await guesser.enter('Eve', `AAAA-AAA${n}`);
      expect((await guesser.enter('Eve', code)).status).toBe(429);
      const another = await madeGallery(arkiv, shootId, { title: 'Other' });
      await guestOf(another, 'Ana');
      now += 60_000;
      expect((await guesser.enter('Eve', ` ${code!.toLowerCase().replace('-', ' ')} `)).status).toBe(303);
    });

    it('is shown as text, whatever they say their name is', async () => {
      const guest = await guestOf(gallery, '<script>alert(1)</script>');
      const { text } = await guest.get();
      expect(text).not.toContain('<script>alert');
      expect(text).toContain('&lt;script&gt;alert(1)');
      expect(text).toContain('Dear &lt;b&gt;both');
      // In the data as well, where a closing tag would end the element.
      expect((await guest.page()).now.me).toBe('<script>alert(1)</script>');
    });

    it('needs neither code nor name by an address of their own, and may what that one allows', async () => {
      await arkiv.post(`/galleries/${gallery.id}/links`, {
        ...{
          name: 'Grandmother',
          withCode: false,
          rights: { choose: false, remark: false, download: false },
        },
      });
      const link = (await shown()).links.at(-1)!;
      expect(link.code).toBeNull();
      const guest = await guestOf(gallery, '', link);
      const { now: state, forms, pictures } = await guest.page();
      expect(state).toMatchObject({ me: 'Grandmother', rights: { choose: false, remark: false } });
      expect(forms).toEqual([]);
      const [{ key } = { key: '' }] = pictures;
      const refused = [
        await guest.say({ kind: 'choice', key, on: true }),
        await guest.say({ kind: 'remark', key, text: 'Lovely' }),
        await guest.say({ kind: 'sent' }),
        await guest.get(`d/${key}/0`),
        await guest.get('all/0'),
      ];
      expect(refused.map(({ status }) => status)).toEqual([403, 403, 403, 403, 403]);
      expect((await guest.say({ kind: 'favourite', key, on: true })).status).toBe(200);
      await arkiv.ask('DELETE', `/gallery-links/${link.id}`);
      for (const below of ['', 'state', `p/${key}/1/small`])
        expect([below, (await guest.get(below)).status]).toEqual([below, 404]);
      // Others still come in.
      expect((await (await guestOf(gallery, 'Ana')).page()).pictures).toHaveLength(KEPT);
    });

    it('is not let in by the key of another link of the same gallery', async () => {
      await arkiv.post(`/galleries/${gallery.id}/links`, {
        ...{ name: 'Printer', withCode: true, rights: { choose: false, remark: false, download: true } },
      });
      const printer = (await shown()).links.at(-1)!;
      const ana = await guestOf(gallery, 'Ana');
      const cookie = String((await ana.enter('Ana', gallery.links[0]!.code)).headers['set-cookie']);
      const held = /=([^;]+)/.exec(cookie)![1]!;
      const { status } = await new Visitor(printer.address).get('state', {
        cookie: `gallery_${printer.id}=${held}; gallery_${gallery.links[0]!.id}=${held}`,
      });
      expect(status).toBe(401);
    });
  });

  describe('what is seen', () => {
    let ana: Visitor;
    let page: PageShown;
    beforeAll(async () => {
      ana = await guestOf(gallery, 'Ana');
      page = await ana.page();
    });

    it('are the keepers in their order, in three sizes, with who made them inside and no place', async () => {
      expect(page.pictures).toHaveLength(KEPT);
      const { key } = page.pictures[0]!;
      const sizes: string[] = [];
      for (const size of ['large', 'middle', 'small']) {
        const { status, bytes, headers } = await ana.get(`p/${key}/1/${size}`);
        expect(status).toBe(200);
        expect(headers['cache-control']).toContain('immutable');
        const file = path.join(data, 'seen');
        writeFileSync(file, bytes);
        const said = execFileSync('exiftool', ['-j', '-G1', '-a', file], { encoding: 'utf8' });
        expect(said).not.toMatch(/GPS|SerialNumber|LensSerial|City|Sub-?location|"[^"]*:Keywords|Subject/i);
        const [facts] = JSON.parse(said) as Record<string, unknown>[];
        sizes.push(String(facts!['File:FileType']));
      }
      expect(sizes).toEqual(['JPEG', 'JPEG', 'Extended WEBP']);
    });
  });

  describe('what is chosen', () => {
    const ask = (wish: object) => madeGallery(arkiv, shootId, { ...wish, withCode: false });

    it('comes into a pile of its own under the client’s name, and goes out of it when it is taken back', async () => {
      const its = await ask({ title: 'Chosen', ownPile: true });
      const ana = await guestOf(its, 'Ana');
      const [first, second] = keysOf(await ana.page());
      await ana.say({ kind: 'choice', key: first, on: true });
      const said = await ana.say({ kind: 'choice', key: second, on: true });
      expect(Object.values(said.json<PageShown['now']>().chosen)).toEqual(['Ana', 'Ana']);
      const piles = await arkiv.get<{ id: string; name: string }[]>('/piles');
      const pile = piles.find(({ name }) => name === 'Choice · Chosen')!;
      expect(its.becomes).toEqual({ kind: `pile ${pile.id}`, value: true });
      const held = async () =>
        (await arkiv.get<{ name: string; frames: number }[]>('/piles')).find(
          ({ name }) => name === pile.name,
        )!.frames;
      expect(await held()).toBe(2);
      const seen = await galleryOf(arkiv, shootId, its.id);
      expect(seen.chosen).toEqual([
        expect.objectContaining({ frameId: ids[0], by: 'Ana' }),
        expect.objectContaining({ frameId: ids[1], by: 'Ana' }),
      ]);
      await ana.say({ kind: 'choice', key: first, on: false });
      expect(await held()).toBe(1);
    });

    it('becomes a label or a stage, and what it was before when it is taken back', async () => {
      await arkiv.mark('label', null, 'A', ids[2]!);
      const its = await ask({ title: 'Label', becomes: { kind: 'label', value: 'B' } });
      const ana = await guestOf(its, 'Ana');
      const key = keysOf(await ana.page())[2]!;
      await ana.say({ kind: 'choice', key, on: true });
      expect(await markOf('label', ids[2]!)).toBe('B');
      await ana.say({ kind: 'choice', key, on: false });
      expect(await markOf('label', ids[2]!)).toBe('A');
      // What the studio decided since then stands.
      await ana.say({ kind: 'choice', key, on: true });
      await arkiv.mark('label', 'B', 'M', ids[2]!);
      await ana.say({ kind: 'choice', key, on: false });
      expect(await markOf('label', ids[2]!)).toBe('M');
    });

    it('is by the client in the history, and can be taken back there', async () => {
      const its = await ask({ title: 'Stars', becomes: { kind: 'stars', value: 4 } });
      const ana = await guestOf(its, 'Ana');
      await ana.say({ kind: 'choice', key: keysOf(await ana.page())[3], on: true });
      expect(await markOf('stars', ids[3]!)).toBe(4);
      const history = JSON.stringify(await arkiv.get(`/shoots/${shootId}/history`));
      expect(history).toContain('client Ana');
    });

    it('is never more than agreed, even where two choose the last one at the same moment', async () => {
      const its = await ask({ title: 'Two', most: 2, becomes: { kind: 'label', value: 'S' } });
      const [ana, ben] = [await guestOf(its, 'Ana'), await guestOf(its, 'Ben')];
      const keys = keysOf(await ana.page());
      const answers = await Promise.all(
        keys.map((key, i) => (i % 2 ? ana : ben).say({ kind: 'choice', key, on: true })),
      );
      expect(answers.map(({ status }) => status).sort()).toEqual([200, 200, 409, 409, 409]);
      expect(answers.at(-1)!.json()).toMatchObject({
        code: 'gallery.full',
        message: 'All 2 pictures are chosen.',
      });
      const { chosen } = (await ana.page()).now;
      expect(Object.keys(chosen)).toHaveLength(2);
      // Whoever takes one back makes room.
      const [one] = Object.keys(chosen);
      expect((await ben.say({ kind: 'choice', key: one, on: false })).status).toBe(200);
      expect(
        (await ana.say({ kind: 'choice', key: keys.find((key) => !chosen[key]), on: true })).status,
      ).toBe(200);
    });

    it('is told to whoever looks at the same gallery, as it happens', async () => {
      const its = await ask({ title: 'Live' });
      const [ana, ben] = [await guestOf(its, 'Ana'), await guestOf(its, 'Ben')];
      const [key] = keysOf(await ana.page());
      // Whatever the page got when it came: the stream tells of what is said after it.
      const cookie = String((await ben.enter('Ben', null)).headers['set-cookie']).split(';')[0]!;
      const told = new Promise<string>((resolve, reject) => {
        const request = http.get(`${its.links[0]!.address}/live`, { headers: { cookie } }, (response) => {
          let text = '';
          response.on('data', (chunk: Buffer) => {
            text += chunk.toString();
            if (text.includes('here') && !text.includes('data:'))
              void ana.say({ kind: 'choice', key, on: true }).catch(reject);
            if (text.includes('data:')) {
              resolve(text);
              request.destroy();
            }
          });
        });
        request.on('error', reject);
      });
      expect(await told).toContain('data: changed');
      expect((await ben.page()).now.chosen).toEqual({ [key!]: 'Ana' });
    });

    it('is done when the client says so, and open again when it changes', async () => {
      const its = await ask({ title: 'Sent' });
      const ana = await guestOf(its, 'Ana');
      const [key] = keysOf(await ana.page());
      await ana.say({ kind: 'choice', key, on: true });
      await ana.say({ kind: 'sent' });
      expect((await galleryOf(arkiv, shootId, its.id)).sent).toMatchObject({ by: 'Ana' });
      const choosing = () => arkiv.get<{ id: string; sent: object | null }[]>('/galleries/choosing');
      expect((await choosing()).find(({ id }) => id === its.id)).toMatchObject({
        ...{ chosen: 1, most: 0, sent: { by: 'Ana', at: now } },
      });
      await ana.say({ kind: 'choice', key, on: false });
      expect((await galleryOf(arkiv, shootId, its.id)).sent).toBeNull();
    });

    it('has remarks with their spots, taken back only by who made them', async () => {
      const its = await ask({ title: 'Remarks' });
      const [ana, ben] = [await guestOf(its, 'Ana'), await guestOf(its, 'Ben')];
      const [key] = keysOf(await ana.page());
      await ana.say({ kind: 'remark', key, text: ' Brighter, please ', x: 0.25, y: 0.75 });
      const { remarks } = (await ben.page()).now;
      expect(remarks[key!]).toMatchObject([{ text: 'Brighter, please', by: 'Ana', mine: false }]);
      const { id } = remarks[key!]![0]!;
      expect((await ben.say({ kind: 'unsay', id })).status).toBe(404);
      expect((await galleryOf(arkiv, shootId, its.id)).remarks).toMatchObject([
        { frameId: ids[0], text: 'Brighter, please', by: 'Ana', x: 0.25, y: 0.75 },
      ]);
      const said = () => arkiv.get<object[]>(`/shoots/${shootId}/client-remarks`);
      expect(await said()).toContainEqual({ frameId: ids[0], text: 'Brighter, please', by: 'Ana', at: now });
      expect((await ana.say({ kind: 'unsay', id })).status).toBe(200);
      expect(JSON.stringify(await said())).not.toContain('Brighter');
      expect((await galleryOf(arkiv, shootId, its.id)).remarks).toEqual([]);
    });
  });

  describe('what is taken along', () => {
    let ana: Visitor;
    let page: PageShown;
    beforeAll(async () => {
      ana = await guestOf(gallery, 'Ana');
      page = await ana.page();
    });
    const set_ = () => path.join(volumeOf(data, 'working'), '2026/2026-10-16_press-night/delivery/set');
    const made = (name: string) => filesBelow(set_()).find((file) => path.basename(file) === name)!;

    it('are the sizes of the set, each with what it weighs', () => {
      expect(page.forms.map(({ name, files }) => [name, files])).toEqual([
        ['Web', KEPT],
        ['Print', KEPT],
      ]);
      const web = filesBelow(set_()).filter((file) => /web-\d+\.jpg$/.test(file));
      expect(page.forms[0]!.bytes).toBe(
        web.reduce((sum, file) => sum + readFileSync(path.join(set_(), file)).length, 0),
      );
    });

    it('is one file, as it was delivered', async () => {
      const { status, bytes, headers } = await ana.get(`d/${page.pictures[1]!.key}/0`);
      expect([status, headers['content-disposition']]).toEqual([200, 'attachment; filename="web-02.jpg"']);
      expect(bytes.equals(readFileSync(path.join(set_(), made('web-02.jpg'))))).toBe(true);
    });

    it('is a zip of one size, as long as it says, whose files are those that were delivered', async () => {
      const { status, bytes, headers } = await ana.get('all/1');
      expect([status, headers['content-length']]).toEqual([200, String(bytes.length)]);
      const zip = path.join(data, 'taken.zip');
      writeFileSync(zip, bytes);
      expect(execFileSync('unzip', ['-t', zip], { encoding: 'utf8' })).toContain('No errors detected');
      const names = execFileSync('unzip', ['-Z1', zip], { encoding: 'utf8' }).trim().split('\n');
      expect(names).toEqual([1, 2, 3, 4, 5].map((n) => `print-0${n}.jpg`));
      for (const name of names) {
        const file = execFileSync('unzip', ['-p', zip, name], { maxBuffer: 1e9 });
        expect(file.equals(readFileSync(path.join(set_(), made(name))))).toBe(true);
      }
      await until(async () => (await shown()).guests.find(({ name }) => name === 'Ana')!.taken === 1 + KEPT);
    });

    it('is nothing where a file is another one by now: the zip breaks off, and the studio’s disk is not told of', async () => {
      const file = path.join(set_(), made('web-03.jpg'));
      const was = readFileSync(file);
      const other = Buffer.from(was);
      other[other.length >> 1]! ^= 1;
      writeFileSync(file, other);
      const { status, text } = await ana.get(`d/${page.pictures[2]!.key}/0`);
      expect([status, text.includes('volumes'), text.includes('sha256')]).toEqual([503, false, false]);
      await expect(ana.get('all/0')).rejects.toThrow('aborted');
      writeFileSync(file, was);
      expect((await ana.get('all/0')).status).toBe(200);
    });

    it('is of the newest state of the set, and of frames that the gallery shows', async () => {
      const few = await madeGallery(arkiv, shootId, { title: 'Few', line: 'stars:5', deliveryId: set }).catch(
        (error: Error) => error.message,
      );
      expect(few).toContain('job.nothing');
      await arkiv.mark('stars', 0, 5, ids[4]!);
      const its = await madeGallery(arkiv, shootId, { title: 'Few', line: 'stars:5', deliveryId: set });
      const ben = await guestOf(its, 'Ben');
      expect((await ben.page()).forms.map(({ files }) => files)).toEqual([1, 1]);
      expect((await ana.get(`d/${keysOf(await ben.page())[0]}/0`)).status).toBe(404);
    });
  });

  describe('its life', () => {
    const files = (id: string) => (existsSync(folder(id)) ? readdirSync(folder(id)) : []);

    it('shows what is new when it is made again, and keeps what was said', async () => {
      const its = await madeGallery(arkiv, shootId, { title: 'Again', withCode: false });
      const ana = await guestOf(its, 'Ana');
      const before = await ana.page();
      await ana.say({ kind: 'choice', key: before.pictures[1]!.key, on: true });
      expect((await ana.page()).now.pictures).toEqual(before.now.pictures);
      await arkiv.mark('verdict', 'undecided', 'keep', ids[KEPT]!);
      await arkiv.mark('verdict', 'keep', 'reject', ids[0]!);
      expect((await galleryOf(arkiv, shootId, its.id)).other).toEqual({ fresh: 1, gone: 1 });
      const kept = new Set(files(its.id));
      const { jobId } = await arkiv.post<{ jobId: string }>(`/galleries/${its.id}/again`);
      await arkiv.rest(jobId);
      const after = await ana.page();
      // Whose page is of before is told so by what it asks for while she looks.
      const { pictures } = (await ana.get('state')).json<PageShown['now']>();
      expect(pictures).toEqual({ count: KEPT, stamp: after.now.pictures.stamp });
      expect(pictures.stamp).not.toBe(before.now.pictures.stamp);
      expect(keysOf(after).slice(0, KEPT - 1)).toEqual(keysOf(before).slice(1));
      expect(after.pictures).toHaveLength(KEPT);
      expect(Object.keys(after.now.chosen)).toEqual([before.pictures[1]!.key]);
      // What has gone is no longer there, what stays was not made anew.
      expect((await ana.get(`p/${before.pictures[0]!.key}/1/large`)).status).toBe(404);
      const now_ = files(its.id);
      expect(now_).toHaveLength(3 * KEPT);
      expect(now_.filter((file) => kept.has(file))).toHaveLength(3 * (KEPT - 1));
      await arkiv.mark('verdict', 'reject', 'keep', ids[0]!);
      await arkiv.mark('verdict', 'keep', 'undecided', ids[KEPT]!);
    });

    it('shows a picture that was finished otherwise under another address', async () => {
      const its = await madeGallery(arkiv, shootId, { title: 'Finished', withCode: false });
      const ana = await guestOf(its, 'Ana');
      const { key } = (await ana.page()).pictures[0]!;
      const { bytes } = await ana.get(`p/${key}/1/large`);
      await arkiv.mark('finish exposure', null, 1, ids[0]!);
      await arkiv.rest((await arkiv.post<{ jobId: string }>(`/galleries/${its.id}/again`)).jobId);
      const now_ = (await ana.page()).pictures[0]!;
      expect([now_.key, now_.version]).toEqual([key, 2]);
      expect((await ana.get(`p/${key}/2/large`)).bytes.equals(bytes)).toBe(false);
      expect(files(its.id)).toHaveLength(3 * KEPT);
      await arkiv.mark('finish exposure', 1, null, ids[0]!);
    });

    it('is closed with its pictures gone, and opened again with all that was said', async () => {
      const its = await madeGallery(arkiv, shootId, { title: 'Closed', withCode: false });
      const ana = await guestOf(its, 'Ana');
      const [key] = keysOf(await ana.page());
      await ana.say({ kind: 'choice', key, on: true });
      await arkiv.post(`/galleries/${its.id}/close`);
      expect(files(its.id)).toEqual([]);
      for (const below of ['', 'state', `p/${key}/1/large`])
        expect([below, (await ana.get(below)).status]).toEqual([below, 410]);
      expect(await arkiv.ask('POST', `/galleries/${its.id}/again`)).toMatchObject({
        ...{ status: 409, body: { code: 'gallery.closed' } },
      });
      expect((await galleryOf(arkiv, shootId, its.id)).chosen).toHaveLength(1);
      await arkiv.rest((await arkiv.post<{ jobId: string }>(`/galleries/${its.id}/reopen`)).jobId);
      const page = await ana.page();
      expect(page.pictures).toHaveLength(KEPT);
      expect(Object.values(page.now.chosen)).toEqual(['Ana']);
      expect((await ana.get(`p/${page.pictures[0]!.key}/1/large`)).status).toBe(200);
    });

    it('ends when its time is over, to the millisecond, and its pictures go', async () => {
      const its = await madeGallery(arkiv, shootId, { title: 'Over', withCode: false, until: now + 1000 });
      const ana = await guestOf(its, 'Ana');
      now += 999;
      expect((await ana.get()).status).toBe(200);
      now += 1;
      const { status, text } = await ana.get('', { accept: 'text/html' });
      expect([status, text.includes('This gallery is closed.')]).toEqual([410, true]);
      await arkiv.app.get(GalleriesService).closeOver();
      expect(files(its.id)).toEqual([]);
      expect((await galleryOf(arkiv, shootId, its.id)).closedAt).not.toBeNull();
    });

    it('stays in the ledger: who was there, chose and took what, by frame, and as a list', async () => {
      const its = await madeGallery(arkiv, shootId, { title: 'Kept', withCode: false, deliveryId: set });
      const [ana, ben] = [await guestOf(its, 'Ana'), await guestOf(its, 'Ben')];
      const [first, second] = keysOf(await ana.page());
      await ana.say({ kind: 'choice', key: first, on: true });
      await ben.say({ kind: 'remark', key: second, text: 'Lovely' });
      await ben.get(`d/${second}/0`);
      await until(async () =>
        (await galleryOf(arkiv, shootId, its.id)).guests.some(({ taken }) => taken === 1),
      );
      const entryOf = async (more = '') =>
        (
          await arkiv.get<{ entries: { name: string; kind: string; frames: number; people: object[] }[] }>(
            `/ledger?shootId=${shootId}${more}`,
          )
        ).entries.find(({ name }) => name === 'Kept')!;
      const nothing = { favourites: 0, chosen: 0, remarks: 0, taken: 0 };
      expect(await entryOf()).toMatchObject({
        ...{ kind: 'gallery', frames: KEPT, files: 1 },
        people: [
          { ...nothing, name: 'Ana', openedAt: now, chosen: 1 },
          { ...nothing, name: 'Ben', openedAt: now, remarks: 1, taken: 1 },
        ],
      });
      expect((await entryOf(`&frameId=${ids[0]}`)).people).toMatchObject([
        { ...nothing, name: 'Ana', chosen: 1 },
        { ...nothing, name: 'Ben' },
      ]);
      expect(await entryOf(`&year=${new Date(now).getUTCFullYear() - 1}`)).toBeUndefined();
      const csv = await (await fetch(`${arkiv.base}/api/ledger/list.csv?shootId=${shootId}`)).text();
      const lines = csv.split('\r\n').filter((line) => line.includes(',gallery,Kept,'));
      expect(lines).toHaveLength(2);
      expect(lines[0]).toMatch(/,gallery,Kept,taken along,.*,web-02\.jpg,,,Ben$/);
      expect(lines[1]).toMatch(/,gallery,Kept,chosen,.*,,,,Ana$/);
      // Closed and with its pictures gone, it says the same.
      await arkiv.post(`/galleries/${its.id}/close`);
      expect(await entryOf()).toMatchObject({ kind: 'gallery', people: [{ name: 'Ana' }, { name: 'Ben' }] });
    });

    it('is not made of nothing, nor for a set of another shoot', async () => {
      const wish = {
        ...{ title: 'No', side: 1024, most: 0, withCode: false },
        rights: { choose: true, remark: true, download: true },
      };
      const ask = (more: object) =>
        arkiv.ask<{ code: string }>('POST', `/shoots/${shootId}/galleries`, { ...wish, ...more });
      expect((await ask({ line: 'verdict:reject stars:5' })).body.code).toBe('job.nothing');
      expect((await ask({ deliveryId: '0'.repeat(26) })).body.code).toBe('not-found');
      expect((await ask({ becomes: { kind: 'stars', value: 9 } })).body.code).toBe('request.invalid');
      expect((await ask({ watermarkOf: 'No such spec' })).body.code).toBe('not-found');
      expect((await ask({ title: ' ' })).status).toBe(400);
    });
  });

  describe('who attacks', () => {
    let ana: Visitor;
    let key: string;
    beforeAll(async () => {
      ana = await guestOf(gallery, 'Ana');
      key = keysOf(await ana.page())[0]!;
    });

    it('sees never an original', async () => {
      const digest = (bytes: Buffer) => createHash('sha256').update(bytes).digest('hex');
      const sources = new Set(
        filesBelow(volumeOf(data, 'working'))
          .filter((file) => !file.includes('/delivery/'))
          .map((file) => digest(readFileSync(path.join(volumeOf(data, 'working'), file)))),
      );
      expect(sources.size).toBeGreaterThan(KEPT);
      for (const below of ['p/*/1/large', 'p/*/1/middle', 'p/*/1/small', 'd/*/0', 'd/*/1']) {
        const { status, bytes } = await ana.get(below.replace('*', key));
        expect([below, status, sources.has(digest(bytes))]).toEqual([below, 200, false]);
      }
    });

    it('finds nothing by leading paths out of the gallery', async () => {
      const up = [
        '%2e%2e',
        '..%2f..%2f..%2fetc%2fpasswd',
        '%2e%2e%5c%2e%2e',
        '....//',
        '%00',
        '*',
        '-1',
        '1e1',
      ];
      const within = up.flatMap((dots) => [
        `p/${dots}/1/large`,
        `p/${key}/1/${dots}`,
        `p/${key}/1/large${dots}`,
        `d/${key}/${dots}`,
        `all/${dots}`,
      ]);
      const out = [
        '../../../etc/passwd',
        '%2e%2e/%2e%2e/arkiv.sqlite',
        `p/${key}/1/large/../../arkiv.sqlite`,
      ];
      const root = [
        '/arkiv.sqlite',
        '/gallery.js/../../package.json',
        '/api/shoots',
        '/api/gallery-place',
        '/g/',
        '/',
      ];
      for (const where of [...within, ...out, ...root]) {
        const { status, headers, text } = await ana.get(where);
        expect([where, status, text.includes('root:')]).toEqual([where, status === 400 ? 400 : 404, false]);
        expect(headers['content-type']).toMatch(/json|html/);
      }
    });

    it('sees nothing of another gallery by a key of it', async () => {
      const other = await madeGallery(arkiv, shootId, { title: 'Another', withCode: false, deliveryId: set });
      const [its] = keysOf(await (await guestOf(other, 'Ben')).page());
      for (const below of [`p/${its}/1/large`, `d/${its}/0`])
        expect([below, (await ana.get(below)).status]).toEqual([below, 404]);
      expect((await ana.say({ kind: 'choice', key: its, on: true })).status).toBe(404);
    });

    it('is refused under another name than the gallery’s, and from another site’s page', async () => {
      for (const host of [
        'evil.example',
        'evil.example:80',
        'localhost.evil.example',
        '127.0.0.1.evil.example',
      ])
        expect([host, (await ana.get('', { host })).status]).toEqual([host, 421]);
      const said = { kind: 'favourite', key, on: true };
      const foreign = [
        { origin: 'https://evil.example' },
        { origin: 'null' },
        { 'sec-fetch-site': 'cross-site' },
        { 'sec-fetch-site': 'same-site' },
      ];
      for (const headers of foreign)
        expect([headers, (await ana.say(said, headers)).status]).toEqual([headers, 403]);
      // Without a script of ours nobody sends JSON; a form of another site sends text.
      expect((await ana.say(said, { 'content-type': 'text/plain' })).status).toBe(400);
    });

    it.each([
      ['nothing', ''],
      ['no object', '[1]'],
      ['half of it', '{"kind":"choice"'],
      ['no such kind', '{"kind":"opened"}'],
      ['what is downloaded', '{"kind":"downloaded","key":"a"}'],
      ['a place beside the picture', '{"kind":"remark","key":"a","text":"x","x":2,"y":0}'],
      ['half a place', '{"kind":"remark","key":"a","text":"x","x":0.5}'],
      ['an object as a key', '{"kind":"choice","key":{"$gt":""},"on":true}'],
      ['a prototype', '{"__proto__":{"kind":"sent"}}'],
      ['too long a remark', JSON.stringify({ kind: 'remark', key: 'a', text: 'x'.repeat(501) })],
      ['too much', JSON.stringify({ kind: 'remark', key: 'a', text: 'x'.repeat(20_000) })],
    ])('is told that %s is nothing that can be said', async (_, body) => {
      const answer = await ana.ask('POST', 'say', body, { 'content-type': 'application/json' });
      expect([answer.status, answer.json<{ code: string }>().code]).toEqual([400, 'request.invalid']);
      expect(answer.text).not.toContain(data);
    });

    it('reads strict headers: no script but ours, in no frame, in no index', async () => {
      const { headers } = await ana.get();
      const policy = String(headers['content-security-policy']);
      expect(policy).toContain("default-src 'none'");
      expect(policy).toContain("script-src 'self'");
      expect(policy).toContain("frame-ancestors 'none'");
      expect(policy).not.toContain('unsafe');
      expect(headers).toMatchObject({
        'x-robots-tag': 'noindex, nofollow',
        'x-content-type-options': 'nosniff',
      });
      expect(headers).not.toHaveProperty('x-powered-by');
      const cookie = String((await ana.enter('Ana', gallery.links[0]!.code)).headers['set-cookie']);
      expect(cookie).toMatch(/HttpOnly/);
      expect(cookie).toMatch(/SameSite=Lax/);
      expect(cookie).toContain(`Path=${ana.at.pathname}`);
      expect((await ana.get('/robots.txt')).text).toContain('Disallow: /');
    });

    it('gets no more answers by asking ten thousand times', async () => {
      const began = Date.now();
      const [sockets, each] = [10, 1000];
      // One after another down a few lines, without waiting for answers: quicker than any browser asks.
      const asked = `GET /robots.txt HTTP/1.1\r\nHost: ${ana.at.host}\r\n`;
      const socket = () =>
        new Promise<string>((resolve, reject) => {
          let text = '';
          const line = net.connect(Number(ana.at.port), ana.at.hostname, () =>
            line.write(`${`${asked}\r\n`.repeat(each - 1)}${asked}Connection: close\r\n\r\n`),
          );
          line.on('data', (chunk) => (text += chunk.toString('latin1')));
          line.on('error', reject).on('end', () => resolve(text));
        });
      const said = (await Promise.all(Array.from({ length: sockets }, socket))).join('');
      const answers = said.match(/HTTP\/1\.1 \d+/g)!;
      expect(answers).toHaveLength(sockets * each);
      const answered = answers.filter((status) => status.endsWith('200'));
      expect(answered.length).toBeGreaterThan(0);
      // 4,000 a minute, in as many minutes as a slow machine took.
      expect(answered.length).toBeLessThanOrEqual(4000 * (1 + Math.ceil((Date.now() - began) / 60_000)));
      // The studio has not noticed.
      expect((await arkiv.get<unknown[]>(`/shoots/${shootId}/galleries`)).length).toBeGreaterThan(0);
    });

    it('finds no address by guessing, and is sent away for a while', async () => {
      // From an address of their own: loopback has many.
      const guesser = new Visitor(gallery.links[0]!.address, '127.0.0.2');
      const answers: number[] = [];
      for (let n = 0; n < 60; n++) {
        const token = createHash('sha256').update(String(n)).digest('base64url').slice(0, 22);
        answers.push((await guesser.get(`/g/${token}`)).status);
      }
      expect(answers[0]).toBe(404);
      expect(new Set(answers)).toEqual(new Set([404, 429]));
      // With the right address too, for that while.
      expect((await guesser.get()).status).toBe(429);
    });
  });
});

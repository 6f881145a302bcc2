import {
  markEach,
  marksIn,
  pileKind,
  previewAddress,
  type Marks,
  type MarkKind,
  type MarkValue,
} from '@arkiv/core';
import sharp from 'sharp';
import { PreviewStore } from '../src/previews/previewStore';
import { UnitOfWork } from '../src/db/unitOfWork';
import { Happenings } from '../src/events/domainEvents';
import { dataWithCard, removeFolder, startArkiv, until, type TestArkiv } from './testArkiv';

interface Found {
  token: string;
  parts: { words: string; problem?: string }[];
  count: number;
  folded: number | null;
  rejects: number;
  binned: number;
  groups: { key: string | null; from: number; count: number; title: string | null; date: string | null }[];
  meant: string | null;
  fresh: number;
  newest: number;
  reading: { done: number; of: number } | null;
  page: { count: number; columns: Record<string, (string | number | null)[]> };
}

describe('finding frames anywhere in the archive', () => {
  let data: string;
  let arkiv: TestArkiv;
  let shootId: string;
  let ids: string[];

  const find = (line: string, more: object = {}): Promise<Found> => arkiv.post('/find', { line, ...more });
  const found = async (line: string, more: object = {}): Promise<string[]> =>
    ((await find(line, more)).page.columns.id ?? []) as string[];

  let made = 0;
  /** Marks frames as a window does. */
  async function mark(changes: { id: string; field: MarkKind; to: MarkValue }[]): Promise<void> {
    const { frames } = await arkiv.post<{ frames: (Marks & { id: string })[] }>('/marks/now', {
      frameIds: changes.map(({ id }) => id),
    });
    const known = changes.map((change) => ({
      ...change,
      marks: marksIn(frames.find(({ id }) => id === change.id)!),
    }));
    const operations = markEach(known, {
      newId: () => `01FIND${String(++made).padStart(20, '0')}`,
      at: Date.now(),
      window: 'test',
      pass: null,
    });
    await arkiv.post('/marks', { operations });
  }

  beforeAll(async () => {
    data = dataWithCard({ until: 'OCK_9975' });
    arkiv = await startArkiv(data);
    const taken = await arkiv.takeIn();
    shootId = taken.shootId;
    expect((await arkiv.rest(taken.jobId)).job.state).toBe('done');
    ids = (await arkiv.frames(shootId)).id;
    await mark([
      { id: ids[0]!, field: 'caption', to: 'A white heron with a fish at the North Pier' },
      { id: ids[0]!, field: 'stars', to: 5 },
      { id: ids[1]!, field: 'caption', to: 'Étude for three herons' },
      { id: ids[1]!, field: 'keyword grey heron', to: true },
      { id: ids[1]!, field: 'stars', to: 4 },
      { id: ids[2]!, field: 'keyword stork', to: true },
      { id: ids[2]!, field: 'person Ana Pinto', to: true },
      { id: ids[3]!, field: 'text city', to: 'Lagoa' },
    ]);
  });
  afterAll(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  it('by words in captions, keywords, persons, texts, names and their shoot, and by facts', async () => {
    expect(await found('heron fish')).toEqual([ids[0]]);
    expect(await found('HERON')).toEqual([ids[1], ids[0]]);
    expect(await found('etude')).toEqual([ids[1]]);
    expect(await found('pinto')).toEqual([ids[2]]);
    expect(await found('lagoa')).toEqual([ids[3]]);
    expect(await found('"north pier"')).toEqual([ids[0]]);
    expect(await found('"pier north"')).toEqual([]);
    expect(await found('heron ≥5★')).toEqual([ids[0]]);
    expect(await found('heron -fish')).toEqual([ids[1]]);
    expect((await find('lantern press mill')).count).toBe(ids.length);
    expect((await find('client:lantern')).count).toBe(ids.length);
    const { name } = await arkiv.frames(shootId);
    expect(await found(name[4]!.slice(-4))).toEqual([ids[4]]);
    const all = await find('');
    expect([all.count, all.reading, all.meant, all.parts]).toEqual([ids.length, null, null, []]);
    // The newest first, each with all that a window shows of it.
    expect(all.page.columns.id).toEqual([...ids].reverse());
    expect(all.page.columns.shoot![0]).toBe('Press night');
    expect(all.page.columns.nth).toEqual(ids.map((_, i) => i));
    expect((await find('', { oldestFirst: true })).page.columns.id).toEqual(ids);
  });

  it('as it is typed: the last word may be the beginning of one', async () => {
    expect(await found('hero')).toEqual([]);
    expect(await found('hero', { typing: true })).toEqual([ids[1], ids[0]]);
    const suggestions = await arkiv.get<{ kind: string; words: string; line: string; count: number }[]>(
      `/find/suggestions?line=${encodeURIComponent('white her')}`,
    );
    expect(suggestions.map(({ kind, line, count }) => [kind, line, count])).toEqual([
      ['keyword', 'keyword="grey heron"', 1],
      ['word', 'heron', 2],
      ['word', 'herons', 1],
    ]);
    // A field that is typed is suggested for alone.
    const [only] = await arkiv.get<{ kind: string; words: string }[]>(
      `/find/suggestions?line=${encodeURIComponent('person:an')}`,
    );
    expect(only).toMatchObject({ kind: 'person', words: 'Ana Pinto' });
  });

  it('suggests nothing after a phrase whose quotes are closed', async () => {
    const suggested = (line: string) =>
      arkiv.get<unknown[]>(`/find/suggestions?line=${encodeURIComponent(line)}`);
    expect(await suggested('"press')).not.toEqual([]);
    expect(await suggested('"press"')).toEqual([]);
  });

  it('says what a misspelt word was probably meant to be, where that finds something', async () => {
    expect((await find('heorn fish')).meant).toBe('heron fish');
    expect((await find('≥4★ hernos')).meant).toBe('≥4★ herons');
    expect((await find('heorn stork')).meant).toBe(null);
    expect((await find('xylophone')).meant).toBe(null);
  });

  it('by what the vocabulary says of a word, at once when it says something else', async () => {
    expect(await found('bird')).toEqual([]);
    const tree = ['bird', '\tstork', '\theron', '\t\t{grey heron}', ''].join('\n');
    await arkiv.post('/vocabulary/terms', { text: tree, format: 'indented', bring: true });
    expect(await found('bird')).toEqual([ids[2], ids[1]]);
    expect(await found('keyword:bird')).toEqual([ids[2], ids[1]]);
    expect(await found('-bird heron')).toEqual([ids[0]]);
  });

  it('follows what is decided, said and done', async () => {
    const { newest } = await find('');
    expect(await found('kingfisher')).toEqual([]);
    await mark([{ id: ids[5]!, field: 'caption', to: 'Kingfisher' }]);
    expect(await found('kingfisher')).toEqual([ids[5]]);
    await mark([{ id: ids[5]!, field: 'verdict', to: 'reject' }]);
    // What the studio's rules reject is in on request alone.
    const without = await find('kingfisher');
    expect([without.count, without.rejects]).toEqual([0, 1]);
    expect(await found('kingfisher', { rejects: true })).toEqual([ids[5]]);
    expect(await found('kingfisher reject')).toEqual([ids[5]]);
    expect(await found('kingfisher rejects')).toEqual([ids[5]]);
    // A word that is spelt so asks for no decision.
    expect((await find('kingfisher -caption:reject')).rejects).toBe(1);
    await mark([
      { id: ids[5]!, field: 'verdict', to: 'keep' },
      { id: ids[5]!, field: 'caption', to: null },
    ]);
    expect(await found('kingfisher')).toEqual([]);
    expect((await find('keep')).page.columns.id).toEqual([ids[5]]);
    expect((await find('', { seen: newest })).fresh).toBe(0);
    expect((await find('', { seen: newest - 2 })).fresh).toBe(2);
  });

  it('under headings, a page at a time, with how many have each value', async () => {
    const byStars = await find('', { heading: 'stars' });
    expect(byStars.groups.map(({ key, from, count }) => [key, from, count])).toEqual([
      ['5', 0, 1],
      ['4', 1, 1],
      ['0', 2, ids.length - 2],
    ]);
    const [shoot] = (await find('', { heading: 'shoot' })).groups;
    expect(shoot).toEqual({
      key: shootId,
      from: 0,
      count: ids.length,
      title: 'Press night',
      date: '2026-10-16',
    });
    const [arrival] = (await find('', { heading: 'arrival' })).groups;
    expect([arrival!.count, arrival!.key === null, arrival!.title]).toEqual([
      ids.length,
      false,
      expect.any(String),
    ]);
    const { token } = byStars;
    const page = await arkiv.get<Found['page']>(`/find/${token}/frames?from=1&count=2`);
    expect([page.count, page.columns.nth, page.columns.id![0]]).toEqual([2, [1, 2], ids[1]]);
    expect(await arkiv.get<string[]>(`/find/${token}/ids`)).toEqual(
      (await find('', { heading: 'stars' })).page.columns.id,
    );
    const facets = await arkiv.get<{ fact: string; counts: { value: unknown; count: number }[] }[]>(
      `/find/${token}/facets`,
    );
    const of = (fact: string) => facets.find((facet) => facet.fact === fact)?.counts;
    expect(of('shoot')).toEqual([{ value: 'Press night', count: ids.length }]);
    expect(of('keywords')).toContainEqual({ value: 'grey heron', count: 1 });
    expect(of('persons')).toEqual([{ value: 'Ana Pinto', count: 1 }]);
    // Each frame lies on the working drive and its backup.
    expect(of('drives')!.map(({ count }) => count)).toEqual([ids.length, ids.length]);
    const gone = await arkiv.ask<{ code: string }>('GET', '/find/0-0/frames?from=0&count=10');
    expect([gone.status, gone.body.code]).toEqual([410, 'find.gone']);
  });

  it('one for each take, with how many of it were found', async () => {
    // The first two are one take because somebody says so, and the second stands for it.
    await mark([
      { id: ids[0]!, field: 'take', to: 'cut' },
      { id: ids[1]!, field: 'take', to: 'join lead' },
      { id: ids[2]!, field: 'take', to: 'cut' },
    ]);
    const folded = await find('heron', { fold: true });
    expect([folded.count, folded.folded, folded.page.columns.id, folded.page.columns.hits]).toEqual([
      1,
      2,
      [ids[1]],
      [2],
    ]);
    // Where only another one of it was found, that one is shown.
    expect((await find('heron fish', { fold: true })).page.columns.id).toEqual([ids[0]]);
    expect((await find('heron')).folded).toBeNull();
    // Somebody parts them again.
    await mark([{ id: ids[1]!, field: 'take', to: 'cut' }]);
    expect((await find('heron', { fold: true })).count).toBe(2);
  });

  it('with what a window needs of frames of any shoots: by their ids, where their drives are, what was decided last', async () => {
    const { columns } = await arkiv.post<Found['page']>('/find/frames', {
      ids: [ids[3], '0'.repeat(26), ids[1]],
    });
    expect([columns.id, columns.shootId]).toEqual([
      [ids[3], ids[1]],
      [shootId, shootId],
    ]);
    expect(await arkiv.post('/find/away', { ids })).toEqual([]);
    const everywhere = await arkiv.get<{ operations: { subject: string }[] }>('/history');
    const here = await arkiv.get<{ operations: { subject: string }[] }>(`/shoots/${shootId}/history`);
    expect(everywhere.operations).toEqual(here.operations);
    expect(everywhere.operations.at(-1)!.subject).toBe(ids[1]);
  });

  it('of piles and drives by their names, and says which name nothing has', async () => {
    const { id } = await arkiv.post<{ id: string }>('/piles', { name: 'Best of spring' });
    await mark([{ id: ids[6]!, field: pileKind(id), to: true }]);
    expect(await found('pile:spring')).toEqual([ids[6]]);
    const [part] = (await find('pile:autumn')).parts;
    expect(part!.problem).toBe('No pile is called “autumn”.');
    expect((await find('drive:any')).count).toBe(ids.length);
    expect((await find('drives:any')).count).toBe(0);
  });

  it('what lies in the bin on request alone, and again when it is back', async () => {
    await mark([{ id: ids[7]!, field: 'verdict', to: 'reject' }]);
    const asked = { shootId, frameIds: [ids[7]], deed: 'bin' };
    const { jobId } = await arkiv.post<{ jobId: string }>('/bin', asked);
    await arkiv.rest(jobId);
    const all = await find('');
    expect([all.count, all.binned]).toEqual([ids.length - 1, 1]);
    const withBin = await find('', { bin: true, rejects: true });
    expect(withBin.count).toBe(ids.length);
    expect(withBin.page.columns.binned!.filter((is) => is === 1).length).toBe(1);
  });

  it('refuses what is no question', async () => {
    expect((await arkiv.ask('POST', '/find', { line: 5 })).status).toBe(400);
    expect((await arkiv.ask('POST', '/find', { line: '', heading: 'moon' })).status).toBe(400);
    expect((await arkiv.ask('POST', '/find', { line: '', like: '0'.repeat(26) })).status).toBe(404);
  });
});

describe('the frames that are alike', () => {
  let data: string;
  let arkiv: TestArkiv;

  beforeAll(async () => {
    data = dataWithCard({ until: 'OCK_9975' });
    arkiv = await startArkiv(data, undefined, { looks: true });
  });
  afterAll(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  it('are ranked by what their pictures show, the frame itself first', async () => {
    const { shootId, jobId } = await arkiv.takeIn();
    await arkiv.rest(jobId);
    const { id } = await arkiv.frames(shootId);
    const alike = (of: string, line = '') => arkiv.post<Found>('/find', { line, like: of });
    // Each has been looked at once it is found as like itself.
    for (const one of id) await until(async () => (await alike(one)).count > 0);
    await until(async () => (await alike(id[0]!)).count > 1);
    const { page, count } = await alike(id[0]!);
    expect(page.columns.id![0]).toBe(id[0]);
    // The first frames of the card are a bracket of the empty stage; what comes after it is another picture.
    expect([count < id.length, page.columns.id!.slice(0, 3).sort()]).toEqual([true, id.slice(0, 3).sort()]);
    // Of two that are quite the same for the eye of the hash, too.
    await arkiv.app.get(UnitOfWork).write((manager) =>
      manager.query(
        `UPDATE picture_hash SET (band0, band1, band2, band3) = (SELECT band0, band1, band2, band3 FROM picture_hash WHERE picture = ?)
         WHERE picture = ?`,
        [page.columns.picture![0], page.columns.picture![1]],
      ),
    );
    arkiv.app.get(Happenings).tell('looked', { picture: String(page.columns.picture![1]) });
    for (const one of page.columns.id!.slice(0, 2))
      expect((await alike(String(one))).page.columns.id![0]).toBe(one);
    // A copy that somebody made elsewhere, small and cut and without its name, finds the frame it was made from.
    const { picture } = await arkiv.frames(shootId);
    const screen = await fetch(`${arkiv.base}${previewAddress(picture[4]!, 'screen')}`);
    const { width, height } = await sharp(Buffer.from(await screen.clone().arrayBuffer())).metadata();
    const cut = await sharp(Buffer.from(await screen.arrayBuffer()))
      .extract({ left: 6, top: 4, width: width - 12, height: height - 10 })
      .resize(150)
      .greyscale()
      .png()
      .toBuffer();
    const drop = async (body: string | Uint8Array<ArrayBuffer>) => {
      const headers = { 'x-arkiv': '1', 'content-type': 'application/octet-stream' };
      const answer = await fetch(`${arkiv.base}/api/find/picture?name=shot.png`, {
        method: 'POST',
        headers,
        body,
      });
      return {
        status: answer.status,
        body: (await answer.json()) as { like: string; original: boolean; token: string; code: string },
      };
    };
    const dropped = await drop(new Uint8Array(cut));
    expect(dropped).toEqual({ status: 200, body: { like: id[4], original: true, token: null } });
    // So does a shot of a telephone's screen: a picture between bars, with something written above and beneath it.
    const written = Buffer.from(
      `<svg xmlns="http://www.w3.org/2000/svg" width="390" height="844"><g fill="#ddd" font-size="18">
       <circle cx="36" cy="64" r="16"/><text x="64" y="70">lantern.row</text><text x="16" y="560">Opening night!</text></g></svg>`,
    );
    const phone = await sharp({ create: { width: 390, height: 844, channels: 3, background: '#101014' } })
      .composite([{ input: await sharp(cut).resize(390).toBuffer(), left: 0, top: 140 }, { input: written }])
      .png()
      .toBuffer();
    expect((await drop(new Uint8Array(phone))).body).toEqual({ like: id[4], original: true, token: null });
    // A part of it, of which the hash of the whole tells nothing, is held against one frame after the other.
    const wide = Buffer.from(
      await (await fetch(`${arkiv.base}${previewAddress(picture[4]!, 'screen')}`)).arrayBuffer(),
    );
    const [w, h] = [Math.round(width * 0.6), Math.round(height * 0.6)];
    const part = await sharp(wide)
      .extract({ left: Math.round(width * 0.3), top: Math.round(height * 0.2), width: w, height: h })
      .resize(400)
      .jpeg({ quality: 70 })
      .toBuffer();
    const nothingTold = async (which: readonly (string | null)[]) => {
      await arkiv.app
        .get(UnitOfWork)
        .write((manager) =>
          manager.query(
            `UPDATE picture_hash SET band0 = 0, band1 = 0, band2 = 0, band3 = 0 WHERE picture IN (SELECT value FROM json_each(?))`,
            [JSON.stringify(which)],
          ),
        );
      for (const one of which) arkiv.app.get(Happenings).tell('looked', { picture: one! });
    };
    // Where it tells of another frame of the scene, those beside that are looked at as well.
    await nothingTold([picture[4]!]);
    expect((await drop(new Uint8Array(part))).body).toMatchObject({ like: id[4], original: true });
    await nothingTold(picture);
    const { body: sought } = await drop(new Uint8Array(part));
    expect(sought).toMatchObject({ original: false, like: expect.stringMatching(/^~/) as string });
    type Held = { like: string | null; looked: number; of: number; before: number | null };
    const further = (before: number | null, token = sought.token) =>
      arkiv.ask<Held>('POST', `/find/picture/${token}/further`, { before });
    const { body: held } = await further(null);
    expect(held).toMatchObject({ like: id[4], looked: id.length, unseen: 0, of: id.length });
    expect((await further(held.before)).body).toEqual({
      ...{ like: null, looked: 0, unseen: 0, of: id.length, before: null },
    });
    expect((await further(null, 'nothing')).status).toBe(404);
    // What is no frame's is like some, or like none.
    const noise = Buffer.from(
      Array.from({ length: 64 * 64 * 3 }, (_, i) => (i * 7919 + (i >> 5) * 104729) % 256),
    );
    const other = await sharp(noise, { raw: { width: 64, height: 64, channels: 3 } })
      .jpeg()
      .toBuffer();
    const { body: strange } = await drop(new Uint8Array(other));
    const nowhere = await arkiv.post<Held>(`/find/picture/${strange.token}/further`, {});
    expect(nowhere).toMatchObject({ like: null, looked: id.length, unseen: 0 });
    await arkiv.app.get(PreviewStore).drop(picture[0]!, 'look');
    expect(await arkiv.post<Held>(`/find/picture/${strange.token}/further`, {})).toMatchObject({ unseen: 1 });
    expect([strange.original, strange.like]).toEqual([false, expect.stringMatching(/^~[0-9a-f]{16}$/)]);
    expect((await arkiv.ask('POST', '/find', { line: '', like: strange.like })).status).toBe(200);
    const text = await drop('no picture at all');
    expect([text.status, text.body.code]).toEqual([422, 'picture.undecodable']);
    expect((await drop('')).status).toBe(400);
    // A line leaves fewer of them.
    expect((await alike(id[0]!, 'nothing-says-this')).count).toBe(0);
  });
});

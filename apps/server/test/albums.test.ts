import { readFileSync } from 'node:fs';
import path from 'node:path';
import {
  albumKind,
  albumPlace,
  markEach,
  marksIn,
  placesAtEnd,
  placesBetween,
  type Marks,
  type MarkKind,
  type MarkValue,
} from '@arkiv/core';
import { ulid } from 'ulid';
import { Reading } from '../src/db/unitOfWork';
import { SidecarsService } from '../src/sidecars/sidecars.service';
import { dataWithCard, removeFolder, startArkiv, until, volumeOf, type TestArkiv } from './testArkiv';

interface Album {
  id: string;
  name: string;
  parent: string | null;
  place: string;
  rule: string | null;
  lead: string | null;
  removed: boolean;
}
interface Held {
  id: string;
  count: number;
  pictures: string[];
  problem: string | null;
}
interface Found {
  token: string;
  count: number;
  rejects: number;
  parts: { words: string; problem?: string }[];
  groups: { key: string; from: number; count: number; title: string }[];
  page: { columns: Record<string, (string | number | null)[]> };
}
interface Brought {
  albums: number;
  frames: number;
  missing: string[];
  several: string[];
  made: string[];
}

describe('albums', () => {
  let arkiv: TestArkiv;
  let data: string;
  let shootId: string;
  let ids: string[];
  let names: string[];

  beforeAll(async () => {
    data = dataWithCard({ until: 'OCK_9975' });
    arkiv = await startArkiv(data);
    const started = await arkiv.takeIn();
    ({ shootId } = started);
    expect((await arkiv.rest(started.jobId)).job.state).toBe('done');
    ({ id: ids, name: names } = await arkiv.frames(shootId));
  });
  afterAll(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  const make = (name: string, more: object = {}) => arkiv.post<Album>('/albums', { name, ...more });
  const change = (id: string, to: object) =>
    arkiv.ask<Album & { code: string; message: string }>('PATCH', `/albums/${id}`, to);
  const list = async () => (await arkiv.get<Album[]>('/albums')).filter(({ removed }) => !removed);
  const held = async (id: string) => (await arkiv.get<Held[]>('/albums/held')).find((one) => one.id === id)!;
  const find = (album: string, more: object = {}) =>
    arkiv.post<Found>('/find', { line: '', heading: 'album', album, ...more });
  const shown = async (album: string, more: object = {}) => (await find(album, more)).page.columns.id ?? [];
  const text = async (where: string) => {
    const response = await fetch(`${arkiv.base}/api${where}`);
    return response.text();
  };

  /** Marks frames as a window does. */
  async function mark(changes: { id: string; field: MarkKind; to: MarkValue }[]) {
    const { frames } = await arkiv.post<{ frames: (Marks & { id: string })[] }>('/marks/now', {
      frameIds: changes.map(({ id }) => id),
    });
    const known = changes.map((one) => ({
      ...one,
      marks: marksIn(frames.find(({ id }) => id === one.id)!),
    }));
    const operations = markEach(known, { newId: () => ulid(), at: Date.now(), window: 'test', pass: null });
    return arkiv.ask<{ code?: string }>('POST', '/marks', { operations });
  }
  let clock = Date.now();
  const put = (album: string, frames: readonly string[]) => {
    const places = placesAtEnd((clock += 10), frames.length);
    return mark(frames.map((id, i) => ({ id, field: albumKind(album), to: places[i]! })));
  };

  it('stand in each other in an order made by hand, each name once beside the others', async () => {
    const [birds, work] = [await make(' Birds '), await make('Work')];
    const herons = await make('Herons', { parent: birds.id });
    expect([birds.name, herons.parent, birds.place < work.place]).toEqual(['Birds', birds.id, true]);
    expect(await arkiv.ask('POST', '/albums', { name: 'birds' })).toMatchObject({
      status: 409,
      body: { code: 'album.exists' },
    });
    expect((await make('Birds', { parent: work.id })).parent).toBe(work.id);
    expect((await arkiv.ask('POST', '/albums', { name: '  ' })).status).toBe(400);
    expect((await arkiv.ask('POST', '/albums', { name: 'x', parent: ulid() })).status).toBe(404);
    const moved = await change(work.id, { before: birds.id });
    expect(moved.body.place < birds.place).toBe(true);
    expect((await change(birds.id, { parent: herons.id })).body).toMatchObject({
      code: 'album.within',
      message: '“Birds” cannot stand there: it would stand in itself.',
    });
    expect((await list()).find(({ id }) => id === birds.id)!.parent).toBeNull();
    expect((await change(herons.id, { parent: null, name: 'White herons' })).body).toMatchObject({
      parent: null,
      name: 'White herons',
    });
    expect((await change(herons.id, { parent: birds.id, name: 'Herons' })).status).toBe(200);
  });

  it('hold frames by marks, in their own order, with nothing for sidecars to say', async () => {
    const [birds] = (await list()).filter(({ name, parent }) => name === 'Birds' && parent === null);
    await arkiv.app.get(SidecarsService).flush();
    expect((await put(birds!.id, [ids[4]!, ids[2]!, ids[0]!])).status).toBe(200);
    expect(await shown(birds!.id)).toEqual([ids[4], ids[2], ids[0]]);
    const { albums } = await arkiv.columns(shootId);
    const place = (i: number) => albumPlace(String(albums![i]), birds!.id)!;
    // The last one goes between the other two: one mark, and no other frame changes.
    const [between] = placesBetween(place(4), place(2), 1);
    await mark([{ id: ids[0]!, field: albumKind(birds!.id), to: between! }]);
    expect(await shown(birds!.id)).toEqual([ids[4], ids[0], ids[2]]);
    const due = await arkiv.app
      .get(Reading)
      .source.query<{ n: number }[]>(`SELECT COUNT(*) AS n FROM frame WHERE "sidecarDue" > 0`);
    expect(due).toEqual([{ n: 0 }]);
    expect(await held(birds!.id)).toMatchObject({ count: 3, problem: null });
    // What was put in by hand stays in, be it rejected; what is binned is not shown.
    await mark([{ id: ids[2]!, field: 'verdict', to: 'reject' }]);
    expect((await find(birds!.id)).count).toBe(3);
  });

  it('show what stands below them under its own heading, and are narrowed by a line', async () => {
    const all = await list();
    const birds = all.find(({ name, parent }) => name === 'Birds' && parent === null)!;
    const herons = all.find(({ name }) => name === 'Herons')!;
    await put(herons.id, [ids[1]!, ids[0]!]);
    const found = await find(birds.id);
    expect(found.groups.map(({ title, from, count }) => [title, from, count])).toEqual([
      ['Birds', 0, 3],
      ['Herons', 3, 1],
    ]);
    expect(found.page.columns.id).toEqual([ids[4], ids[0], ids[2], ids[1]]);
    await mark([{ id: ids[0]!, field: 'stars', to: 4 }]);
    expect(await shown(birds.id, { line: '≥4★' })).toEqual([ids[0]]);
    expect(await shown(birds.id, { heading: 'none', oldestFirst: true })).toEqual([
      ...[ids[0], ids[1], ids[2], ids[4]],
    ]);
    const line = async (asked: string) =>
      (await arkiv.post<Found>('/find', { line: asked, rejects: true })).count;
    expect(await line('album:herons')).toBe(2);
    expect(await line('album=Birds ≥4★')).toBe(1);
    expect(await line('album:none')).toBe(ids.length - 4);
  });

  it('by a rule are live, may ask for other albums, and take nothing by hand', async () => {
    const rule = await make('Four stars', { rule: 'album:birds ≥4★' });
    expect(await shown(rule.id)).toEqual([ids[0]]);
    await mark([{ id: ids[1]!, field: 'stars', to: 5 }]);
    expect(await shown(rule.id, { oldestFirst: true })).toEqual([ids[0], ids[1]]);
    expect(await held(rule.id)).toMatchObject({ count: 2 });
    // Rejects are left out of it, as they are in Find.
    await mark([{ id: ids[1]!, field: 'verdict', to: 'reject' }]);
    const found = await find(rule.id);
    expect([found.count, found.rejects, (await held(rule.id)).count]).toEqual([1, 1, 1]);
    expect(await put(rule.id, [ids[3]!])).toMatchObject({ status: 409, body: { code: 'album.rule' } });
    const wrong = await arkiv.ask<{ message: string }>('POST', '/albums', {
      name: 'x',
      rule: 'album:nowhere',
    });
    expect([wrong.status, wrong.body.message]).toEqual([
      400,
      'This rule cannot be followed: No album is called “nowhere”.',
    ]);
    expect((await change(rule.id, { rule: 'album:"four stars"' })).body.code).toBe('album.line');
    expect((await change(rule.id, { rule: '≥5★ verdict:reject' })).status).toBe(200);
    expect(await shown(rule.id)).toEqual([ids[1]]);
    await mark([{ id: ids[1]!, field: 'verdict', to: 'undecided' }]);
  });

  it('are taken away with their frames left in them, and come back as they were', async () => {
    const birds = (await list()).find(({ name, parent }) => name === 'Birds' && parent === null)!;
    const before = await shown(birds.id);
    await change(birds.id, { removed: true });
    expect((await list()).some(({ id }) => id === birds.id)).toBe(false);
    expect((await find(birds.id)).parts).toMatchObject([{ problem: 'This album is not there any more.' }]);
    // What stood in it stands by itself meanwhile.
    expect((await list()).some(({ name }) => name === 'Herons')).toBe(true);
    expect((await change(birds.id, { removed: false })).status).toBe(200);
    expect(await shown(birds.id)).toEqual(before);
  });

  it('come of a pile in order of time, which keeps its frames', async () => {
    const pile = await arkiv.post<{ id: string }>('/piles', { name: 'Wall' });
    await mark([3, 1].map((i) => ({ id: ids[i]!, field: `pile ${pile.id}` as MarkKind, to: true })));
    const wall = await make('Wall', { pile: pile.id });
    expect(await shown(wall.id)).toEqual([ids[1], ids[3]]);
    const [kept] = await arkiv.get<{ frames: number }[]>('/piles');
    expect(kept!.frames).toBe(2);
    const { operations } = await arkiv.get<{ operations: { kind: string; by: string; group: string }[] }>(
      `/shoots/${shootId}/history`,
    );
    const its = operations.filter(({ kind }) => kind === albumKind(wall.id));
    expect([its.length, new Set(its.map(({ group }) => group)).size]).toEqual([2, 1]);
  });

  it('travel as JSON and as lists of names, and say which names nobody knows', async () => {
    const birds = (await list()).find(({ name, parent }) => name === 'Birds' && parent === null)!;
    await change(birds.id, { lead: ids[2]! });
    const written = await text(`/albums/${birds.id}/text?format=json`);
    const said = JSON.parse(written) as {
      format: string;
      albums: { lead: number; frames: { name: string }[] }[];
    };
    expect([said.format, said.albums[0]!.lead]).toEqual(['arkiv-albums', 2]);
    expect(said.albums[0]!.frames.map(({ name }) => name.replace(/\..*$/, ''))).toEqual(
      [4, 0, 2].map((i) => names[i]),
    );
    const would = await arkiv.post<Brought>('/albums/texts', { text: written, name: 'a.json', bring: false });
    expect(would).toMatchObject({ albums: 2, frames: 5, missing: [], several: [], made: [] });
    const count = (await list()).length;
    const { made } = await arkiv.post<Brought>('/albums/texts', {
      text: written,
      name: 'a.json',
      bring: true,
    });
    const all = await list();
    expect(all.length).toBe(count + 2);
    // Its name is taken: it comes beside.
    const copy = all.find(({ id }) => id === made[0])!;
    expect([copy.name, copy.lead]).toEqual(['Birds (2)', ids[2]]);
    expect(await shown(copy.id)).toEqual(await shown(birds.id));

    const plain = await text(`/albums/${birds.id}/text?format=names`);
    expect(
      plain
        .split('\n')
        .slice(0, 4)
        .map((line) => path.posix.parse(line).name),
    ).toEqual([4, 0, 2, 1].map((i) => names[i]));
    const list_ = `${names[3]!.toUpperCase()}.JPG\nnowhere_0001.jpg\n${plain}`;
    const brought = await arkiv.post<Brought>('/albums/texts', {
      text: list_,
      name: 'prints.txt',
      bring: true,
    });
    expect(brought).toMatchObject({ albums: 1, frames: 5, missing: ['nowhere_0001.jpg'], several: [] });
    expect(await shown(brought.made[0]!)).toEqual([3, 4, 0, 2, 1].map((i) => ids[i]));
    const wrong = await arkiv.ask('POST', '/albums/texts', { text: '{', name: 'a.json', bring: true });
    expect(wrong).toMatchObject({ status: 400, body: { code: 'album.text' } });
  });

  it('come with marks out of a table of another program, given as one; what is not taken over is named', async () => {
    const { label: before } = await arkiv.columns(shootId);
    const table = [
      'File,Rating,Colour,Flag,Tags,Collection,ISO',
      `${names[5]}.JPG,5,Moss,,"kiln, glaze",Portfolio;Prints,100`,
      `C:\\old\\${names[6]}.dng,2,Ultramarine,pick,,Portfolio,100`,
      'nowhere_0001.jpg,4,,,,Portfolio,100',
    ].join('\n');
    const ask = (bring: boolean) =>
      arkiv.post<Brought & { marked: number; left: string[] }>('/albums/texts', {
        text: table,
        name: 'x.csv',
        bring,
      });
    const would = await ask(false);
    expect(would).toMatchObject({ albums: 2, frames: 3, missing: ['nowhere_0001.jpg'], marked: 2, made: [] });
    expect(would.left).toEqual([
      'column “ISO”',
      'label “Ultramarine” of 1 frames, which no label of the studio means',
    ]);
    expect((await arkiv.columns(shootId)).label).toEqual(before);
    const { made } = await ask(true);
    expect(await shown(made[0]!)).toEqual([ids[5], ids[6]]);
    expect(await shown(made[1]!)).toEqual([ids[5]]);
    const { stars, label, verdict, keywords } = await arkiv.columns(shootId);
    expect([stars![5], label![5], keywords![5]]).toEqual([5, 'M', 'kiln\nglaze']);
    expect([stars![6], label![6], verdict![6]]).toEqual([2, before![6], 'keep']);
    // A second time there is nothing left to say.
    expect(await ask(false)).toMatchObject({ marked: 0 });
    // Both frames' marks are one group, as one press.
    const groups = await arkiv.app
      .get(Reading)
      .source.query(
        `SELECT "group", COUNT(DISTINCT subject) AS frames FROM operation WHERE "window" = 'list' GROUP BY 1`,
      );
    expect(groups).toEqual([{ group: expect.any(String), frames: 2 }]);
  });

  it('stand in the archive’s folder on its drives', async () => {
    const file = path.join(volumeOf(data, 'working'), '.arkiv-archive/albums.json');
    await until(() => {
      try {
        return readFileSync(file, 'utf8').includes('"Four stars"');
      } catch {
        return false;
      }
    });
    expect(JSON.parse(readFileSync(file, 'utf8'))).toMatchObject({ format: 'arkiv-albums', schema: 1 });
  });
});

import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import sharp from 'sharp';
import { ulid } from 'ulid';
import { previewAddress } from '@arkiv/core';
import { UnitOfWork } from '../src/db/unitOfWork';
import { Looks } from '../src/returns/looks';
import { SidecarsService } from '../src/sidecars/sidecars.service';
import { ReturnsWatch } from '../src/returns/returnsWatch.service';
import {
  filesBelow,
  outsideManifest,
  removeFolder,
  takenIn,
  until as waited,
  volumeOf,
  type TestArkiv,
} from './testArkiv';

const HOME = '2026/2026-10-16_press-night';

interface Listed {
  assetId: string;
  name: string;
  state: string;
  by: string | null;
  second: boolean;
  picture: string | null;
  place: string | null;
  originals: { id: string; name: string }[];
  among: { id: string }[];
}

describe('edits that come back', () => {
  let arkiv: TestArkiv;
  let data: string;
  let shootId: string;
  let ids: string[];
  let name: string[];

  const begin = async (options: { looks?: boolean } = {}) => {
    ({ arkiv, data, shootId } = await takenIn('OCK_9973', options));
    arkiv.app.get(ReturnsWatch).settles = 200;
    ({ id: ids, name } = await arkiv.frames(shootId));
  };
  afterEach(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  const edits = (file = '', drive: 'working' | 'edit' | 'backup' = 'working') =>
    path.join(volumeOf(data, drive), HOME, 'edits', file);
  /** A finished picture of a frame as somebody else's program would make it: without a word of where it comes from. */
  const made = async (
    i: number,
    turn: (picture: sharp.Sharp) => sharp.Sharp = (its) => its,
  ): Promise<Buffer> => {
    const originals = path.join(volumeOf(data, 'working'), HOME, 'originals');
    const jpeg = filesBelow(originals).find((file) => file.startsWith(name[i]!) && /\.jpe?g$/i.test(file));
    return turn(sharp(path.join(originals, jpeg!)).modulate({ brightness: 1.05 }))
      .jpeg()
      .toBuffer();
  };
  const save = (file: string, bytes: Buffer, drive?: 'working' | 'edit' | 'backup') => {
    mkdirSync(path.dirname(edits(file, drive)), { recursive: true });
    writeFileSync(edits(file, drive), bytes);
    return createHash('sha256').update(bytes).digest('hex');
  };
  const answer = async (assetId: string, frameIds: string[]) => {
    const { status } = await arkiv.ask('PUT', `/returns/${assetId}/originals`, { frameIds });
    expect(status).toBe(204);
  };
  const keep = (i: number) =>
    arkiv.post('/marks', {
      operations: [
        {
          ...{ id: ulid(), kind: 'verdict', subject: ids[i], from: 'undecided', to: 'keep' },
          ...{ at: Date.now(), group: ulid(), window: 'w' },
        },
      ],
    });
  const list = () => arkiv.get<Listed[]>(`/shoots/${shootId}/returns`);
  /** Looks until what is listed is as it should be: a file must have lain still for a while. */
  const until = async (what: (listed: Listed[]) => boolean): Promise<Listed[]> => {
    for (;;) {
      await arkiv.app.get(ReturnsWatch).look(shootId);
      const listed = await list();
      if (what(listed)) return listed;
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
  };
  const fact = async (i: number, which: string) => {
    const columns = await arkiv.columns(shootId);
    return columns[which]![columns.id!.indexOf(ids[i]!)];
  };

  it('find their originals by name, show them, and bring them to a stage; a second one is said to be one', async () => {
    await begin();
    const before = await fact(0, 'picture');
    await keep(0);
    const bytes = await made(0);
    const first = save(`${name[0]}-final.jpg`, bytes);
    const [came] = await until((all) => all.length === 1 && all[0]!.state === 'matched');
    expect(came).toMatchObject({ by: 'name', second: false, picture: first });
    expect(came!.originals.map(({ id }) => id)).toEqual([ids[0]]);
    expect(await fact(0, 'picture')).toBe(first);
    expect(await fact(0, 'edited')).toBe('edited');
    // The picture is made and served like any other.
    const preview = await fetch(`${arkiv.base}${previewAddress(first, 'thumb')}`);
    expect([preview.status, preview.headers.get('content-type')]).toEqual([200, 'image/webp']);
    // What the camera took is still at hand.
    expect(await arkiv.get(`/returns/of/${ids[0]}`)).toMatchObject({
      taken: { picture: before },
      edits: [{ picture: first, originals: 1 }],
    });
    save(`${name[1]}.jpg`, await made(1));
    await until((all) => all.length === 2 && all[0]!.state === 'matched');
    // Of what is no keeper nobody asks at which stage it is.
    expect([await fact(0, 'stage'), await fact(1, 'stage')]).toEqual(['nearly', null]);
    const second = save('later/' + `${name[0]} (2).jpg`, await made(0, (its) => its.greyscale()));
    const [newest] = await until((all) => all.length === 3 && all[0]!.state === 'matched');
    expect(newest).toMatchObject({ second: true, picture: second });
    expect(await fact(0, 'picture')).toBe(second);
    // Nothing was written to what came back.
    expect(readFileSync(edits(`${name[0]}-final.jpg`))).toEqual(bytes);
    expect(filesBelow(edits()).sort()).toEqual(
      [`${name[0]}-final.jpg`, `${name[1]}.jpg`, `later/${name[0]} (2).jpg`].sort(),
    );
    // It is no file of the camera: a frame that is called otherwise leaves it where it is.
    const asked = { shootId, kind: 'rename', pattern: 'night_{seq:4}', seqStart: 1, rename: true };
    const { jobId } = await arkiv.post<{ jobId: string }>('/moves', asked);
    expect((await arkiv.rest(jobId)).job).toMatchObject({ state: 'done', filesFailed: 0 });
    expect((await list()).map(({ place }) => place)).toContain(`${HOME}/edits/${name[0]}-final.jpg`);
    expect(await fact(0, 'picture')).toBe(second);
  });

  it('are left alone while they are being written, and taken in when they are whole', async () => {
    await begin();
    const bytes = await made(1);
    save(`${name[1]}.jpg`, bytes.subarray(0, bytes.length - 400));
    const watch = arkiv.app.get(ReturnsWatch);
    // It lies still for longer than a program pauses, and is no whole picture all the same.
    for (let n = 0; n < 30; n++) {
      await watch.look(shootId);
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
    const jobs = await arkiv.get<{ kind: string; state: string }[]>('/jobs');
    expect(jobs.filter(({ kind }) => kind === 'return').every(({ state }) => state === 'done')).toBe(true);
    expect(await list()).toEqual([]);
    const whole = save(`${name[1]}.jpg`, bytes);
    save('.half.jpg', bytes);
    save('half.jpg.part', bytes);
    expect((await until((all) => all[0]?.state === 'matched'))[0]).toMatchObject({
      picture: whole,
      state: 'matched',
    });
  });

  it('of several frames belong to all of them and show none; a row behind a name is asked for', async () => {
    await begin();
    const before = [await fact(0, 'picture'), await fact(1, 'picture')];
    save(`${name[0]}+${name[1]}-stack.jpg`, await made(0));
    const [stack] = await until((all) => all[0]?.state === 'matched');
    expect(stack!.originals.map(({ id }) => id)).toEqual([ids[0], ids[1]]);
    expect([await fact(0, 'picture'), await fact(1, 'picture')]).toEqual(before);
    expect([await fact(0, 'edited'), await fact(1, 'edited'), await fact(2, 'edited')]).toEqual([
      ...['edited', 'edited', null],
    ]);
    expect(await arkiv.get(`/returns/of/${ids[1]}`)).toMatchObject({ edits: [{ originals: 2 }] });
    // A frame that goes into the bin does not take a stack with it.
    const number = /\d+$/.exec(name[3]!)![0];
    save(`${name[1]}-${number}-pano.jpg`, await made(1));
    const [row] = await until((all) => all[0]?.state === 'asks');
    expect(row!.among.map(({ id }) => id)).toEqual([ids[1], ids[2], ids[3]]);
    await answer(row!.assetId, [ids[1]!, ids[2]!, ids[3]!]);
    expect((await list())[0]).toMatchObject({ state: 'matched', by: 'hand', second: true });
    // Said otherwise: it is of one alone, and shows it.
    await answer(row!.assetId, [ids[2]!]);
    expect(await fact(2, 'picture')).toBe(row!.picture);
    expect(await fact(3, 'edited')).toBeNull();
    await answer(row!.assetId, []);
    expect((await list())[0]).toMatchObject({ state: 'aside', originals: [] });
    expect(await fact(2, 'picture')).not.toBe(row!.picture);
  });

  it('go with their frames into another shoot, and those of nobody with the last frame that leaves', async () => {
    await begin();
    save(`${name[0]}-final.jpg`, await made(0));
    save(
      'nobody knows.jpg',
      await sharp({ create: { width: 90, height: 60, channels: 3, background: '#207090' } })
        .jpeg()
        .toBuffer(),
    );
    await until(
      (all) => all.length === 2 && all.every(({ state }) => state === 'matched' || state === 'unknown'),
    );
    const move = async (asked: object) => {
      const { jobId } = await arkiv.post<{ jobId: string }>('/moves', { rename: true, ...asked });
      expect((await arkiv.rest(jobId)).job).toMatchObject({ state: 'done', filesFailed: 0 });
    };
    const listed = async (id: string) =>
      (await arkiv.get<Listed[]>(`/shoots/${id}/returns`)).map((one) => [one.name, one.place !== null]);
    const shoots = () => arkiv.get<{ id: string; title: string }[]>('/shoots');
    await move({ kind: 'split', shootId, frameIds: [ids[0]], title: 'Curtain call' });
    const other = (await shoots()).find(({ title }) => title === 'Curtain call')!.id;
    await waited(async () => (await listed(other)).length === 1);
    expect(await listed(other)).toEqual([[`${name[0]}-final.jpg`, true]]);
    expect(await listed(shootId)).toEqual([['nobody knows.jpg', true]]);
    await move({ kind: 'merge', shootId, into: other });
    await waited(async () => (await listed(other)).length === 2);
    // The shoot that has nothing left is not listed any more.
    expect((await shoots()).map(({ id }) => id)).toEqual([other]);
  });

  it('tell by themselves what they were made from: by what is said inside, or beside, whatever they are called', async () => {
    await begin();
    save('moon.jpg', await made(2));
    execFileSync('exiftool', [
      '-q',
      '-overwrite_original',
      `-XMP-xmpMM:PreservedFileName=${await fact(2, 'original')}.dng`,
      edits('moon.jpg'),
    ]);
    save('sun.jpg', await made(3));
    execFileSync('exiftool', [
      '-q',
      '-overwrite_original',
      `-XMP-xmpMM:DerivedFromFilePath=/jobs/${name[3]}.tif`,
      edits('sun.jpg'),
    ]);
    // What was handed off carries the frame's id inside, and programs keep what they do not know.
    await arkiv.app.get(SidecarsService).flush();
    const sidecar = readFileSync(path.join(volumeOf(data, 'working'), HOME, 'originals', `${name[1]}.xmp`));
    save('star.jpg', await made(1));
    writeFileSync(edits('star.xmp'), sidecar);
    const all = await until(
      (listed) => listed.length === 3 && listed.every(({ state }) => state === 'matched'),
    );
    const of = (file: string) => all.find((one) => one.name === file);
    expect(of('moon.jpg')).toMatchObject({ by: 'preserved', originals: [{ id: ids[2] }] });
    expect(of('sun.jpg')).toMatchObject({ by: 'derived', originals: [{ id: ids[3] }] });
    expect(of('star.jpg')).toMatchObject({ by: 'id', originals: [{ id: ids[1] }] });
  });

  it('that say nothing are told by what they look like', async () => {
    await begin({ looks: true });
    // Frames are looked at in the background.
    for (let i = 0; i < ids.length;) {
      if ((await fact(i, 'measures')) !== null) i++;
      else {
        await arkiv.post(`/features/shoots/${shootId}`).catch(() => undefined);
        await new Promise((resolve) => setTimeout(resolve, 100));
      }
    }
    const { picture } = await arkiv.frames(shootId);
    const alone = ids.length - 1;
    save('web.jpg', await made(alone, (its) => its.greyscale().resize(200)));
    const [came] = await until((all) => all[0] !== undefined && all[0].state !== 'unknown');
    expect(came!.by).toBe('look');
    const among = [...came!.originals, ...came!.among].map(({ id }) => id);
    expect(among).toContain(ids[alone]);
    // Of frames of one scene the one that it was made from comes first, however it was cut and toned.
    const { width, height } = await sharp(await made(1)).metadata();
    const inner = {
      ...{ left: Math.round(width * 0.3), top: Math.round(height * 0.25) },
      ...{ width: Math.round(width * 0.6), height: Math.round(height * 0.6) },
    };
    save('print.jpg', await made(1, (its) => its.extract(inner).gamma(1.4).modulate({ saturation: 1.3 })));
    const all = await until(
      (listed) => listed.length === 2 && listed.every(({ state }) => state !== 'unknown'),
    );
    const print = all.find(({ name: called }) => called === 'print.jpg')!;
    expect(print.by).toBe('look');
    expect([...print.originals, ...print.among][0]!.id).toBe(ids[1]);
    // Where the nearest of a large shoot are others, as of what was cut hashes tell nothing, all of it is looked through.
    arkiv.app.get(Looks).first = 1;
    await arkiv.app
      .get(UnitOfWork)
      .write((manager) => manager.query('DELETE FROM picture_hash WHERE picture <> ?', [picture[alone]]));
    save('card.jpg', await made(1, (its) => its.extract({ ...inner, left: 0, top: 0 })));
    const later = await until(
      (listed) => listed.length === 3 && listed.every(({ state }) => state !== 'unknown'),
    );
    const card = later.find(({ name: called }) => called === 'card.jpg')!;
    expect([...card.originals, ...card.among][0]!.id).toBe(ids[1]);
  });

  it('that are saved over an earlier one are another version: nothing that another drive has is lost', async () => {
    await begin();
    const first = save(`${name[0]}.jpg`, await made(0));
    await until((all) => all[0]?.state === 'matched');
    // It is copied to the other drive like everything.
    const { jobId } = await arkiv.post<{ jobId: string }>('/copies/missing', { shootId });
    expect((await arkiv.rest(jobId)).job).toMatchObject({ state: 'done', filesFailed: 0 });
    expect(filesBelow(edits('', 'backup'))).toEqual([`${name[0]}.jpg`]);
    const second = save(`${name[0]}.jpg`, await made(0, (its) => its.negate()));
    const all = await until((listed) => listed.length === 2 && listed[0]!.state === 'matched');
    expect(all.map(({ picture }) => picture)).toEqual([second, first]);
    expect(await fact(0, 'picture')).toBe(second);
    expect(filesBelow(edits('', 'backup'))).toEqual([`${name[0]} (version 1).jpg`]);
    const more = await arkiv.post<{ jobId: string }>('/copies/missing', { shootId });
    expect((await arkiv.rest(more.jobId)).job).toMatchObject({ state: 'done', filesFailed: 0 });
    expect(outsideManifest(edits('', 'backup'))).toEqual(
      new Map([
        [`${name[0]} (version 1).jpg`, first],
        [`${name[0]}.jpg`, second],
      ]),
    );
    // Once more, before any other drive has it: what was there is history.
    const third = save(`${name[1]}.jpg`, await made(1));
    await until((listed) => listed[0]?.picture === third && listed[0].state === 'matched');
    const fourth = save(`${name[1]}.jpg`, await made(1, (its) => its.negate()));
    const now = await until((listed) => listed[0]?.picture === fourth && listed[0].state === 'matched');
    expect(now.find((one) => one.state === 'over')).toMatchObject({ name: `${name[1]}.jpg`, picture: null });
  });

  it('come to folders of other drives too, and go into the bin with their frame', async () => {
    await begin();
    const volumeId = await arkiv.volumeId('edit');
    const { body } = await arkiv.ask<{ code: string }>('PUT', `/shoots/${shootId}/returns/folders`, {
      folders: [{ volumeId, path: '../elsewhere' }],
    });
    expect(body.code).toBe('handoff.folder');
    await arkiv.ask('PUT', `/shoots/${shootId}/returns/folders`, {
      folders: [{ volumeId, path: '/from-ana/press/' }],
    });
    mkdirSync(path.join(volumeOf(data, 'edit'), 'from-ana/press'), { recursive: true });
    writeFileSync(path.join(volumeOf(data, 'edit'), `from-ana/press/${name[0]}.jpg`), await made(0));
    const [came] = await until((all) => all[0]?.state === 'matched');
    expect(came).toMatchObject({ place: `from-ana/press/${name[0]}.jpg` });
    const { jobId } = await arkiv.post<{ jobId: string }>('/bin', {
      ...{ shootId, frameIds: [ids[0]], deed: 'bin' },
    });
    expect((await arkiv.rest(jobId)).job).toMatchObject({ state: 'done', filesFailed: 0 });
    expect(filesBelow(path.join(volumeOf(data, 'edit'), 'from-ana'))).toEqual([]);
    const { times } = await arkiv.get<{ times: { id: string }[] }>('/bin');
    const back = await arkiv.post<{ jobId: string }>('/bin/back', { binId: times[0]!.id });
    expect((await arkiv.rest(back.jobId)).job).toMatchObject({ state: 'done', filesFailed: 0 });
    expect(await fact(0, 'picture')).toBe(came!.picture);
    expect(filesBelow(path.join(volumeOf(data, 'edit'), 'from-ana'))).toEqual([`press/${name[0]}.jpg`]);
  });
});

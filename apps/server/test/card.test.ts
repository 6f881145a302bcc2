import { cpSync, mkdirSync, readdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import {
  filesBelow,
  outsideManifest,
  removeFolder,
  startArkiv,
  temporaryFolder,
  testCard,
  volumeOf,
  type TestArkiv,
} from './testArkiv';

interface Card {
  fingerprint: string;
  frames: {
    key: string;
    base: string;
    files: { path: string; role: string; format: string }[];
    facts: { capture: { local: string } | null };
  }[];
  extras: { path: string }[];
}

describe('cards of every kind, from a folder', () => {
  let arkiv: TestArkiv;
  let data: string;
  let root: string;
  let reader: string;

  beforeEach(async () => {
    data = temporaryFolder();
    root = path.join(data, 'odd card');
    mkdirSync(path.join(root, 'DCIM/100OCKHM'), { recursive: true });
    arkiv = await startArkiv(data);
    reader = (await arkiv.post<{ id: string }>('/readers', { root, name: 'A folder' })).id;
  });
  afterEach(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  const card = () => arkiv.get<Card>(`/readers/${reader}/card`);
  const photo = (name: string) => path.join(testCard(), 'DCIM/100OCKHM', name);
  const put = (from: string, to: string) =>
    cpSync(photo(from), path.join(root, to), { preserveTimestamps: true });

  async function takeIn(change: Record<string, unknown> = {}) {
    const { fingerprint } = await card();
    const volumes = await arkiv.get<{ id: string; role: string }[]>('/volumes');
    const { pattern, folders } = await arkiv.get<{ pattern: string; folders: object }>('/settings');
    const request = {
      readerId: reader,
      fingerprint,
      title: 'Odd',
      date: '2031-04-18',
      client: '',
      place: '',
      pattern,
      folders,
      seqStart: 1,
      zoneMinutes: 0,
      targets: volumes.filter((v) => v.role !== 'edit').map((v) => v.id),
      ...change,
    };
    return arkiv.ask<{ jobId: string; shootId: string; code?: string }>('POST', '/intakes', request);
  }

  /** Every file of the card lies on both drives, byte for byte. */
  const allThere = () => {
    const wanted = [...outsideManifest(root).values()].sort();
    for (const volume of ['working', 'backup'] as const) {
      const copies = [...outsideManifest(volumeOf(data, volume))].filter(
        ([name]) => name.includes('/originals/') && !/\.xmp(\.|$)/.test(name),
      );
      expect(copies.map(([, sha]) => sha).sort()).toEqual(wanted);
    }
  };

  it('with nothing on it is told apart from one that cannot be read', async () => {
    expect(await card()).toMatchObject({ frames: [], extras: [], bytes: 0 });
    expect(await takeIn()).toMatchObject({ status: 422, body: { code: 'plan.problems' } });
    removeFolder(root);
    expect(await arkiv.ask('GET', `/readers/${reader}/card`)).toMatchObject({
      status: 409,
      body: { code: 'card.none' },
    });
  });

  it('with one frame is taken in whole', async () => {
    put('OCK_9975.JPG', 'DCIM/100OCKHM/OCK_9975.JPG');
    const { body } = await takeIn();
    expect((await arkiv.rest(body.jobId)).job).toMatchObject({ state: 'done', filesDone: 1 });
    expect((await arkiv.frames(body.shootId)).name).toEqual(['odd_20261016_0001']);
    allThere();
  });

  it('with names in any bytes keeps every file', async () => {
    put('OCK_9975.JPG', 'DCIM/100OCKHM/Übung № 7 – “x”.JPG');
    put('OCK_9976.JPG', 'DCIM/100OCKHM/100%25.JPG');
    writeFileSync(
      Buffer.concat([
        Buffer.from(path.join(root, 'DCIM/100OCKHM/')),
        Buffer.from([0xff, 0xfe, 0x2e, 0x44, 0x41, 0x54]),
      ]),
      'not UTF-8',
    );
    writeFileSync(path.join(root, 'DCIM/con.dat'), 'a device’s name');
    writeFileSync(path.join(root, 'DCIM/ends with a dot.'), 'x');
    const listed = await card();
    expect(listed.extras.map((e) => e.path)).toContain('DCIM/100OCKHM/%FF%FE.DAT');
    const { body } = await takeIn();
    expect((await arkiv.rest(body.jobId)).failures).toEqual([]);
    const names = filesBelow(volumeOf(data, 'working')).map((f) => path.basename(f));
    expect(names).toEqual(expect.arrayContaining(['_FF_FE.DAT', '_con.dat', 'ends with a dot_']));
    // openssl cannot name such a file on its command line by text: count instead.
    expect(
      filesBelow(volumeOf(data, 'working')).filter(
        (f) => f.includes('/originals/') && !/\.xmp(\.|$)/.test(f),
      ),
    ).toHaveLength(readdirSync(path.join(root, 'DCIM/100OCKHM')).length + 2);
  });

  it('with empty files and folders outside the rules keeps them too', async () => {
    put('OCK_9975.JPG', 'holiday/deep/er/picture.jpg');
    writeFileSync(path.join(root, 'EMPTY.JPG'), '');
    writeFileSync(path.join(root, 'DCIM/100OCKHM/notes.txt'), 'text');
    const { body } = await takeIn();
    expect((await arkiv.rest(body.jobId)).failures).toEqual([]);
    allThere();
    const { name, picture } = await arkiv.frames(body.shootId);
    const empty = name.findIndex((_, i) => i === name.length - 1);
    expect(await arkiv.ask('GET', `/previews/v2/${picture[empty]}/screen`)).toMatchObject({ status: 422 });
  });

  it('with equal base names from two presses makes two frames of them', async () => {
    put('OCK_9979.DNG', 'DCIM/100OCKHM/SAME0001.DNG');
    put('OCK_9999.JPG', 'DCIM/100OCKHM/SAME0001.JPG');
    const listed = await card();
    expect(listed.frames.map((f) => [f.base, f.files.map((x) => x.format)])).toEqual([
      ['SAME0001', ['dng']],
      ['SAME0001', ['jpeg']],
    ]);
    const { body } = await takeIn();
    await arkiv.rest(body.jobId);
    expect((await arkiv.frames(body.shootId)).count).toBe(2);
    allThere();
  });

  it('with equal names in two folders never overwrites one by the other', async () => {
    put('OCK_9975.JPG', 'DCIM/100OCKHM/IMG_0001.JPG');
    mkdirSync(path.join(root, 'DCIM/101OCKHM'));
    put('OCK_9976.JPG', 'DCIM/101OCKHM/IMG_0001.JPG');
    expect(await takeIn({ pattern: '{shoot}' })).toMatchObject({
      status: 422,
      body: { code: 'plan.problems' },
    });
    const { body } = await takeIn({ pattern: '{original}' });
    expect((await arkiv.rest(body.jobId)).failures).toEqual([]);
    expect((await arkiv.frames(body.shootId)).name).toEqual(['IMG_0001', 'IMG_0001_2']);
    allThere();
  });

  it('whose title was pasted with a mark that turns the direction of text comes in under a name that shows it', async () => {
    put('OCK_9975.JPG', 'DCIM/100OCKHM/OCK_9975.JPG');
    const { body } = await takeIn({ title: 'night \u202egpj' });
    expect((await arkiv.rest(body.jobId)).job).toMatchObject({ state: 'done', filesFailed: 0 });
    expect((await arkiv.frames(body.shootId)).count).toBe(1);
    allThere();
  });

  it('with the same picture twice keeps both names in the receipt and loses neither', async () => {
    put('OCK_9975.JPG', 'DCIM/100OCKHM/OCK_9975.JPG');
    put('OCK_9975.JPG', 'DCIM/100OCKHM/OCK_9976.JPG');
    const { body } = await takeIn();
    expect((await arkiv.rest(body.jobId)).failures).toEqual([]);
    const { files } = await arkiv.get<{ files: { from: string; fate: string }[] }>(`/intakes/${body.jobId}`);
    expect(files.map((f) => f.from).sort()).toEqual([
      'DCIM/100OCKHM/OCK_9975.JPG',
      'DCIM/100OCKHM/OCK_9976.JPG',
    ]);
    // Both are read at the same time: one waits for the other's proof, and one frame is shown.
    expect(files.map((f) => f.fate).sort()).toEqual(['already-here', 'copied']);
    expect((await arkiv.frames(body.shootId)).count).toBe(1);
    expect(await arkiv.get(`/readers/${reader}/clearance`)).toMatchObject({ safe: true, proven: 2 });
  });

  it('shows the camera’s own small picture before anything is copied', async () => {
    put('OCK_9979.DNG', 'DCIM/100OCKHM/OCK_9979.DNG');
    const url = `${arkiv.base}/api/readers/${reader}/picture?path=${encodeURIComponent('DCIM/100OCKHM/OCK_9979.DNG')}`;
    const [thumb, large] = await Promise.all([fetch(`${url}&size=thumb`), fetch(`${url}&size=large`)]);
    const [small, big] = [(await thumb.arrayBuffer()).byteLength, (await large.arrayBuffer()).byteLength];
    expect(thumb.headers.get('content-type')).toBe('image/jpeg');
    expect(small).toBeLessThanOrEqual(big);
    expect(
      (
        await fetch(
          `${arkiv.base}/api/readers/${reader}/picture?path=${encodeURIComponent('../../etc/passwd')}&size=thumb`,
        )
      ).status,
    ).toBe(404);
  });
});

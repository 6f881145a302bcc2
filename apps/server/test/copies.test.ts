import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import {
  dataWithCard,
  filesBelow,
  outsideManifest,
  removeFolder,
  sha256sumCheck,
  startArkiv,
  until,
  volumeOf,
  type TestArkiv,
} from './testArkiv';

const FOLDER = '2026/2026-10-16_press-night';

interface Drive {
  id: string;
  name: string;
  files: number;
  onlyHere: number;
  damaged: number;
  readOnly: boolean;
}

describe('copies that are kept', () => {
  let arkiv: TestArkiv;
  let data: string;
  let shootId: string;

  beforeEach(async () => {
    data = dataWithCard({ until: 'OCK_9973' });
    arkiv = await startArkiv(data);
  });
  afterEach(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  const takeIn = async (change = {}) => {
    const started = await arkiv.takeIn(change);
    shootId = started.shootId;
    expect((await arkiv.rest(started.jobId)).job).toMatchObject({ state: 'done', filesFailed: 0 });
  };
  const originals = (name: 'working' | 'backup') => path.join(volumeOf(data, name), FOLDER, 'originals');
  const picture = (name: 'working' | 'backup') =>
    path.join(
      originals(name),
      filesBelow(originals(name)).find((f) => f.endsWith('.jpg'))!,
    );
  const run = async (where: string, asked: object = { shootId }) =>
    arkiv.rest((await arkiv.post<{ jobId: string }>(where, asked)).jobId);
  const drive = async (name: string) => (await arkiv.get<Drive[]>('/volumes')).find((v) => v.name === name)!;
  const flipBit = (file: string) => {
    const bytes = readFileSync(file);
    bytes[bytes.length >> 1]! ^= 1;
    writeFileSync(file, bytes);
  };

  it('are all found good again when nothing happened to them', async () => {
    await takeIn();
    const report = await run('/copies/verifications');
    expect(report.job).toMatchObject({ state: 'done', filesFailed: 0, filesTotal: 20 });
  });

  it('are found out when one bit is another, stop counting, and are put right from the good one', async () => {
    await takeIn();
    const good = readFileSync(picture('working'));
    flipBit(picture('backup'));
    const report = await run('/copies/verifications');
    expect(report.job.filesFailed).toBe(1);
    expect(report.failures[0]!.reason).toMatch(
      /_0001\.jpg on “Backup drive” has changed: its checksum should be/,
    );
    expect(await drive('Backup drive')).toMatchObject({ damaged: 1 });
    expect(await arkiv.get(`/shoots/${shootId}`)).toMatchObject({ missingCopies: 1 });
    expect(await arkiv.get('/readers/slot-1/clearance')).toMatchObject({ safe: false });

    expect(await arkiv.get(`/copies/missing?shootId=${shootId}`)).toMatchObject({
      files: 1,
      volumes: ['Backup drive'],
    });
    expect((await run('/copies/missing')).job).toMatchObject({ state: 'done', filesFailed: 0 });
    expect(readFileSync(picture('backup')).equals(good)).toBe(true);
    // The damaged file is set aside, not thrown away.
    const aside = filesBelow(path.join(volumeOf(data, 'backup'), FOLDER, '.arkiv/damaged'));
    expect(aside).toHaveLength(1);
    expect(await drive('Backup drive')).toMatchObject({ damaged: 0, onlyHere: 0 });
    expect(await arkiv.get('/readers/slot-1/clearance')).toMatchObject({ safe: true });
    sha256sumCheck(path.join(volumeOf(data, 'backup'), FOLDER), '.arkiv/manifest.sha256');
  });

  it('are made again where one is missing', async () => {
    await takeIn();
    rmSync(picture('working'));
    const report = await run('/copies/verifications', { volumeId: await arkiv.volumeId('working') });
    expect(report.failures).toHaveLength(1);
    expect(report.failures[0]!.reason).toMatch(/“Working drive” is missing/);
    expect((await run('/copies/missing')).job).toMatchObject({ state: 'done', filesFailed: 0 });
    const pictures = (name: 'working' | 'backup') =>
      [...outsideManifest(originals(name))].filter(([file]) => !/\.xmp(\.|$)/.test(file));
    expect(pictures('working')).toEqual(pictures('backup'));
  });

  it('stand in for one that was deleted behind the archive’s back; where none is left, the picture says which file is gone', async () => {
    await takeIn();
    const key = (await arkiv.frames(shootId)).picture[0]!;
    const file = (name: 'working' | 'backup') =>
      path.join(
        originals(name),
        [...outsideManifest(originals(name))].find(([, sha256]) => sha256 === key)![0],
      );
    const full = () => fetch(`${arkiv.base}/api/previews/v2/${key}/full`);
    const [working, backup] = [file('working'), file('backup')];
    rmSync(working);
    expect((await full()).status).toBe(200);
    rmSync(backup);
    const answer = await full();
    expect(answer.status).toBe(404);
    expect(await answer.json()).toMatchObject({
      code: 'file.gone',
      message: `${path.basename(working)} does not lie on “Working drive” or “Backup drive” any more, where the archive has it.`,
    });
  });

  it('are not made from a bad one: the good one is looked for, and both faults are told', async () => {
    await takeIn();
    flipBit(picture('working'));
    flipBit(picture('backup'));
    // Only one of the two has been noticed so far.
    await run('/copies/verifications', { volumeId: await arkiv.volumeId('backup') });
    const report = await run('/copies/missing');
    expect(report.job.filesFailed).toBe(1);
    expect(report.failures[0]!.reason).toMatch(
      /could not be copied to “Backup drive”.*on “Working drive” has changed/,
    );
  });

  it('are made on a second drive for a shoot that was taken in to one alone', async () => {
    await takeIn({ targets: [await arkiv.volumeId('working')] });
    expect(await arkiv.get(`/shoots/${shootId}`)).toMatchObject({ files: 10, missingCopies: 10 });
    const report = await run('/copies/missing', {});
    expect(report.job).toMatchObject({ state: 'done', filesFailed: 0, filesTotal: 10 });
    expect(await arkiv.get(`/shoots/${shootId}`)).toMatchObject({ missingCopies: 0 });
    sha256sumCheck(path.join(volumeOf(data, 'backup'), FOLDER), '.arkiv/manifest.sha256');
    const sidecars = () => filesBelow(originals('backup')).filter((f) => f.endsWith('.xmp'));
    for (let i = 0; i < 100 && sidecars().length < 6; i++) await new Promise((r) => setTimeout(r, 50));
    expect(sidecars()).toHaveLength(6);
  });

  it('say so when no further drive is here', async () => {
    await takeIn({ targets: [await arkiv.volumeId('working')] });
    await arkiv.ask('PUT', `/stand-ins/drives/backup`, { state: 'unplugged' });
    expect(await arkiv.ask('POST', '/copies/missing', { shootId })).toMatchObject({
      status: 409,
      body: { code: 'copies.none', message: expect.stringMatching(/no further drive is here for 10 files/) },
    });
  });

  it('are not called damaged when their drive is away', async () => {
    await takeIn();
    await arkiv.ask('PUT', `/stand-ins/drives/backup`, { state: 'unplugged' });
    const report = await run('/copies/verifications');
    expect(report.job).toMatchObject({ state: 'done', filesFailed: 0, filesTotal: 10 });
    expect(report.job.reason).toMatch(/“Backup drive” was not there/);
    expect(await drive('Backup drive')).toMatchObject({ damaged: 0 });
  });

  it('know a drive that can only be read', async () => {
    await arkiv.ask('PUT', `/stand-ins/drives/backup`, { state: 'read-only' });
    expect(await drive('Backup drive')).toMatchObject({ readOnly: true });
    expect(await drive('Working drive')).toMatchObject({ readOnly: false });
  });

  it('are made on a drive of one’s choice: of the keepers alone, then of the rest, each proven and with its sidecar', async () => {
    await takeIn();
    const { id } = await arkiv.frames(shootId);
    const mark = { kind: 'verdict', from: 'undecided', to: 'keep', at: Date.now(), group: 'g', window: 'w' };
    await arkiv.post('/marks', {
      operations: [{ ...mark, id: '01J0000000000000000000000K', subject: id[1]! }],
    });
    const shelf = path.join(data, 'shelf');
    mkdirSync(shelf);
    const { id: to } = await arkiv.post<Drive>('/volumes', {
      ...{ root: shelf, name: 'Shelf 3', role: 'backup' },
    });
    const plan = (keepers: boolean) =>
      arkiv.get<{ files: number; volumes: string[] }>(
        `/copies/missing?shootId=${shootId}&to=${to}&keepers=${keepers}`,
      );
    const [some, all] = [await plan(true), await plan(false)];
    expect([some.volumes, some.files > 0, some.files < all.files]).toEqual([['Shelf 3'], true, true]);
    expect((await run('/copies/missing', { shootId, to, keepers: true })).job).toMatchObject({
      ...{ state: 'done', filesFailed: 0, filesDone: some.files },
    });
    const { name } = await arkiv.frames(shootId);
    const there = () => filesBelow(path.join(shelf, FOLDER, 'originals'));
    expect(
      there()
        .filter((file) => !file.endsWith('.xmp'))
        .every((file) => file.startsWith(name[1]!)),
    ).toBe(true);
    expect((await plan(true)).files).toBe(0);
    expect((await run('/copies/missing', { shootId, to })).job).toMatchObject({
      state: 'done',
      filesFailed: 0,
    });
    sha256sumCheck(path.join(shelf, FOLDER), '.arkiv/manifest.sha256');
    const pictures = (files: readonly string[]) => files.filter((file) => !/^[^/]*\.xmp$/.test(file)).sort();
    expect(pictures(there())).toEqual(pictures(filesBelow(originals('working'))));
    // A frame's own sidecar is written there as everywhere, a moment later.
    await until(() => name.every((its) => there().includes(`${its}.xmp`)));
    expect((await plan(false)).files).toBe(0);
    const edit = (await arkiv.get<(Drive & { role: string })[]>('/volumes')).find(
      ({ role }) => role === 'edit',
    );
    if (edit) expect((await arkiv.ask('POST', '/copies/missing', { shootId, to: edit.id })).status).toBe(409);
    expect((await arkiv.ask('POST', '/copies/missing', { to })).status).toBe(409);
  });

  it('are taken off a drive only where each is proven on enough others, and what does not prove stays', async () => {
    await takeIn();
    const all = await arkiv.get<Drive[]>('/volumes');
    const volumeId = all.find(({ name }) => name.startsWith('Working'))!.id;
    const asked = { shootId, volumeId };
    // The other drive alone is one copy, and the studio asks for two.
    expect(await arkiv.ask('POST', '/copies/release', asked)).toMatchObject({
      ...{ status: 409, body: { code: 'copies.none' } },
    });
    const shelf = path.join(data, 'shelf');
    mkdirSync(shelf);
    const { id: to } = await arkiv.post<Drive>('/volumes', { root: shelf, name: 'Shelf 3', role: 'backup' });
    await arkiv.ask('PATCH', `/volumes/${to}`, { device: 'shelf' });
    expect((await run('/copies/missing', { shootId, to })).job).toMatchObject({
      state: 'done',
      filesFailed: 0,
    });
    const { name } = await arkiv.frames(shootId);
    await until(() => name.every((its) => existsSync(path.join(shelf, FOLDER, 'originals', `${its}.xmp`))));
    const before = filesBelow(originals('working')).filter((file) => !/^[^/]*\.xmp$/.test(file));
    const plan = await arkiv.get<{ files: number; stay: number; elsewhere: string[] }>(
      `/copies/release?shootId=${shootId}&volumeId=${volumeId}`,
    );
    expect(plan).toMatchObject({ files: before.length, stay: 0, elsewhere: ['Backup drive', 'Shelf 3'] });
    expect(filesBelow(originals('working'))).toHaveLength(before.length + name.length);
    // One has gone bad elsewhere, and one was changed here, since they were read last.
    const [bad, changed] = [
      before.find((file) => file.endsWith('.jpg'))!,
      before.find((file) => file.endsWith('.dng'))!,
    ];
    flipBit(path.join(originals('backup'), bad));
    flipBit(path.join(originals('working'), changed));
    const { job, failures } = await run('/copies/release', asked);
    expect(job).toMatchObject({ state: 'done', filesFailed: 2, filesDone: before.length - 2 });
    expect(failures.map(({ reason }) => reason).join(' ')).toMatch(/1 of 2 copies elsewhere prove good.*/);
    expect(failures.map(({ reason }) => reason).join(' ')).toMatch(/it has changed there/);
    const left = filesBelow(originals('working')).filter((file) => !/^[^/]*\.xmp$/.test(file));
    expect(left.sort()).toEqual([bad, changed].sort());
    for (const folder of [originals('backup'), path.join(shelf, FOLDER, 'originals')])
      expect(filesBelow(folder).filter((file) => !/^[^/]*\.xmp$/.test(file))).toHaveLength(before.length);
    // The sidecars of what is gone are gone, and those of what stays stay.
    const sidecars = filesBelow(originals('working')).filter((file) => /^[^/]*\.xmp$/.test(file));
    const stays = new Set([bad, changed].map((file) => `${file.replace(/\.[^.]+$/, '')}.xmp`));
    expect(new Set(sidecars)).toEqual(stays);
    sha256sumCheck(path.join(shelf, FOLDER), '.arkiv/manifest.sha256');
    expect((await drive('Working drive')).files).toBeLessThanOrEqual(2);
    // It is copied back as it came.
    await run('/copies/missing', { shootId, to: volumeId });
    expect(filesBelow(originals('working')).filter((file) => before.includes(file))).toHaveLength(
      before.length,
    );
  });
});

import { rmSync } from 'node:fs';
import path from 'node:path';
import { ulid } from 'ulid';
import { Reading, UnitOfWork } from '../src/db/unitOfWork';
import {
  outsideManifest,
  cardOf,
  dataWithCard,
  removeFolder,
  startArkiv,
  volumeOf,
  type TestArkiv,
} from './testArkiv';

interface Duplicates {
  groups: {
    id: string;
    frames: {
      id: string;
      shootId: string;
      name: string;
      files: number;
      bytes: number;
      within: string[];
      piles: string[];
      delivered: number;
      stars: number;
    }[];
  }[];
  next: string | null;
}

describe('frames with equal content', () => {
  let arkiv: TestArkiv;
  let data: string;
  let shootId: string;

  beforeAll(async () => {
    // Two frames went into the bin, their card was taken in once more, of one the picture without its raw; then they came back.
    data = dataWithCard({ until: 'OCK_9973' });
    arkiv = await startArkiv(data);
    const started = await arkiv.takeIn();
    ({ shootId } = started);
    await arkiv.rest(started.jobId);
    const { original, id } = await arkiv.columns(shootId);
    const two = ['OCK_9968', 'OCK_9972'].map((name) => id![original!.indexOf(name)]!);
    const binned = await arkiv.post<{ jobId: string }>('/bin', { deed: 'bin', shootId, frameIds: two });
    await arkiv.rest(binned.jobId);
    rmSync(path.join(cardOf(data), 'DCIM/100OCKHM/OCK_9968.DNG'));
    const again = await arkiv.takeIn({ title: 'Press night, again' });
    await arkiv.rest(again.jobId);
    const back = await arkiv.post<{ jobId: string }>(`/bin/jobs/${binned.jobId}/undo`);
    await arkiv.rest(back.jobId);
  });
  afterAll(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  const found = () => arkiv.get<Duplicates>('/duplicates');
  const filesOf = (group: Duplicates['groups'][number]) => group.frames.map(({ files }) => files);

  it('are found wherever they are, by what an outside manifest finds equal', async () => {
    const { groups, next } = await found();
    expect(next).toBeNull();
    const sums = [...outsideManifest(path.join(volumeOf(data, 'working'), '2026'))]
      .filter(([file]) => /\/originals\/.*\.(jpg|dng)$/i.test(file))
      .map(([, sum]) => sum);
    const twice = new Set(sums.filter((sum, i) => sums.indexOf(sum) !== i));
    expect(groups.map(({ id }) => id)).toEqual([...twice].sort());
    expect(groups.map(filesOf).sort()).toEqual([
      [1, 1],
      [2, 1],
    ]);
  });

  it('know which of them hold all that another has: a picture alone does not stand for its raw', async () => {
    const { groups } = await found();
    const alone = groups.find((group) => filesOf(group).join() === '1,1')!.frames;
    expect(alone.map(({ within }) => within)).toEqual([[alone[1]!.id], [alone[0]!.id]]);
    const [withRaw, picture] = groups.find((group) => filesOf(group).join() === '2,1')!.frames;
    expect([withRaw!.within, picture!.within]).toEqual([[], [withRaw!.id]]);
  });

  it('say what was done with each, and how much all copies of its files take', async () => {
    const alone = async () => (await found()).groups.find((group) => filesOf(group).join() === '1,1')!.frames;
    const frame = (await alone())[1]!;
    const pile = await arkiv.post<{ id: string }>('/piles', { name: 'Wall' });
    const mark = (kind: string, to: unknown) => ({
      ...{ id: ulid(), group: ulid(), subject: frame.id, kind, from: null, to, at: Date.now() },
      ...{ window: 'w', pass: null, undoes: null },
    });
    await arkiv.post('/marks', { operations: [mark('stars', 4), mark(`pile ${pile.id}`, true)] });
    const now = (await alone()).find(({ id }) => id === frame.id)!;
    expect(now).toMatchObject({ stars: 4, piles: [pile.id], delivered: 0 });
    // On the working drive and on its backup.
    const copies: { bytes: number }[] = await arkiv.app
      .get(Reading)
      .source.query(
        `SELECT SUM(a.size) AS bytes FROM asset a JOIN copy c ON c."assetId" = a.id WHERE a."frameId" = ? AND a.role <> 'sidecar'`,
        [frame.id],
      );
    expect(now.bytes).toBe(copies[0]!.bytes);
  });

  it('are none any more when the other one is in the bin, and are again when it comes back', async () => {
    const before = (await found()).groups;
    const alone = before.find((group) => filesOf(group).join() === '1,1')!;
    const { jobId } = await arkiv.post<{ jobId: string }>('/bin', {
      ...{ deed: 'bin', shootId: alone.frames[0]!.shootId, frameIds: [alone.frames[0]!.id] },
    });
    await arkiv.rest(jobId);
    expect((await found()).groups.map(({ id }) => id)).toEqual(
      before.map(({ id }) => id).filter((id) => id !== alone.id),
    );
    const back = await arkiv.post<{ jobId: string }>(`/bin/jobs/${jobId}/undo`);
    await arkiv.rest(back.jobId);
    expect((await found()).groups).toHaveLength(2);
  });

  it('stay where the one that is to stay holds less: its raw is never put into the bin for a picture', async () => {
    const [withRaw, picture] = (await found()).groups.find(
      (group) => filesOf(group).join() === '2,1',
    )!.frames;
    const asked = (frameId: string, going: string[]) =>
      arkiv.ask<{ code: string }>('POST', '/duplicates/stays', { frameId, going });
    const refused = await asked(picture!.id, [withRaw!.id]);
    expect([refused.status, refused.body.code]).toEqual([409, 'duplicate.more']);
    // One copy that is gone is one proven copy less: the other does not stand for it any more.
    const lost = await arkiv.app
      .get(Reading)
      .source.query(
        `SELECT c.* FROM copy c JOIN asset a ON a.id = c."assetId" WHERE a."frameId" = ? AND a.role <> 'sidecar' LIMIT 1`,
        [picture!.id],
      );
    const before = await found();
    await arkiv.app.get(UnitOfWork).write((manager) =>
      manager.query(
        `UPDATE copy SET "verifiedAt" = NULL WHERE "volumeId" = ? AND "assetId" IN
             (SELECT id FROM asset WHERE "frameId" = ?)`,
        [lost[0].volumeId, withRaw!.id],
      ),
    );
    expect((await asked(withRaw!.id, [picture!.id])).body.code).toBe('duplicate.more');
    await arkiv.app
      .get(UnitOfWork)
      .write((manager) => manager.query(`UPDATE copy SET "verifiedAt" = 1 WHERE "verifiedAt" IS NULL`));
    expect(await found()).toEqual(before);
  });

  it('go but for one, which comes into their piles; what was decided meanwhile elsewhere is not done twice', async () => {
    const alone = (await found()).groups.find((group) => filesOf(group).join() === '1,1')!.frames;
    const piled = alone.find(({ piles }) => piles.length > 0)!;
    const staying = alone.find(({ id }) => id !== piled.id)!;
    const stays = (frameId: string, going: string[]) =>
      arkiv.ask<{ jobIds: string[]; code: string }>('POST', '/duplicates/stays', { frameId, going });
    // Two windows decide the other way round at once: at most one of them is heard, and one frame is left.
    const answers = await Promise.all([stays(staying.id, [piled.id]), stays(piled.id, [staying.id])]);
    for (const { body } of answers) for (const jobId of body.jobIds ?? []) await arkiv.rest(jobId);
    expect(answers.filter(({ status }) => status === 201)).toHaveLength(1);
    const left: { id: string; piles: string }[] = await arkiv.app
      .get(Reading)
      .source.query('SELECT id, piles FROM frame_here WHERE id IN (?, ?)', [staying.id, piled.id]);
    expect(left).toHaveLength(1);
    expect(left[0]!.piles).toBe(piled.piles[0]);
    // A window that has not heard of it asks once more.
    const gone = [staying.id, piled.id].find((id) => id !== left[0]!.id)!;
    expect((await stays(gone, [left[0]!.id])).status).toBe(404);
    const [job] = answers.flatMap(({ body }) => body.jobIds ?? []);
    await arkiv.rest((await arkiv.post<{ jobId: string }>(`/bin/jobs/${job}/undo`)).jobId);
  });

  it('are asked for page by page, and by nothing that is no checksum', async () => {
    const [first, second] = (await found()).groups;
    const after = await arkiv.get<Duplicates>(`/duplicates?after=${first!.id}`);
    expect(after.groups.map(({ id }) => id)).toEqual([second!.id]);
    expect((await arkiv.ask('GET', '/duplicates?after=x')).status).toBe(400);
  });
});

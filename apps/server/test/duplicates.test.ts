import { rmSync } from 'node:fs';
import path from 'node:path';
import { ulid } from 'ulid';
import { Reading } from '../src/db/unitOfWork';
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
    const [first] = (await found()).groups;
    const frame = first!.frames[1]!;
    const pile = await arkiv.post<{ id: string }>('/piles', { name: 'Wall' });
    const mark = (kind: string, to: unknown) => ({
      ...{ id: ulid(), group: ulid(), subject: frame.id, kind, from: null, to, at: Date.now() },
      ...{ window: 'w', pass: null, undoes: null },
    });
    await arkiv.post('/marks', { operations: [mark('stars', 4), mark(`pile ${pile.id}`, true)] });
    const now = (await found()).groups[0]!.frames.find(({ id }) => id === frame.id)!;
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

  it('are asked for page by page, and by nothing that is no checksum', async () => {
    const [first, second] = (await found()).groups;
    const after = await arkiv.get<Duplicates>(`/duplicates?after=${first!.id}`);
    expect(after.groups.map(({ id }) => id)).toEqual([second!.id]);
    expect((await arkiv.ask('GET', '/duplicates?after=x')).status).toBe(400);
  });
});

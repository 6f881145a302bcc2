import { existsSync } from 'node:fs';
import path from 'node:path';
import { dataWithCard, filesBelow, removeFolder, startArkiv, volumeOf, type TestArkiv } from './testArkiv';

interface Job {
  id: string;
  state: string;
  card: string | null;
  filesFailed: number;
  trouble: string | null;
  seen: boolean;
}
interface Proven {
  total: number;
  frames: { id: string; name: string; time: string; picture: string }[];
}
interface Waiting {
  volume: string;
  frames: number;
  reason: string;
}

const FOLDER = '2026/2026-10-16_press-night';

describe('what work leaves behind', () => {
  let arkiv: TestArkiv;
  let data: string;

  beforeEach(async () => {
    data = dataWithCard({ until: 'OCK_9973' });
    arkiv = await startArkiv(data);
  });
  afterEach(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  const job = async (id: string) => (await arkiv.get<Job[]>('/jobs')).find((j) => j.id === id)!;
  const slow = (bytesPerSecond: number | null) =>
    arkiv.ask('PUT', '/stand-ins/slots/slot-1', { bytesPerSecond });
  const drive = (name: string, change: object) => arkiv.ask('PUT', `/stand-ins/drives/${name}`, change);
  /** Waits until something that is written a moment later is so. */
  const until = async <T>(ask: () => Promise<T>, right: (value: T) => boolean): Promise<T> => {
    for (let i = 0; ; i++) {
      const value = await ask();
      if (right(value) || i === 200) return value;
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
  };

  it('of an intake that was stopped before anything was proven: no shoot, no folder, no arrival', async () => {
    const request = await arkiv.intakeRequest();
    // Slow from here on: the card itself was read quickly.
    await slow(3000);
    const { jobId, shootId } = await arkiv.post<{ jobId: string; shootId: string }>('/intakes', request);
    await until(
      () => job(jobId),
      (j) => j.state === 'running',
    );
    await arkiv.post(`/jobs/${jobId}/cancel`);
    expect(await arkiv.get('/shoots')).toEqual([]);
    expect(await arkiv.ask('GET', `/shoots/${shootId}/frames`)).toMatchObject({ status: 404 });
    for (const name of ['working', 'backup'] as const)
      expect(existsSync(path.join(volumeOf(data, name), FOLDER))).toBe(false);
    expect(await arkiv.get('/arrivals/latest')).toMatchObject({ frames: [] });
    expect(await arkiv.ask('POST', `/jobs/${jobId}/retry`)).toMatchObject({
      status: 409,
      body: { code: 'job.state' },
    });
    // The card comes in as if nothing had been.
    await slow(null);
    const again = await arkiv.takeIn();
    await arkiv.rest(again.jobId);
    expect(await arkiv.get('/shoots')).toHaveLength(1);
  });

  it('of an intake that was stopped beside one that brought frames: the latest arrival is that one', async () => {
    const first = await arkiv.takeIn({ leaveOut: [] });
    await arkiv.rest(first.jobId);
    const request = await arkiv.intakeRequest({ title: 'Stopped' });
    await slow(3000);
    const second = await arkiv.post<{ jobId: string }>('/intakes', request);
    await arkiv.post(`/jobs/${second.jobId}/cancel`);
    const { frames } = await arkiv.get<{ frames: { shootId: string }[] }>('/arrivals/latest');
    expect(new Set(frames.map((f) => f.shootId))).toEqual(new Set([first.shootId]));
    // What another shoot has proven is not touched by a stopped one's leaving.
    expect(filesBelow(path.join(volumeOf(data, 'working'), FOLDER)).length).toBeGreaterThan(6);
  });

  it('of a shoot that was merged away: its receipts, and no empty folder', async () => {
    const { jobId, shootId } = await arkiv.takeIn();
    await arkiv.rest(jobId);
    const { id } = await arkiv.frames(shootId);
    const move = async (asked: object) => {
      const started = await arkiv.post<{ jobId: string; shootId: string }>('/moves', {
        rename: false,
        ...asked,
      });
      await arkiv.rest(started.jobId);
      return started.shootId;
    };
    const made = await move({
      kind: 'split',
      shootId,
      frameIds: id.slice(3),
      title: 'Curtain call',
      date: '2026-10-16',
    });
    const folder = path.join(volumeOf(data, 'working'), '2026/2026-10-16_curtain-call');
    expect(existsSync(path.join(folder, 'originals'))).toBe(true);
    await move({ kind: 'merge', shootId: made, into: shootId });
    expect(existsSync(path.join(folder, 'originals'))).toBe(false);
    expect(await arkiv.get(`/shoots/${made}`)).toMatchObject({ frames: 0, mergedInto: shootId });
    for (const file of filesBelow(folder)) expect(file).toMatch(/^\.arkiv\//);
  });

  it('while a drive refuses sidecars: how many wait for it and why, until it takes them', async () => {
    const { jobId, shootId } = await arkiv.takeIn();
    await arkiv.rest(jobId);
    const waiting = () => arkiv.get<Waiting[]>('/marks/sidecars');
    await arkiv.post('/marks/sidecars');
    expect(await waiting()).toEqual([]);
    const { id } = await arkiv.frames(shootId);
    let n = 0;
    const mark = () =>
      arkiv.post('/marks', {
        operations: id.slice(0, 3).map((subject, i) => ({
          id: `01J000000000000000000000${n}${i}`,
          subject,
          kind: 'stars',
          from: n,
          to: n + 1,
          at: Date.now(),
          group: String(n),
          window: 'w',
        })),
      });
    await drive('backup', { state: 'read-only' });
    await mark();
    await arkiv.post('/marks/sidecars');
    expect(await waiting()).toEqual([
      {
        volumeId: expect.any(String),
        volume: 'Backup drive',
        frames: 3,
        reason: expect.stringMatching(/written to/),
      },
    ]);
    // Pulled out while it refuses, it owes them; what it said before is over.
    await drive('backup', { state: 'unplugged' });
    await arkiv.post('/marks/sidecars');
    expect(await waiting()).toEqual([
      expect.objectContaining({ frames: 3, reason: expect.stringMatching(/connected/) }),
    ]);
    await drive('backup', { state: 'well' });
    await arkiv.post('/marks/sidecars');
    expect(await waiting()).toEqual([]);
    await drive('backup', { state: 'unplugged' });
    n += 1;
    await mark();
    await arkiv.post('/marks/sidecars');
    expect(await waiting()).toEqual([
      expect.objectContaining({ frames: 3, reason: expect.stringMatching(/connected/) }),
    ]);
    await drive('backup', { state: 'well' });
    expect(await until(waiting, (list) => list.length === 0)).toEqual([]);
  });

  it('of two presses that clear one card: one clearing', async () => {
    await arkiv.rest((await arkiv.takeIn()).jobId);
    const { fingerprint } = await arkiv.get<{ fingerprint: string }>('/readers/slot-1/card');
    const press = () => arkiv.post<{ jobId: string }>('/readers/slot-1/clear', { fingerprint });
    const [one, two] = await Promise.all([press(), press()]);
    expect(two).toEqual(one);
    expect((await arkiv.rest(one.jobId)).job).toMatchObject({ state: 'done', filesFailed: 0 });
    expect((await arkiv.get<{ kind: string }[]>('/jobs')).filter((j) => j.kind === 'clear')).toHaveLength(1);
  });

  it('while a drive runs full: the job says so at once, asks for attention, and can be put away', async () => {
    const request = await arkiv.intakeRequest();
    // Slow enough that it can be looked at while it copies.
    await slow(200_000);
    const { jobId } = await arkiv.post<{ jobId: string }>('/intakes', request);
    await drive('backup', { state: 'well', bytesUntilFull: 60_000 });
    const troubled = await until(
      () => job(jobId),
      (j) => j.filesFailed > 0,
    );
    expect(troubled).toMatchObject({
      card: 'card-a',
      seen: false,
      trouble: expect.stringMatching(/Backup drive/),
    });
    await slow(null);
    await arkiv.rest(jobId);
    expect((await job(jobId)).trouble).toMatch(/Backup drive/);
    await arkiv.post(`/jobs/${jobId}/seen`);
    expect((await job(jobId)).seen).toBe(true);
    await drive('backup', { state: 'well', bytesUntilFull: null });
    await arkiv.post(`/jobs/${jobId}/retry`);
    await arkiv.rest(jobId);
    expect(await job(jobId)).toMatchObject({ state: 'done', filesFailed: 0, trouble: null, seen: false });
    expect(await arkiv.ask('POST', `/jobs/${jobId}/seen`)).toMatchObject({ status: 204 });
  });

  it('while copying: the frames that are proven, the newest first', async () => {
    const { jobId, shootId } = await arkiv.takeIn();
    await arkiv.rest(jobId);
    const { total, frames } = await arkiv.get<Proven>(`/intakes/${jobId}/frames`);
    const { name } = await arkiv.frames(shootId);
    expect(total).toBe(name.length);
    expect(frames.map((f) => f.name)).toEqual([...name].reverse());
    expect(frames.every((f) => /^2026-10-16T\d\d:\d\d:\d\d\.\d{3}$/.test(f.time) && f.picture)).toBe(true);
  });

  it('of frames in whatever shoot: their marks, for a window that takes marks back', async () => {
    const { jobId, shootId } = await arkiv.takeIn();
    await arkiv.rest(jobId);
    const { id } = await arkiv.frames(shootId);
    const asked = { frameIds: [id[0], '01J0000000000000000000000Z'] };
    expect(await arkiv.post('/marks/now', asked)).toEqual({
      frames: [
        {
          id: id[0],
          shootId,
          verdict: 'undecided',
          stars: 0,
          label: null,
          note: null,
          stage: null,
          take: null,
          piles: '',
          albums: '',
          caption: null,
          ...{ keywords: '', persons: '', texts: '', finish: '' },
        },
      ],
    });
  });
});

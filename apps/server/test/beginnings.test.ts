import { copyFileSync, cpSync, mkdirSync } from 'node:fs';
import path from 'node:path';
import { Reading, UnitOfWork } from '../src/db/unitOfWork';
import { JobStore } from '../src/jobs/jobStore';
import { ulid } from 'ulid';
import { cardOf, dataWithCard, filesBelow, removeFolder, startArkiv, type TestArkiv } from './testArkiv';

/** Frames more on the card, one file each: with the others they take two parts. */
const MORE = 110;
function more(card: string): void {
  const picture = filesBelow(card).find((file) => file.endsWith('.JPG'))!;
  const folder = path.join(card, 'DCIM/300OCKHM');
  mkdirSync(folder);
  for (let i = 0; i < MORE; i++)
    copyFileSync(path.join(card, picture), path.join(folder, `OCK_${5000 + i}.JPG`));
}

/** Tables in which a job that begins writes. */
const TABLES = ['job', 'job_item', 'job_subject', 'arrival', 'arrival_file', 'frame', 'frame_text', 'shoot'];

describe('jobs whose rows are written in parts', () => {
  let arkiv: TestArkiv;
  let data: string;

  beforeEach(async () => {
    data = dataWithCard({ until: 'OCK_9972' });
    arkiv = await startArkiv(data);
  });
  afterEach(async () => {
    jest.restoreAllMocks();
    await arkiv.stop();
    removeFolder(data);
  });

  const rowsOf = async (of = arkiv): Promise<Record<string, number>> => {
    const counts: [string, number][] = [];
    for (const table of TABLES) {
      const [{ n }]: [{ n: number }] = await of.app
        .get(Reading)
        .source.query(`SELECT COUNT(*) AS n FROM ${table}`);
      counts.push([table, n]);
    }
    return Object.fromEntries(counts);
  };
  const NOTHING = Object.fromEntries(TABLES.map((table) => [table, 0]));

  it('let other writers have their turn between two parts', async () => {
    const order: string[] = [];
    const original = JobStore.prototype.add;
    jest.spyOn(JobStore.prototype, 'add').mockImplementation(async function (this: JobStore, ...of) {
      order.push('part');
      // Asked for while a part is being written: it is next.
      if (order.length === 1) void arkiv.app.get(UnitOfWork).write(async () => void order.push('mark'));
      return original.apply(this, of);
    });
    more(cardOf(data));
    const { jobId } = await arkiv.takeIn();
    expect(order).toEqual(['part', 'mark', 'part']);
    const frames = await rowsOf();
    expect(frames.frame).toBeGreaterThan(MORE);
    expect(frames.arrival_file).toBe(frames.job_item);
    await arkiv.rest(jobId);
  });

  it('are undone where a part fails: nothing of them is left, and the same card is taken in afterwards', async () => {
    const original = JobStore.prototype.add;
    let parts = 0;
    const broken = jest.spyOn(JobStore.prototype, 'add').mockImplementation(async function (
      this: JobStore,
      ...of
    ) {
      if (++parts === 2) throw new Error('no more');
      return original.apply(this, of);
    });
    more(cardOf(data));
    await expect(arkiv.takeIn()).rejects.toThrow();
    expect(await rowsOf()).toEqual(NOTHING);
    broken.mockRestore();
    const { jobId, shootId } = await arkiv.takeIn();
    expect((await arkiv.rest(jobId)).job.state).toBe('done');
    expect((await arkiv.frames(shootId)).count).toBeGreaterThanOrEqual(5);
  });

  it('are undone by the next start where the server ended in between', async () => {
    // The archive as it was in that moment: what a kill leaves.
    const left = dataWithCard({ until: 'OCK_9972' });
    let copied = false;
    jest.spyOn(JobStore.prototype, 'begun').mockImplementation(async () => {
      if (!copied)
        for (const name of ['archive.sqlite', 'archive.sqlite-wal'])
          cpSync(path.join(data, name), path.join(left, name));
      copied = true;
      throw new Error('ended here');
    });
    await expect(arkiv.takeIn()).rejects.toThrow();
    jest.restoreAllMocks();
    expect(copied).toBe(true);
    const next = await startArkiv(left);
    try {
      expect(await rowsOf(next)).toEqual(NOTHING);
      expect(await next.get('/jobs')).toEqual([]);
    } finally {
      await next.stop();
      removeFolder(left);
    }
  });

  it('leave a shoot that was there before as it was, but for the numbers', async () => {
    const first = await arkiv.takeIn();
    await arkiv.rest(first.jobId);
    const before = await rowsOf();
    jest.spyOn(JobStore.prototype, 'begun').mockRejectedValue(new Error('ended here'));
    await expect(arkiv.takeIn({ shootId: first.shootId, known: [] })).rejects.toThrow();
    jest.restoreAllMocks();
    expect(await rowsOf()).toEqual(before);
  });

  it('are handed off, delivered, moved and cleared with all their files, or not at all', async () => {
    const { jobId, shootId } = await arkiv.takeIn();
    await arkiv.rest(jobId);
    const { id } = await arkiv.frames(shootId);
    const operations = id.slice(0, 3).map((subject) => ({
      ...{ id: ulid(), subject, kind: 'verdict', from: 'undecided', to: 'keep' },
      ...{ at: Date.now(), group: ulid(), window: ulid() },
    }));
    await arkiv.post('/marks', { operations });
    const count = async (table: string): Promise<number> => {
      const [{ n }]: [{ n: number }] = await arkiv.app
        .get(Reading)
        .source.query(`SELECT COUNT(*) AS n FROM ${table}`);
      return n;
    };
    const volumeId = await arkiv.volumeId('edit');
    jest.spyOn(JobStore.prototype, 'begun').mockRejectedValue(new Error('ended here'));
    const asked: [string, object][] = [
      [`/shoots/${shootId}/handoffs`, { volumeId }],
      ['/moves', { kind: 'split', shootId, frameIds: id.slice(0, 2), title: 'Curtain call', rename: true }],
    ];
    for (const [where, body] of asked) expect((await arkiv.ask('POST', where, body)).status).toBe(500);
    jest.restoreAllMocks();
    expect([await count('handoff'), await count('handoff_file'), await count('shoot')]).toEqual([0, 0, 1]);
    expect(await count('job')).toBe(1);
    const handed = await arkiv.post<{ jobId: string }>(`/shoots/${shootId}/handoffs`, { volumeId });
    expect((await arkiv.rest(handed.jobId)).job).toMatchObject({ state: 'done' });
    expect(await count('handoff_file')).toBeGreaterThanOrEqual(6);
  });
});

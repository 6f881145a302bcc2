import { UnitOfWork } from '../src/db/unitOfWork';
import type { Job } from '../src/jobs/job.entity';
import { JobStore, type NewJob } from '../src/jobs/jobStore';
import { JobsService } from '../src/jobs/jobs.service';
import { Ids } from '../src/system/ids';
import { dataWithCard, removeFolder, startArkiv, type TestArkiv } from './testArkiv';

describe('moving a shoot’s files, and copying or reading them', () => {
  let arkiv: TestArkiv;
  let data: string;
  let shootId: string;

  beforeEach(async () => {
    data = dataWithCard({ until: 'OCK_9970' });
    arkiv = await startArkiv(data);
    const started = await arkiv.takeIn();
    shootId = started.shootId;
    await arkiv.rest(started.jobId);
  });
  afterEach(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  /** A job that is there and does nothing yet, as one that was paused before its first file. */
  async function paused(
    kind: Job['kind'],
    of: string | null,
    params: object,
    items: { shootId?: string; assetId: string; path?: string; volumeId?: string; sha256?: string }[],
    subjects: NewJob['subjects'] = [],
  ): Promise<string> {
    const id = arkiv.app.get(Ids).newId();
    const jobs = arkiv.app.get(JobsService);
    const rows = items.map(({ shootId: its, ...row }) => ({
      size: 0,
      name: row.assetId,
      shootId: its,
      data: row,
    }));
    const store = arkiv.app.get(JobStore);
    await arkiv.app.get(UnitOfWork).write(async (m) => {
      await store.open(m, { id, kind, title: `${kind} job`, shootId: of, params, subjects }, rows);
      await store.add(m, id, 0, rows);
      await store.begun(m, id);
    });
    await jobs.pause(id);
    return id;
  }
  const assets = async () => {
    const rows: { assetId: string; shootId: string; sha256: string; path: string; volumeId: string }[] =
      await arkiv.app
        .get(UnitOfWork)
        .write((m) => m.query('SELECT "assetId", "shootId", sha256, "at" AS path, "volumeId" FROM copy_at'));
    return rows;
  };
  const rename = () =>
    arkiv.ask<{ code?: string; jobId: string }>('POST', '/moves', {
      ...{ kind: 'rename', shootId, pattern: 'x_{seq:3}', seqStart: 1, rename: true },
    });
  const busy = { status: 409, body: { code: 'move.busy' } };

  it.each(['verify', 'copy'] as const)(
    'does not begin to move while a %s of the whole archive has files of it to do',
    async (kind) => {
      const id = await paused(kind, null, { away: [] }, await assets());
      expect(await rename()).toMatchObject(busy);
      await arkiv.post(`/jobs/${id}/cancel`);
      const started = await rename();
      expect((await arkiv.rest(started.body.jobId)).job.state).toBe('done');
    },
  );

  it('does not begin to move while reading the whole archive has not come to its shoot yet, and does after it', async () => {
    const id = await paused('verify', null, { on: [], away: [] }, []);
    const reached = (ahead: string | null) =>
      arkiv.app.get(UnitOfWork).write((m) => arkiv.app.get(JobStore).change(m, id, { ahead }));
    await reached('');
    expect(await rename()).toMatchObject(busy);
    await reached(shootId);
    expect(await rename()).toMatchObject(busy);
    await reached(`${shootId}~`);
    expect((await rename()).status).toBe(201);
  });

  it('moves beside a job across the archive that has nothing of it left to do', async () => {
    await paused('verify', null, { away: [] }, [
      { assetId: 'of another shoot', path: 'x', volumeId: 'y', sha256: 'z' },
    ]);
    expect((await rename()).status).toBe(201);
  });

  it('does not move while a card is being cleared, which reads the copies', async () => {
    await paused(
      'clear',
      null,
      { readerId: 'slot-1', card: 'card-a', required: 2 },
      [],
      [
        { kind: 'reader', id: 'slot-1', deed: 'clears' },
        { kind: 'shoot', id: '*', deed: 'reads' },
      ],
    );
    expect(await rename()).toMatchObject(busy);
  });

  it('does not begin to copy, read or clear while files have two names', async () => {
    const id = await paused(
      'move',
      shootId,
      { kind: 'rename', from: shootId, into: shootId, made: false },
      [],
      [{ kind: 'shoot', id: shootId, deed: 'moves' }],
    );
    expect(await arkiv.ask('POST', '/copies/verifications', {})).toMatchObject(busy);
    expect(await arkiv.ask('POST', '/copies/verifications', { shootId })).toMatchObject(busy);
    const { fingerprint } = await arkiv.get<{ fingerprint: string }>('/readers/slot-1/card');
    expect(await arkiv.ask('POST', '/readers/slot-1/clear', { fingerprint })).toMatchObject(busy);
    await arkiv.post(`/jobs/${id}/cancel`);
    expect((await arkiv.ask('POST', '/copies/verifications', {})).status).toBe(201);
  });

  it('does not begin once more while the other is at work', async () => {
    const { jobId: verified } = await arkiv.post<{ jobId: string }>('/copies/verifications', {});
    await arkiv.rest(verified);
    const { body } = await rename();
    await arkiv.rest(body.jobId);
    const moving = await paused(
      'move',
      shootId,
      { kind: 'rename', from: shootId, into: shootId, made: false },
      [],
      [{ kind: 'shoot', id: shootId, deed: 'moves' }],
    );
    // Files are left to do in it: they would be read under the names of before.
    await arkiv.app
      .get(UnitOfWork)
      .write((m) => m.query(`UPDATE job_item SET state = 'failed' WHERE "jobId" = ?`, [verified]));
    expect(await arkiv.ask('POST', `/jobs/${verified}/retry`)).toMatchObject(busy);
    await arkiv.post(`/jobs/${moving}/cancel`);
    await paused('verify', null, { away: [] }, await assets());
    expect(await arkiv.ask('POST', `/jobs/${body.jobId}/retry`)).toMatchObject(busy);
  });
});

import { UnitOfWork } from '../src/db/unitOfWork';
import type { Job } from '../src/jobs/job.entity';
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
    items: object[],
  ): Promise<string> {
    const id = arkiv.app.get(Ids).newId();
    const jobs = arkiv.app.get(JobsService);
    const rows = items.map((row) => ({ size: 0, data: row }));
    await arkiv.app
      .get(UnitOfWork)
      .write((m) => jobs.create(m, { id, kind, title: `${kind} job`, shootId: of, params }, rows));
    await jobs.pause(id);
    return id;
  }
  const assets = async () => {
    const rows: { id: string; sha256: string; path: string; volumeId: string }[] = await arkiv.app
      .get(UnitOfWork)
      .write((m) =>
        m.query('SELECT a.id, a.sha256, c.path, c."volumeId" FROM asset a JOIN copy c ON c."assetId" = a.id'),
      );
    return rows.map(({ id, ...rest }) => ({ ...rest, assetId: id }));
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

  it('moves beside a job across the archive that has nothing of it left to do', async () => {
    await paused('verify', null, { away: [] }, [
      { assetId: 'of another shoot', path: 'x', volumeId: 'y', sha256: 'z' },
    ]);
    expect((await rename()).status).toBe(201);
  });

  it('does not move while a card is being cleared, which reads the copies', async () => {
    await paused('clear', null, { readerId: 'slot-1', card: 'card-a', required: 2 }, []);
    expect(await rename()).toMatchObject(busy);
  });

  it('does not begin to copy, read or clear while files have two names', async () => {
    const id = await paused(
      'move',
      shootId,
      { kind: 'rename', from: shootId, into: shootId, made: false },
      [],
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

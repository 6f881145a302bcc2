import type { Job, JobItem } from '../src/jobs/job.entity';
import { WaitForOutside, type ItemContext, type ItemOutcome, type JobHandler } from '../src/jobs/jobHandler';
import type { Lane } from '../src/jobs/lanes';
import { JobStore } from '../src/jobs/jobStore';
import { JobsService } from '../src/jobs/jobs.service';
import { MountsService } from '../src/mounts/mounts.service';
import { VolumesService } from '../src/volumes/volumes.service';
import { UnitOfWork } from '../src/db/unitOfWork';
import { Happenings } from '../src/events/domainEvents';
import { EventsService, type ServerEvent } from '../src/events/events.service';
import { Ids } from '../src/system/ids';
import { ArkivError } from '@arkiv/core';
import { removeFolder, startArkiv, temporaryFolder, type TestArkiv } from './testArkiv';

/** A kind of work that does what a test tells it. */
class PlayedWork implements JobHandler {
  readonly kind = 'handoff';
  inFlight = 1;
  begun = 0;
  ran: number[] = [];
  atOnce = 0;
  mostAtOnce = 0;
  onBegin: () => void = () => undefined;
  onItem: (item: JobItem, context: ItemContext) => Promise<ItemOutcome> = () =>
    Promise.resolve({ state: 'done' });

  begin(): Promise<void> {
    this.begun += 1;
    this.onBegin();
    return Promise.resolve();
  }

  async runItem(_: Job, item: JobItem, context: ItemContext): Promise<ItemOutcome> {
    this.ran.push(item.seq);
    this.atOnce += 1;
    this.mostAtOnce = Math.max(this.mostAtOnce, this.atOnce);
    try {
      return await this.onItem(item, context);
    } finally {
      this.atOnce -= 1;
    }
  }

  lane(): Lane {
    return { bulk: true, way: null, first: false };
  }

  finish(): Promise<object> {
    return Promise.resolve({});
  }
}

const soon = () => new Promise((resolve) => setTimeout(resolve, 5));

describe('long work', () => {
  let arkiv: TestArkiv;
  let data: string;
  let work: PlayedWork;

  beforeEach(async () => {
    data = temporaryFolder();
    await begin();
  });
  afterEach(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  async function begin(): Promise<void> {
    work = new PlayedWork();
    arkiv = await startArkiv(data);
    arkiv.app.get(JobsService).register(work);
  }

  async function start(count: number, size = 10): Promise<string> {
    const id = arkiv.app.get(Ids).newId();
    const jobs = arkiv.app.get(JobsService);
    const items = Array.from({ length: count }, (_, i) => ({ size, name: `file ${i}`, data: {} }));
    await jobs.begin([{ job: { id, kind: 'handoff', title: 'test', shootId: null, params: {} }, items }]);
    return id;
  }

  it('does every item once, as many at a time as it may', async () => {
    work.inFlight = 3;
    // The first three wait for each other, and then a little, so that a fourth would have the time to begin.
    let meet = () => {};
    const met = new Promise<void>((resolve) => (meet = resolve)).then(soon);
    work.onItem = async () => {
      if (work.ran.length === 3) meet();
      await met;
      return { state: 'done' };
    };
    const id = await start(20);
    expect((await arkiv.rest(id)).job).toMatchObject({
      state: 'done',
      filesDone: 20,
      filesFailed: 0,
      filesTotal: 20,
    });
    expect([...work.ran].sort((a, b) => a - b)).toEqual(Array.from({ length: 20 }, (_, i) => i));
    expect(work.mostAtOnce).toBe(3);
  });

  it('of no items at all ends at once', async () => {
    expect((await arkiv.rest(await start(0))).job).toMatchObject({ state: 'done', filesTotal: 0 });
  });

  it('goes on past an item that fails, and names it in the report', async () => {
    work.onItem = (item) =>
      Promise.resolve(item.seq === 2 ? { state: 'failed', reason: 'no luck' } : { state: 'done' });
    const report = await arkiv.rest(await start(5));
    expect(report.job).toMatchObject({ state: 'done', filesDone: 4, filesFailed: 1 });
    expect(report.failures).toEqual([{ file: 'file 2', reason: 'no luck' }]);
  });

  it('tries again only what failed', async () => {
    let luck = false;
    work.onItem = (item) =>
      Promise.resolve(item.seq % 2 && !luck ? { state: 'failed', reason: 'no' } : { state: 'done' });
    const id = await start(6);
    await arkiv.rest(id);
    luck = true;
    work.ran = [];
    await arkiv.post(`/jobs/${id}/retry`);
    expect((await arkiv.rest(id)).job).toMatchObject({ state: 'done', filesFailed: 0, filesDone: 6 });
    expect(work.ran).toEqual([1, 3, 5]);
  });

  it('goes on when what it waits for returns before it was written down that it waits', async () => {
    // Nothing else may wake it: what is found at the start has been told by then.
    await arkiv.app.get(MountsService).settled();
    await arkiv.app.get(VolumesService).lookAround();
    let there = false;
    work.onItem = () => {
      if (there) return Promise.resolve({ state: 'done' });
      // Gone, and back at once: the event comes while the job still runs.
      there = true;
      arkiv.app.get(Happenings).tell('volumes', {});
      return Promise.reject(new WaitForOutside('the drive is away'));
    };
    const id = await start(2);
    for (let i = 0; i < 400; i++) {
      const { job } = await arkiv.get<{ job: { state: string } }>(`/jobs/${id}`);
      if (job.state === 'done') break;
      await soon();
    }
    expect((await arkiv.rest(id)).job).toMatchObject({ state: 'done', filesDone: 2 });
    expect(work.begun).toBe(2);
  });

  it('stops when asked to pause, and carries on with the item it was at', async () => {
    let hold: () => void = () => undefined;
    work.onItem = async (item, { signal }) => {
      if (item.seq === 3)
        await new Promise<void>((resolve, reject) => {
          hold = resolve;
          signal.addEventListener('abort', () => reject(new Error('stopped')));
        });
      return { state: 'done' };
    };
    const id = await start(6);
    while (!work.ran.includes(3)) await soon();
    await arkiv.post(`/jobs/${id}/pause`);
    expect((await arkiv.rest(id)).job).toMatchObject({ state: 'paused', filesDone: 3 });
    expect(await arkiv.ask('POST', `/jobs/${id}/pause`)).toMatchObject({
      status: 409,
      body: { code: 'job.state' },
    });
    work.onItem = () => Promise.resolve({ state: 'done' });
    await arkiv.post(`/jobs/${id}/resume`);
    expect((await arkiv.rest(id)).job).toMatchObject({ state: 'done', filesDone: 6 });
    expect(work.ran).toEqual([0, 1, 2, 3, 3, 4, 5]);
    hold();
  });

  it('that goes already is carried on without complaint, and no item is done twice for it', async () => {
    let hold: () => void = () => undefined;
    work.onItem = async (item) => {
      if (item.seq === 0) await new Promise<void>((resolve) => (hold = resolve));
      return { state: 'done' };
    };
    const id = await start(3);
    while (!work.ran.includes(0)) await soon();
    await arkiv.post(`/jobs/${id}/resume`);
    hold();
    expect((await arkiv.rest(id)).job).toMatchObject({ state: 'done', filesDone: 3 });
    expect(work.ran).toEqual([0, 1, 2]);
  });

  it('leaves the rest undone when it is stopped for good', async () => {
    work.onItem = (item, { signal }) =>
      item.seq < 2
        ? Promise.resolve({ state: 'done' })
        : new Promise((_, reject) => signal.addEventListener('abort', () => reject(new Error('stopped'))));
    const id = await start(5);
    while (!work.ran.includes(2)) await soon();
    await arkiv.post(`/jobs/${id}/cancel`);
    expect((await arkiv.rest(id)).job).toMatchObject({ state: 'cancelled', filesDone: 2 });
    expect(await arkiv.ask('POST', `/jobs/${id}/resume`)).toMatchObject({ status: 409 });
  });

  it('waits for what is outside, and carries on by itself when a reader or volume comes back', async () => {
    let there = false;
    work.onBegin = () => {
      if (!there) throw new WaitForOutside('The drive is away.');
    };
    const id = await start(2);
    expect((await arkiv.rest(id)).job).toMatchObject({ state: 'waiting', reason: 'The drive is away.' });
    there = true;
    arkiv.app.get(Happenings).tell('volumes', {});
    for (let i = 0; i < 200 && (await arkiv.rest(id)).job.state !== 'done'; i++) await soon();
    expect((await arkiv.rest(id)).job).toMatchObject({ state: 'done', reason: null });
  });

  it('keeps the first cause when several items break off together', async () => {
    work.inFlight = 3;
    work.onItem = async (item, { signal }) => {
      if (item.seq === 1) throw new WaitForOutside('the card is gone');
      while (!signal.aborted) await soon();
      throw new Error('only followed');
    };
    expect((await arkiv.rest(await start(4))).job).toMatchObject({
      state: 'waiting',
      reason: 'the card is gone',
    });
  });

  it('fails with the words of the catalogue, and with the defect’s own where it is one', async () => {
    work.onBegin = () => {
      throw new ArkivError('volume.changed', { volume: 'Backup' });
    };
    expect((await arkiv.rest(await start(1))).job).toMatchObject({
      state: 'failed',
      reason: expect.stringMatching(/now holds another drive\. Plug in/) as string,
    });
    work.onBegin = () => {
      throw new Error('a defect');
    };
    expect((await arkiv.rest(await start(1))).job).toMatchObject({ state: 'failed', reason: 'a defect' });
  });

  it('keeps its place over a restart of the server', async () => {
    work.onItem = (item, { signal }) =>
      item.seq < 3
        ? Promise.resolve({ state: 'done' })
        : new Promise((_, reject) => signal.addEventListener('abort', () => reject(new Error('stopped'))));
    const id = await start(6);
    while (!work.ran.includes(3)) await soon();
    await arkiv.post(`/jobs/${id}/pause`);
    await arkiv.stop();
    await begin();
    expect((await arkiv.rest(id)).job).toMatchObject({ state: 'paused', filesDone: 3 });
    await arkiv.post(`/jobs/${id}/resume`);
    expect((await arkiv.rest(id)).job).toMatchObject({ state: 'done', filesDone: 6 });
    expect(work.ran).toEqual([3, 4, 5]);
  });

  it('tells its progress in files and bytes by numbered events', async () => {
    const seen: ServerEvent[] = [];
    arkiv.app.get(EventsService).stream.subscribe((event) => event.type === 'job' && seen.push(event));
    work.onItem = async (item, { onBytes }) => {
      onBytes(item.size / 2);
      await soon();
      onBytes(item.size / 2);
      return { state: 'done' };
    };
    await arkiv.rest(await start(60, 1000));
    await soon();
    const numbers = seen.map((e) => Number(e.id.slice(e.id.lastIndexOf('-') + 1)));
    expect(numbers).toEqual([...numbers].sort((a, b) => a - b));
    const bytes = seen.map((e) => (e.data as { bytesDone: number }).bytesDone);
    expect(bytes).toEqual([...bytes].sort((a, b) => a - b));
    expect(seen.at(-1)!.data).toMatchObject({ state: 'done', bytesDone: 60_000, filesDone: 60 });
  });

  it('is not found under an id that does not exist', async () => {
    for (const what of ['pause', 'resume', 'cancel', 'retry'])
      expect((await arkiv.ask('POST', `/jobs/none/${what}`)).status).toBe(404);
  });

  it('makes its items as it goes, no more than it takes up, and goes on where it was', async () => {
    let made = 0;
    const more = (_: Job, last: JobItem | null) => {
      made += 1;
      const from = (last?.seq ?? -1) + 1;
      const items =
        from >= 25 ? [] : [0, 1, 2, 3, 4].map((i) => ({ size: 1, name: `file ${from + i}`, data: {} }));
      return Promise.resolve({ items, ahead: String(from) });
    };
    Object.assign(work, { more });
    work.onItem = (item) => {
      if (item.seq === 12) return Promise.reject(new WaitForOutside('the drive is away'));
      return Promise.resolve({ state: 'done' });
    };
    const id = arkiv.app.get(Ids).newId();
    const total = { files: 25, bytes: 25 };
    const job = { id, kind: 'handoff' as const, title: 't', shootId: null, params: {}, total, ahead: '' };
    await arkiv.app.get(JobsService).begin([{ job, items: [] }]);
    expect((await arkiv.rest(id)).job).toMatchObject({ state: 'waiting', filesDone: 12, filesTotal: 25 });
    // No more were made than were taken up.
    expect(made).toBe(3);
    // A drive that reports late would wake it, with the work as it was: a job that is paused is woken by nobody.
    await arkiv.post(`/jobs/${id}/pause`);
    work.ran = [];
    work.onItem = () => Promise.resolve({ state: 'done' });
    await arkiv.post(`/jobs/${id}/resume`);
    expect((await arkiv.rest(id)).job).toMatchObject({ state: 'done', filesDone: 25, bytesDone: 25 });
    expect(work.ran).toEqual(Array.from({ length: 13 }, (_, i) => 12 + i));
    expect((await arkiv.app.get(JobStore).get(id)).ahead).toBeNull();
  });

  it('that is over for a month goes with its items; one that failed and nobody has seen stays', async () => {
    const jobs = arkiv.app.get(JobsService);
    const [old, failed, recent] = [await start(700), await start(3), await start(3)];
    for (const id of [old, failed, recent]) await arkiv.rest(id);
    const month = 31 * 24 * 60 * 60 * 1000;
    await arkiv.app.get(UnitOfWork).write(async (m) => {
      for (const id of [old, failed])
        await m.query(`UPDATE job SET "finishedAt" = ? WHERE id = ?`, [Date.now() - month, id]);
      await m.query(`UPDATE job SET state = 'failed' WHERE id = ?`, [failed]);
    });
    await jobs.prune();
    const left = (await arkiv.get<{ id: string }[]>('/jobs')).map(({ id }) => id);
    expect(left.sort()).toEqual([failed, recent].sort());
    expect(await arkiv.app.get(JobStore).count(old, ['done'])).toBe(0);
    await arkiv.post(`/jobs/${failed}/seen`);
    await jobs.prune();
    expect((await arkiv.get<{ id: string }[]>('/jobs')).map(({ id }) => id)).toEqual([recent]);
  });

  it('is listed page by page, the newest first', async () => {
    const ids: string[] = [];
    for (let i = 0; i < 5; i++) ids.unshift(await start(1));
    for (const id of ids) await arkiv.rest(id);
    const after = await arkiv.get<{ id: string }[]>(`/jobs?before=${ids[1]}`);
    expect(after.map(({ id }) => id)).toEqual(ids.slice(2));
  });
});

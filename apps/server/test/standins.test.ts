import { readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import {
  cardOf,
  dataWithCard,
  filesBelow,
  isLeftOver,
  outsideManifest,
  removeFolder,
  startArkiv,
  volumeOf,
  type TestArkiv,
} from './testArkiv';

interface StandIns {
  cards: string[];
  slots: { id: string; card: string | null; unreadable: string[]; pullAfterBytes: number | null }[];
  drives: { id: string; state: string; bytesUntilFull: number | null }[];
}

const FOLDER = '2026/2026-10-16_press-night';

describe('the simulated reader and drives', () => {
  let arkiv: TestArkiv;
  let data: string;

  beforeEach(async () => {
    data = dataWithCard({ until: 'OCK_9975' });
    arkiv = await startArkiv(data);
  });
  afterEach(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  const put = async (where: string, body: object): Promise<StandIns> => {
    const answer = await arkiv.ask<StandIns>('PUT', `/stand-ins${where}`, body);
    expect(answer.status).toBe(200);
    return answer.body;
  };
  const contents = (folder: string) =>
    [...outsideManifest(folder)]
      .filter(([name]) => !/\.(xmp|json|sha256)(\.|$)/.test(name))
      .map(([, sha256]) => sha256)
      .sort();
  const copied = (volume: 'working' | 'backup') =>
    contents(path.join(volumeOf(data, volume), FOLDER, 'originals'));
  const done = async (jobId: string) => {
    for (let i = 0; i < 200 && (await arkiv.rest(jobId)).job.state !== 'done'; i++)
      await new Promise((resolve) => setTimeout(resolve, 50));
    return arkiv.rest(jobId);
  };

  it('are all well at the start, and show what lies on the table', async () => {
    const well = {
      bytesPerSecond: null,
      cutAfterBytes: null,
      bytesUntilFull: null,
      refuses: false,
      changesNext: false,
    };
    const server = (id: string, name: string) => ({
      ...{ id, name, port: expect.any(Number) as number, user: 'studio', password: 'stand-in', ...well },
    });
    expect(await arkiv.get('/stand-ins')).toEqual({
      servers: [
        server('webdav', 'WebDAV server'),
        server('sftp', 'SFTP server'),
        server('smtp', 'Mail server'),
      ],
      cards: ['card-a'],
      slots: [
        {
          id: 'slot-1',
          name: 'Reader 1',
          card: 'card-a',
          bytesPerSecond: null,
          pullAfterBytes: null,
          unreadable: [],
        },
        {
          id: 'slot-2',
          name: 'Reader 2',
          card: null,
          bytesPerSecond: null,
          pullAfterBytes: null,
          unreadable: [],
        },
      ],
      drives: ['working', 'backup', 'edit'].map((id) => ({
        id,
        name: `${id[0]!.toUpperCase()}${id.slice(1)} drive`,
        state: 'well',
        bytesUntilFull: null,
      })),
    });
  });

  it('pull a card out in the middle of reading: the intake waits, and carries on with the card', async () => {
    const oracle = contents(cardOf(data));
    const request = await arkiv.intakeRequest();
    await put('/slots/slot-1', { pullAfterBytes: 150_000 });
    const { jobId } = await arkiv.post<{ jobId: string }>('/intakes', request);
    const waiting = await arkiv.rest(jobId);
    expect(waiting.job).toMatchObject({
      state: 'waiting',
      reason: expect.stringMatching(/Insert it again/) as string,
    });
    expect((await arkiv.get<StandIns>('/stand-ins')).slots[0]).toMatchObject({
      card: null,
      pullAfterBytes: null,
    });
    await arkiv.post('/stand-ins/slots/slot-1/insert', { card: 'card-a' });
    expect((await done(jobId)).job).toMatchObject({ state: 'done', filesFailed: 0 });
    expect(copied('working')).toEqual(oracle);
    expect(copied('backup')).toEqual(oracle);
  });

  it('hold a card in one slot only: putting it into the other takes it out of the first', async () => {
    await arkiv.post('/stand-ins/slots/slot-2/insert', { card: 'card-a' });
    const { slots } = await arkiv.get<StandIns>('/stand-ins');
    expect(slots.map((slot) => slot.card)).toEqual([null, 'card-a']);
  });

  it('give the first half of an unreadable file: it is named with the byte, all others are copied', async () => {
    const bad = 'DCIM/100OCKHM/OCK_9970.JPG';
    const oracle = outsideManifest(cardOf(data));
    await put('/slots/slot-1', { unreadable: [bad] });
    const { jobId } = await arkiv.takeIn();
    const report = await arkiv.rest(jobId);
    expect(report.failures).toEqual([
      {
        file: bad,
        reason: expect.stringMatching(/cannot be read at bytes [1-9]\d*–\d+ of \d+: EIO/) as string,
      },
    ]);
    const others = [...oracle]
      .filter(([name]) => name !== bad)
      .map(([, sha256]) => sha256)
      .sort();
    expect(copied('working')).toEqual(others);
    expect(await arkiv.get('/readers/slot-1/clearance')).toMatchObject({ safe: false });
    await put('/slots/slot-1', { unreadable: [] });
    await arkiv.post(`/jobs/${jobId}/retry`);
    expect((await arkiv.rest(jobId)).job.filesFailed).toBe(0);
    expect(copied('working')).toEqual([...oracle.values()].sort());
  });

  it('read no faster than they are told', async () => {
    const card = await arkiv.get<{ bytes: number }>('/readers/slot-1/card');
    const request = await arkiv.intakeRequest();
    const bytesPerSecond = Math.round(card.bytes / 0.8);
    await put('/slots/slot-1', { bytesPerSecond });
    const before = Date.now();
    const { jobId } = await arkiv.post<{ jobId: string }>('/intakes', request);
    await arkiv.rest(jobId);
    // A least time, not a most: a slow machine cannot fail it. Timers may fire a millisecond early.
    expect(Date.now() - before).toBeGreaterThan(790);
  });

  it('run full after so many bytes: the other drive goes on, and the rest is done when there is room', async () => {
    const oracle = contents(cardOf(data));
    await put('/drives/backup', { state: 'well', bytesUntilFull: 100_000_000 });
    const request = await arkiv.intakeRequest();
    // Enough room when it was asked for, and taken by something else since.
    const { jobId } = await arkiv.post<{ jobId: string }>('/intakes', request);
    await put('/drives/backup', { state: 'well', bytesUntilFull: 60_000 });
    const report = await arkiv.rest(jobId);
    expect(report.failures[0]!.reason).toMatch(/“Backup drive” is full/);
    expect(copied('working')).toEqual(oracle);
    expect(filesBelow(volumeOf(data, 'backup')).filter((f) => isLeftOver(f))).toEqual([]);
    await put('/drives/backup', { state: 'well' });
    await arkiv.post(`/jobs/${jobId}/retry`);
    expect((await arkiv.rest(jobId)).job.filesFailed).toBe(0);
    expect(copied('backup')).toEqual(oracle);
  });

  it('are not begun with when a drive is full already', async () => {
    const request = await arkiv.intakeRequest();
    await put('/drives/backup', { state: 'full' });
    expect(await arkiv.ask('POST', '/intakes', request)).toMatchObject({
      status: 507,
      body: { code: 'volume.full' },
    });
  });

  it('are unplugged: the drive is offline, the other gets all, and the shoot says what is missing', async () => {
    const request = await arkiv.intakeRequest();
    const { jobId } = await arkiv.post<{ jobId: string; shootId: string }>('/intakes', request);
    await put('/drives/backup', { state: 'unplugged' });
    const report = await arkiv.rest(jobId);
    expect(report.job.filesFailed).toBeGreaterThan(0);
    expect(copied('working')).toEqual(contents(cardOf(data)));
    const volumes = await arkiv.get<{ role: string; online: boolean }[]>('/volumes');
    expect(volumes.find((v) => v.role === 'backup')).toMatchObject({ online: false });
    const [shoot] = await arkiv.get<{ missingCopies: number; files: number }[]>('/shoots');
    expect(shoot!.missingCopies).toBe(report.job.filesFailed);
    await put('/drives/backup', { state: 'well' });
    await arkiv.post(`/jobs/${jobId}/retry`);
    await arkiv.rest(jobId);
    expect((await arkiv.get<{ missingCopies: number }[]>('/shoots'))[0]).toMatchObject({ missingCopies: 0 });
    const after = await arkiv.get<{ role: string; files: number; onlyHere: number }[]>('/volumes');
    expect(after.map(({ files, onlyHere }) => [files > 0, onlyHere])).toEqual([
      [true, 0],
      [true, 0],
      [false, 0],
    ]);
  });

  it('are read-only: nothing is written there, and the reason says so', async () => {
    const request = await arkiv.intakeRequest();
    await put('/drives/backup', { state: 'read-only' });
    const before = filesBelow(volumeOf(data, 'backup'));
    const { jobId } = await arkiv.post<{ jobId: string }>('/intakes', request);
    const report = await arkiv.rest(jobId);
    expect(report.failures[0]!.reason).toMatch(/“Backup drive” cannot be written to/);
    // Nothing reached it, so there is nothing to prove there.
    expect(report.job).toMatchObject({ state: 'done', reason: null });
    expect(copied('working')).toEqual(contents(cardOf(data)));
    const receipts = () =>
      (['working', 'backup'] as const).map(
        (name) => filesBelow(volumeOf(data, name)).filter((f) => f.endsWith('.sha256')).length,
      );
    expect(receipts()).toEqual([2, 0]);
    expect(filesBelow(volumeOf(data, 'backup'))).toEqual(before);
    await put('/drives/backup', { state: 'well' });
    await arkiv.post(`/jobs/${jobId}/retry`);
    expect((await arkiv.rest(jobId)).job).toMatchObject({ state: 'done', reason: null, filesFailed: 0 });
    // One receipt and one manifest; on the first drive both say the same as before.
    expect(receipts()).toEqual([2, 2]);
  });

  it('refuse a receipt: the intake is done, says what is missing, and writes it when it can', async () => {
    await arkiv.rest((await arkiv.takeIn()).jobId);
    const folder = path.join(cardOf(data), 'DCIM/100OCKHM');
    const old = readFileSync(path.join(folder, 'OCK_9969.JPG'));
    // One byte more behind the picture's end: a picture that is new to the archive.
    writeFileSync(path.join(folder, 'OCK_9990.JPG'), Buffer.concat([old, Buffer.from('x')]));
    const request = await arkiv.intakeRequest({ title: 'Second look' });
    await put('/drives/backup', { state: 'read-only' });
    const { jobId } = await arkiv.post<{ jobId: string }>('/intakes', request);
    const { job, failures } = await arkiv.rest(jobId);
    expect(job).toMatchObject({
      state: 'done',
      reason: expect.stringMatching(/^The receipt is missing on Backup drive: /) as string,
    });
    expect(failures).toHaveLength(1);
    await put('/drives/backup', { state: 'well' });
    await arkiv.post(`/jobs/${jobId}/retry`);
    expect((await arkiv.rest(jobId)).job).toMatchObject({ state: 'done', reason: null, filesFailed: 0 });
    const receipts = filesBelow(volumeOf(data, 'backup')).filter((f) => f.includes('/receipts/'));
    expect(receipts.filter((f) => f.includes('second-look'))).toHaveLength(2);
  });

  it('answer for unknown slots, cards and drives, and for numbers that make no sense', async () => {
    expect(await arkiv.ask('PUT', '/stand-ins/slots/slot-9', {})).toMatchObject({ status: 404 });
    expect(await arkiv.ask('PUT', '/stand-ins/drives/attic', { state: 'well' })).toMatchObject({
      status: 404,
    });
    expect(await arkiv.ask('POST', '/stand-ins/slots/slot-2/insert', { card: 'nowhere' })).toMatchObject({
      status: 404,
    });
    expect(await arkiv.ask('PUT', '/stand-ins/drives/backup', { state: 'broken' })).toMatchObject({
      status: 400,
    });
    expect(await arkiv.ask('PUT', '/stand-ins/slots/slot-1', { bytesPerSecond: -1 })).toMatchObject({
      status: 400,
    });
  });
});

describe('outside of demo and tests', () => {
  it('there is no such thing as a stand-in', async () => {
    const data = dataWithCard({ until: 'OCK_9969' });
    const arkiv = await startArkiv(data, undefined, { standIns: false });
    try {
      expect(await arkiv.ask('GET', '/stand-ins')).toMatchObject({ status: 404 });
      expect(await arkiv.get('/readers')).toEqual([]);
    } finally {
      await arkiv.stop();
      removeFolder(data);
    }
  });
});

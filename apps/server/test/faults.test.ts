import { readFileSync, symlinkSync, truncateSync, writeFileSync } from 'node:fs';
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
import { diskError, FaultyDisk } from './faultyDisk';

const FOLDER = '2026/2026-10-16_press-night';
const TITLE = { title: 'Press night' };

describe('an intake that meets a fault', () => {
  let arkiv: TestArkiv;
  let disk: FaultyDisk;
  let data: string;

  beforeEach(async () => {
    data = dataWithCard({ until: 'OCK_9981' });
    disk = new FaultyDisk();
    arkiv = await startArkiv(data, disk);
  });
  afterEach(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  const originals = (volume: 'working' | 'backup') =>
    outsideManifest(path.join(volumeOf(data, volume), FOLDER, 'originals'));
  const photos = (manifest: Map<string, string>) =>
    [...manifest]
      .filter(([name]) => !/\.xmp(\.|$)/.test(name))
      .map(([, sha]) => sha)
      .sort();
  const noParts = () =>
    expect(filesBelow(path.join(data, 'stand-ins/volumes')).filter((f) => isLeftOver(f))).toEqual([]);

  it('waits when the card is pulled out, and carries on when it is back', async () => {
    const oracle = outsideManifest(cardOf(data));
    const request = await arkiv.intakeRequest(TITLE);
    let opened = 0;
    disk.onOpen = (file) => {
      if (file.includes('/slot-1/DCIM') && ++opened === 8) void arkiv.post('/readers/slot-1/eject');
    };
    const { jobId } = await arkiv.post<{ jobId: string }>('/intakes', request);
    const waiting = await arkiv.rest(jobId);
    expect(waiting.job.state).toBe('waiting');
    expect(waiting.job.reason).toMatch(/Insert it again/);
    disk.onOpen = () => undefined;
    await arkiv.post('/stand-ins/slots/slot-1/insert', { card: 'card-a' });
    for (let i = 0; i < 200 && (await arkiv.rest(jobId)).job.state !== 'done'; i++)
      await new Promise((r) => setTimeout(r, 50));
    expect((await arkiv.rest(jobId)).job).toMatchObject({ state: 'done', filesFailed: 0 });
    expect(photos(originals('working'))).toEqual([...oracle.values()].sort());
    noParts();
  });

  it('refuses another card in the same reader', async () => {
    const request = await arkiv.intakeRequest(TITLE);
    truncateSync(path.join(cardOf(data), 'MISC/COUNTER.DAT'), 3);
    expect(await arkiv.ask('POST', '/intakes', request)).toMatchObject({
      status: 409,
      body: { code: 'card.other' },
    });
  });

  it('goes on with the other drive when one runs full, and can do the rest later', async () => {
    let written = 0;
    disk.onWrite = (file, bytes) => {
      if (
        file.includes('/volumes/backup/') &&
        file.includes('/originals/') &&
        (written += bytes.byteLength) > 60_000
      )
        throw diskError('ENOSPC');
      return bytes;
    };
    const oracle = outsideManifest(cardOf(data));
    const { jobId } = await arkiv.takeIn(TITLE);
    const report = await arkiv.rest(jobId);
    expect(report.job.state).toBe('done');
    expect(report.job.filesFailed).toBeGreaterThan(0);
    expect(report.failures[0]!.reason).toMatch(/“Backup drive” is full.*Free some space/);
    expect(photos(originals('working'))).toEqual([...oracle.values()].sort());
    noParts();
    expect(await arkiv.get('/readers/slot-1/clearance')).toMatchObject({ safe: false });
    disk.onWrite = (_, bytes) => bytes;
    await arkiv.post(`/jobs/${jobId}/retry`);
    expect((await arkiv.rest(jobId)).job).toMatchObject({ state: 'done', filesFailed: 0 });
    expect(photos(originals('backup'))).toEqual([...oracle.values()].sort());
    expect(await arkiv.get('/readers/slot-1/clearance')).toMatchObject({ safe: true });
  });

  it('is not begun when the free space would not do', async () => {
    const request = await arkiv.intakeRequest(TITLE);
    disk.freeBytes = 1000;
    expect(await arkiv.ask('POST', '/intakes', request)).toMatchObject({
      status: 507,
      body: { code: 'volume.full' },
    });
    expect(filesBelow(volumeOf(data, 'working'))).toEqual(['.arkiv-volume.json']);
  });

  it('names a file that cannot be read, with the byte, and copies all others', async () => {
    // Facts are read when the card is listed: the fault begins after that.
    const request = await arkiv.intakeRequest(TITLE);
    disk.onRead = (file) => {
      if (file.endsWith('slot-1/DCIM/100OCKHM/OCK_9975.JPG')) throw diskError('EIO');
    };
    const { jobId } = await arkiv.post<{ jobId: string }>('/intakes', request);
    const report = await arkiv.rest(jobId);
    expect(report.failures).toEqual([
      {
        file: 'DCIM/100OCKHM/OCK_9975.JPG',
        reason: expect.stringMatching(/cannot be read at bytes 0–\d+ of \d+/) as string,
      },
    ]);
    expect(report.job.filesDone).toBe(report.job.filesTotal - 1);
    noParts();
    expect(await arkiv.get('/readers/slot-1/clearance')).toMatchObject({ safe: false });
  });

  it('throws away a copy in which a bit was flipped, and says so', async () => {
    let flipped = false;
    disk.onWrite = (file, bytes) => {
      if (flipped || !file.includes('/volumes/backup/') || !file.includes('_0007.jpg')) return bytes;
      flipped = true;
      const bad = Uint8Array.from(bytes);
      bad[bad.length >> 1]! ^= 0x10;
      return bad;
    };
    const { jobId } = await arkiv.takeIn(TITLE);
    const report = await arkiv.rest(jobId);
    expect(report.failures).toHaveLength(1);
    expect(report.failures[0]!.reason).toMatch(
      /differs from its source: expected [0-9a-f]{64}, found [0-9a-f]{64}/,
    );
    expect([...originals('backup').keys()].some((name) => name.endsWith('_0007.jpg'))).toBe(false);
    expect([...originals('working').keys()].some((name) => name.endsWith('_0007.jpg'))).toBe(true);
    noParts();
  });

  it('never overwrites a file that appears at its target', async () => {
    await strangerAtTarget(() => undefined);
  });

  it('never overwrites a file that appears at its target where a file system refuses links', async () => {
    await strangerAtTarget(() => {
      throw diskError('EPERM');
    });
  });

  /** Somebody's file takes the place in the moment between the look and the name. */
  async function strangerAtTarget(link: () => void): Promise<void> {
    let target = '';
    disk.onLink = (to) => {
      if (to.includes('/volumes/working/') && to.endsWith('_0003.jpg')) {
        target = to;
        writeFileSync(to, 'somebody else’s', { flag: 'wx' });
      }
      link();
    };
    const { jobId } = await arkiv.takeIn(TITLE);
    const report = await arkiv.rest(jobId);
    expect(report.failures.map((f) => f.reason)).toEqual([
      expect.stringMatching(/exists already.*Nothing was overwritten/),
    ]);
    expect(readFileSync(target, 'utf8')).toBe('somebody else’s');
    noParts();
  }

  it('goes on where a file system refuses links', async () => {
    disk.onLink = () => {
      throw diskError('EPERM');
    };
    const { jobId } = await arkiv.takeIn(TITLE);
    expect((await arkiv.rest(jobId)).job).toMatchObject({ state: 'done', filesFailed: 0 });
    noParts();
  });

  it('refuses a plan with two files of one name before anything is touched', async () => {
    const answer = await arkiv.ask<{ code: string; message: string }>(
      'POST',
      '/intakes',
      await arkiv.intakeRequest({ pattern: '{shoot}' }),
    );
    expect(answer).toMatchObject({ status: 422, body: { code: 'plan.problems' } });
    expect(answer.body.message).toMatch(/would both become/);
    expect(filesBelow(volumeOf(data, 'working'))).toEqual(['.arkiv-volume.json']);
  });

  it('refuses an unknown field and a folder that leaves the volume', async () => {
    expect(
      await arkiv.ask('POST', '/intakes', await arkiv.intakeRequest({ pattern: '{nope}_{seq:4}' })),
    ).toMatchObject({ status: 422, body: { code: 'plan.problems' } });
    const { folders } = await arkiv.get<{ folders: object }>('/settings');
    const out = await arkiv.ask(
      'POST',
      '/intakes',
      await arkiv.intakeRequest({ folders: { ...folders, path: '../../{shoot}' } }),
    );
    expect(out).toMatchObject({ status: 400, body: { code: 'path.outside' } });
    expect(filesBelow(volumeOf(data, 'working'))).toEqual(['.arkiv-volume.json']);
  });

  it('reports links on the card instead of following them', async () => {
    symlinkSync('/etc/passwd', path.join(cardOf(data), 'DCIM/link.jpg'));
    expect(await arkiv.get('/readers/slot-1/card')).toMatchObject({ notFollowed: ['DCIM/link.jpg'] });
    const { jobId } = await arkiv.takeIn(TITLE);
    await arkiv.rest(jobId);
    expect(await arkiv.get('/readers/slot-1/clearance')).toMatchObject({
      safe: false,
      reasons: [expect.stringMatching(/link\.jpg is a link/)],
    });
  });

  it('keeps a picture that cannot be decoded, and says so when it is looked at', async () => {
    writeFileSync(path.join(cardOf(data), 'DCIM/100OCKHM/OCK_9977.JPG'), 'no picture at all');
    const { jobId, shootId } = await arkiv.takeIn(TITLE);
    expect((await arkiv.rest(jobId)).job).toMatchObject({ state: 'done', filesFailed: 0 });
    const { picture, original } = (await arkiv.frames(shootId)) as unknown as Record<string, string[]>;
    const at = original!.indexOf('OCK_9977');
    expect(await arkiv.ask('GET', `/previews/v2/${picture![at]}/screen`)).toMatchObject({
      status: 422,
      body: { code: 'picture.undecodable' },
    });
    expect((await arkiv.ask('GET', '/health')).status).toBe(200);
  });

  it('can be paused and carried on', async () => {
    disk.onRead = (file) => {
      if (file.includes('/slot-1/')) Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, 15);
    };
    const { jobId } = await arkiv.takeIn(TITLE);
    await arkiv.post(`/jobs/${jobId}/pause`);
    expect((await arkiv.rest(jobId)).job.state).toBe('paused');
    noParts();
    disk.onRead = () => undefined;
    await arkiv.post(`/jobs/${jobId}/resume`);
    expect((await arkiv.rest(jobId)).job).toMatchObject({ state: 'done', filesFailed: 0 });
  });
});

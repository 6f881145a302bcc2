import { existsSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { ProofSchedule } from '../src/copies/proofSchedule.service';
import { Reading } from '../src/db/unitOfWork';
import { Clock } from '../src/system/clock';
import { filesBelow, removeFolder, takenIn, until, volumeOf, type TestArkiv } from './testArkiv';

interface Drive {
  id: string;
  name: string;
  oldestProof: number | null;
  failures: number;
  damaged: number;
}
interface ListedJob {
  id: string;
  kind: string;
  state: string;
  filesTotal: number;
}

const DAY = 24 * 60 * 60 * 1000;
const HOME = '2026/2026-10-16_press-night/originals';

describe('Copies are read again by themselves', () => {
  let arkiv: TestArkiv;
  let data: string;
  let start: number;

  beforeEach(async () => {
    ({ arkiv, data } = await takenIn('OCK_9973'));
    start = Date.now();
  });
  afterEach(async () => {
    jest.restoreAllMocks();
    await arkiv.stop();
    removeFolder(data);
  });

  /** It is so many days later. */
  const after = (days: number) =>
    jest.spyOn(arkiv.app.get(Clock), 'now').mockImplementation(() => start + days * DAY);
  const jobs = async (kind = 'verify') =>
    (await arkiv.get<ListedJob[]>('/jobs')).filter((job) => job.kind === kind);
  /** Looks what is due, and is done with it. */
  const look = async () => {
    await arkiv.app.get(ProofSchedule).look();
    await until(async () => (await jobs()).every(({ state }) => state === 'done'));
  };
  const drive = async (name: string) =>
    (await arkiv.get<Drive[]>('/volumes')).find((one) => one.name === name)!;
  const proofs = async (): Promise<{ path: string; at: number }[]> =>
    arkiv.app
      .get(Reading)
      .source.query(
        `SELECT "at" AS path, "verifiedAt" AS at FROM copy_at WHERE "volumeId" = ? ORDER BY "verifiedAt", "at"`,
        [(await drive('Backup drive')).id],
      );

  it('a share of each drive a day, the oldest proofs first, until all are new', async () => {
    await look();
    expect(await jobs()).toEqual([]);
    const before = (await proofs()).map(({ path: at }) => at);
    after(100);
    await look();
    // One drive and the other.
    expect(await jobs()).toHaveLength(2);
    const share = (await proofs()).filter(({ at }) => at > start + 99 * DAY);
    expect(share.length).toBeGreaterThan(0);
    expect(share.length).toBeLessThan(before.length);
    // Once a day, however often it is looked.
    await look();
    expect(await jobs()).toHaveLength(2);
    for (let day = 101; day <= 100 + before.length; day++) {
      after(day);
      await look();
    }
    const all = await proofs();
    expect(all.every(({ at }) => at >= start + 100 * DAY)).toBe(true);
    expect((await drive('Backup drive')).oldestProof).toBe(all[0]!.at);
    // All are new: there is nothing to do for months.
    const { length } = await jobs();
    after(150);
    await look();
    expect(await jobs()).toHaveLength(length);
  });

  it('names a drive that failed twice, and puts right what is damaged at a press', async () => {
    const backup = path.join(volumeOf(data, 'backup'), HOME);
    const [first, second] = filesBelow(backup).filter((file) => file.endsWith('.jpg'));
    for (const file of [first!, second!])
      writeFileSync(path.join(backup, file), 'the disk says something else');
    for (let day = 100; (await drive('Backup drive')).damaged < 2; day++) {
      after(day);
      await look();
    }
    expect(await drive('Backup drive')).toMatchObject({ damaged: 2, failures: 2 });
    expect((await drive('Working drive')).failures).toBe(0);
    const { id } = await drive('Backup drive');
    const { jobId } = await arkiv.post<{ jobId: string }>('/copies/missing', { volumeId: id });
    expect((await arkiv.rest(jobId)).failures).toEqual([]);
    // It is well again, and stays named: it is the drive that is not to be trusted.
    expect(await drive('Backup drive')).toMatchObject({ damaged: 0, failures: 2 });
  });

  it('not at all where the studio does not want it', async () => {
    await arkiv.ask('PATCH', '/settings', { verifyDays: 0 });
    after(400);
    await look();
    expect(await jobs()).toEqual([]);
    const { status } = await arkiv.ask('PATCH', '/settings', { verifyDays: 3 });
    expect(status).toBe(400);
  });

  it('and copies that are missing are made by themselves, where that is wanted and both drives are there', async () => {
    const backup = path.join(volumeOf(data, 'backup'), HOME);
    const [file] = filesBelow(backup).filter((one) => one.endsWith('.jpg'));
    writeFileSync(path.join(backup, file!), 'something else');
    const { id } = await drive('Backup drive');
    const { jobId } = await arkiv.post<{ jobId: string }>('/copies/verifications', { volumeId: id });
    await arkiv.rest(jobId);
    await look();
    expect(await jobs('copy')).toEqual([]);
    await arkiv.ask('PATCH', '/settings', { copyMissing: true });
    await arkiv.ask('PUT', '/stand-ins/drives/backup', { state: 'unplugged' });
    await look();
    expect(await jobs('copy')).toEqual([]);
    await arkiv.ask('PUT', '/stand-ins/drives/backup', { state: 'well' });
    await look();
    await until(async () => (await jobs('copy'))[0]?.state === 'done');
    expect((await drive('Backup drive')).damaged).toBe(0);
    expect(existsSync(path.join(backup, file!))).toBe(true);
  });
});

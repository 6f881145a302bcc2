import { copyFileSync, mkdirSync, statSync, utimesSync } from 'node:fs';
import path from 'node:path';
import { sumOf, type KindBytes } from '@arkiv/core';
import { LongReading } from '../src/db/longReading';
import { Reading } from '../src/db/unitOfWork';
import { Happenings } from '../src/events/domainEvents';
import { KeptSpace } from '../src/space/keptSpace.service';
import {
  cardOf,
  filesBelow,
  removeFolder,
  startArkiv,
  takenIn,
  until,
  volumeOf,
  type TestArkiv,
} from './testArkiv';

interface Shoot {
  id: string;
  title: string;
  frames: number;
  bytes: number;
}
interface Space {
  drives: { id: string; name: string; bytes: KindBytes }[];
  years: { year: string; bytes: KindBytes }[];
  all: KindBytes;
  handed: number;
  finished: number;
  required: number;
  shoots: Shoot[];
  spare: (Shoot & { volume: string; volumeId: string; files: number })[];
  spareBytes: number;
}
interface OldRejects {
  shoots: number;
  frames: number;
  bytes: number;
  younger: number;
  oldest: Shoot[];
}
const NO_REJECTS: OldRejects = { shoots: 0, frames: 0, bytes: 0, younger: 0, oldest: [] };
const ORIGINALS = '2026/2026-10-16_press-night/originals';

describe('the room that files take', () => {
  let arkiv: TestArkiv;
  let data: string;
  let shootId: string;
  beforeEach(async () => {
    ({ arkiv, data, shootId } = await takenIn('OCK_9973'));
  });
  afterEach(async () => {
    await arkiv.stop();
    removeFolder(data);
  });
  const space = () => arkiv.get<Space>('/space');
  const rejects = (asked = '') => arkiv.get<OldRejects>(`/space/rejects${asked}`);
  /** Bytes of files below a folder, as the disk says, that end so; sidecars, and what is being written of them, are apart. */
  const onDisk = (folder: string, ending = /(?<!\.xmp|\.part)$/) =>
    filesBelow(folder)
      .filter((file) => ending.test(file))
      .reduce((sum, file) => sum + statSync(path.join(folder, file)).size, 0);
  const originals = (drive: 'working' | 'backup') => path.join(volumeOf(data, drive), ORIGINALS);
  /** As the archive counts them: pictures and clips with what belongs to them, each once. */
  const filesOfShoot = () =>
    filesBelow(originals('working')).filter((file) => !/\.(xmp|part)$/.test(file)).length;
  const rest = async (where: string, asked: object) =>
    arkiv.rest((await arkiv.post<{ jobId: string }>(where, asked)).jobId);

  it('is what the disk says, by drive, by what they are, by shoot and by year', async () => {
    const { drives, all, years, shoots, spare, handed, finished } = await space();
    const bytes = Object.fromEntries(drives.map((drive) => [drive.name, drive.bytes]));
    for (const [name, drive] of [
      ['Working drive', 'working'],
      ['Backup drive', 'backup'],
    ] as const) {
      expect(sumOf(bytes[name]!)).toBe(onDisk(originals(drive)));
      expect(bytes[name]!.raw).toBe(onDisk(originals(drive), /\.dng$/));
      expect(bytes[name]!.picture).toBe(onDisk(originals(drive), /\.jpg$/));
      expect(bytes[name]!.raw).toBeGreaterThan(0);
    }
    expect(sumOf(bytes['Edit drive']!)).toBe(0);
    const whole = onDisk(originals('working')) + onDisk(originals('backup'));
    expect(sumOf(all)).toBe(whole);
    expect(years).toEqual([{ year: '2026', bytes: all }]);
    expect(shoots).toEqual([expect.objectContaining({ id: shootId, title: 'Press night', bytes: whole })]);
    expect([spare, handed, finished]).toEqual([[], 0, 0]);
    expect(await rejects()).toEqual(NO_REJECTS);
  });

  it('is counted anew where something changed, and how far that is can be asked', async () => {
    const [kept, long] = [arkiv.app.get(KeptSpace), arkiv.app.get(LongReading)];
    const { id } = await arkiv.frames(shootId);
    await space();
    await arkiv.mark('verdict', 'undecided', 'reject', id[0]!);
    const seen: unknown[] = [];
    const rows = long.rows.bind(long);
    jest.spyOn(long, 'rows').mockImplementation((...asked) => {
      seen.push({ ...kept.progress() });
      return rows(...asked);
    });
    await kept.upToDate();
    expect(seen).toContainEqual({ files: 0, of: filesOfShoot() });
    expect(await arkiv.get('/space/counting')).toEqual({ files: 0, of: 0 });
    // What did not change is not counted again.
    seen.length = 0;
    await kept.upToDate();
    expect(seen).toEqual([]);
  });

  it('is not counted ahead while a card is being copied, but right after it, and whenever somebody asks', async () => {
    await arkiv.stop();
    arkiv = await startArkiv(data, undefined, { looks: true });
    const [kept, happenings] = [arkiv.app.get(KeptSpace), arkiv.app.get(Happenings)];
    const counted = async () =>
      arkiv.app.get(Reading).source.query(`SELECT counted, changes FROM space_shoot`) as Promise<
        { counted: number | null; changes: number }[]
      >;
    const isCounted = async () => (await counted()).every((one) => one.counted === one.changes);
    const { id } = await arkiv.frames(shootId);
    const copies = (state: 'running' | 'done') =>
      happenings.tell('job', { id: 'J', kind: 'intake', first: true, state });
    copies('running');
    await arkiv.mark('verdict', 'undecided', 'reject', id[0]!);
    await kept.ahead();
    expect(await isCounted()).toBe(false);
    expect((await rejects()).frames).toBe(1);
    expect(await isCounted()).toBe(true);
    await arkiv.mark('verdict', 'reject', 'undecided', id[0]!);
    await kept.ahead();
    expect(await isCounted()).toBe(false);
    copies('done');
    await until(isCounted);
  });

  it('that rejects take is said with them, and freed by the bin; a shoot that is at work is named, and the others go', async () => {
    const { id, name } = await arkiv.frames(shootId);
    await arkiv.mark('verdict', 'undecided', 'reject', id[0]!, id[2]!);
    const its = (file: string) => file.startsWith(name[0]!) || file.startsWith(name[2]!);
    const theirs = filesBelow(originals('working')).filter((file) => its(file) && !file.endsWith('.xmp'));
    const bytes = theirs.reduce((sum, file) => sum + statSync(path.join(originals('working'), file)).size, 0);
    const before = await space();
    const all = { shoots: 1, frames: 2, bytes: 2 * bytes, younger: 0 };
    const oldest = [
      expect.objectContaining({ id: shootId, title: 'Press night', frames: 2, bytes: 2 * bytes }),
    ];
    expect(await rejects()).toEqual({ ...all, oldest });
    // By the shoot's day, that day still counted.
    expect(await rejects('?until=2026-10-16')).toEqual({ ...all, oldest });
    expect(await rejects('?until=2026-10-15')).toEqual({ ...NO_REJECTS, younger: 1 });
    // Who leaves the oldest ones goes on to those after them.
    expect(await rejects(`?after=${shootId}`)).toEqual({ ...all, oldest: [] });
    const unknown = '01J00000000000000000000000';
    expect(await rejects(`?after=${unknown}`)).toEqual({ ...all, oldest });
    const begun = await arkiv.post<{ jobIds: string[]; refused: { shoot: string; reason: string }[] }>(
      '/space/rejects',
      { shootIds: [unknown, shootId] },
    );
    expect(begun.refused).toEqual([expect.objectContaining({ shoot: unknown })]);
    expect(begun.jobIds).toHaveLength(1);
    expect((await arkiv.rest(begun.jobIds[0]!)).job).toMatchObject({ state: 'done', filesFailed: 0 });
    const after = await space();
    expect(await rejects()).toEqual(NO_REJECTS);
    expect(sumOf(before.all) - sumOf(after.all)).toBe(2 * bytes);
    const binned = filesBelow(path.join(volumeOf(data, 'working'), '.arkiv-bin'));
    expect(theirs.every((file) => binned.some((one) => one.endsWith(`/${file}`)))).toBe(true);
  });

  it('is taken by adopted folders too, of which nothing is offered to go', async () => {
    const tree = path.join(data, 'tree/party');
    mkdirSync(tree, { recursive: true });
    for (const name of ['OCK_9968.JPG', 'OCK_9969.JPG']) {
      copyFileSync(path.join(cardOf(data), 'DCIM/100OCKHM', name), path.join(tree, name));
      // One that was written in this moment is left alone for a while.
      utimesSync(path.join(tree, name), 1e9, 1e9);
    }
    const { firstShoot } = await arkiv.post<{ firstShoot: string }>('/adopted', {
      ...{ path: path.join(data, 'tree'), rule: 'top', sidecars: false },
    });
    await until(async () => (await arkiv.frames(firstShoot)).count === 2);
    const { id } = await arkiv.frames(firstShoot);
    await arkiv.mark('verdict', 'undecided', 'reject', id[0]!);
    expect(await arkiv.get(`/shoots/${firstShoot}`)).toMatchObject({ rejects: 1 });
    const { shoots } = await space();
    expect(shoots.find((shoot) => shoot.id === firstShoot)!.bytes).toBe(onDisk(tree));
    expect(await rejects()).toEqual(NO_REJECTS);
  });

  it('that spare copies take is said with the drive that is best relieved of them, until they are taken off', async () => {
    const shelf = path.join(data, 'shelf');
    mkdirSync(shelf);
    const { id: to } = await arkiv.post<{ id: string }>('/volumes', {
      ...{ root: shelf, name: 'Shelf 3', role: 'backup' },
    });
    await arkiv.ask('PATCH', `/volumes/${to}`, { device: 'shelf' });
    expect((await rest('/copies/missing', { shootId, to })).job).toMatchObject({ state: 'done' });
    const { spare, spareBytes, required } = await space();
    expect(required).toBe(2);
    // Never the drive that is worked from while another can be relieved.
    expect(spare).toEqual([
      expect.objectContaining({ id: shootId, volume: expect.stringMatching(/Backup|Shelf/) }),
    ]);
    expect([spare[0]!.bytes, spareBytes]).toEqual(Array(2).fill(onDisk(originals('working'))));
    const { volumeId, files } = spare[0]!;
    const { job } = await rest('/copies/release', { shootId, volumeId });
    expect(job).toMatchObject({ state: 'done', filesFailed: 0, filesDone: files });
    expect(await space()).toMatchObject({ spare: [], spareBytes: 0 });
    // Where more are wanted, none is spare.
    await rest('/copies/missing', { shootId, to: volumeId });
    expect((await space()).spare).toHaveLength(1);
    await arkiv.ask('PATCH', '/settings', { requiredCopies: 3 });
    expect((await space()).spare).toEqual([]);
  });
});

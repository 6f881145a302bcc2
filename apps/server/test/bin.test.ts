import { existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { UnitOfWork } from '../src/db/unitOfWork';
import { CopyStore } from '../src/frames/copyStore';
import { DueTexts } from '../src/frames/dueTexts.service';
import { FramesService } from '../src/frames/frames.service';
import { SidecarsService } from '../src/sidecars/sidecars.service';
import { FaultyDisk, diskError } from './faultyDisk';
import {
  cardOf,
  filesBelow,
  isLeftOver,
  outsideManifest,
  removeFolder,
  takenIn,
  sha256sumCheck,
  startArkiv,
  volumeOf,
  type TestArkiv,
  until,
} from './testArkiv';

const HOME = '2026/2026-10-16_press-night';
const DRIVES = ['working', 'backup'] as const;
type Drive = (typeof DRIVES)[number];

interface Listed {
  times: {
    id: string;
    deed: string;
    frames: number;
    files: number;
    bytes: number;
    volumes: string[];
    waiting: number;
    pictures: string[];
  }[];
  due: { volume: string; deed: string; files: number }[];
}

describe('rejects that are done away with', () => {
  let arkiv: TestArkiv;
  let data: string;
  let shootId: string;
  let id: string[];
  let name: string[];
  /** the whole of both drives' originals before anything was done, by place */
  let before: Record<Drive, Map<string, string>>;

  const originals = (drive: Drive): Map<string, string> =>
    new Map(
      [...outsideManifest(volumeOf(data, drive))].filter(([file]) => file.startsWith(`${HOME}/originals/`)),
    );
  const binned = (drive: Drive): string[] =>
    existsSync(path.join(volumeOf(data, drive), '.arkiv-bin'))
      ? filesBelow(path.join(volumeOf(data, drive), '.arkiv-bin'))
      : [];
  const list = () => arkiv.get<Listed>('/bin');
  const run = async (where: string, asked: Record<string, unknown>) => {
    const { jobId } = await arkiv.post<{ jobId: string }>(where, asked);
    return arkiv.rest(jobId);
  };
  const plug = (state: 'well' | 'unplugged') => arkiv.ask('PUT', '/stand-ins/drives/backup', { state });
  const manifestsHold = async (): Promise<void> => {
    for (const drive of DRIVES) {
      sha256sumCheck(path.join(volumeOf(data, drive), HOME), '.arkiv/manifest.sha256');
      // What a drive lacked is written after it is back, each text beside its place first.
      await until(() => filesBelow(volumeOf(data, drive)).every((file) => !isLeftOver(file)));
    }
  };
  /** Every file of the first two frames, on a drive. */
  const ofRejects = (drive: Drive) =>
    [...before[drive].keys()].filter((file) => file.includes(name[0]!) || file.includes(name[1]!));

  beforeEach(async () => {
    ({ arkiv, data, shootId } = await takenIn('OCK_9973'));
    ({ id, name } = await arkiv.frames(shootId));
    const mark = (n: number, i: number, to: string) => ({
      ...{ id: `01J000000000000000000000B${n}`, subject: id[i]!, kind: 'verdict', from: 'undecided', to },
      ...{ at: Date.now(), group: 'g', window: 'w' },
    });
    await arkiv.post('/marks', {
      operations: [mark(1, 0, 'reject'), mark(2, 1, 'reject'), mark(3, 2, 'keep')],
    });
    await arkiv.app.get(SidecarsService).flush();
    before = { working: originals('working'), backup: originals('backup') };
  });
  afterEach(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  it('go into the bin of each drive, prove nothing there, and come back as they were', async () => {
    const asked = { deed: 'bin', shootId };
    const plan = await arkiv.post<Record<string, unknown>>('/bin/plan', asked);
    expect(plan).toMatchObject({ frames: 2, volumes: ['Backup drive', 'Working drive'], away: [] });
    const clearance = () =>
      arkiv.get<{ files: number; unproven: unknown[] } & Record<string, unknown>>(
        '/readers/slot-1/clearance',
      );
    const proven = JSON.stringify(await clearance());
    expect((await run('/bin', asked)).job).toMatchObject({ state: 'done', filesFailed: 0, filesTotal: 2 });
    for (const drive of DRIVES) {
      expect([...originals(drive).keys()]).toEqual(
        [...before[drive].keys()].filter((file) => !ofRejects(drive).includes(file)),
      );
      const there = binned(drive);
      for (const file of ofRejects(drive)) expect(there.some((kept) => kept.endsWith(file))).toBe(true);
      // An open text says what lies there and where it lay.
      const text = there.find((file) => file.endsWith('/bin.json'))!;
      const said = JSON.parse(readFileSync(path.join(volumeOf(data, drive), '.arkiv-bin', text), 'utf8')) as {
        files: { at: string; path: string; sha256: string }[];
      };
      const sums = outsideManifest(volumeOf(data, drive));
      for (const { at, path: place, sha256 } of said.files)
        expect([sums.get(place), before[drive].get(at)]).toEqual([sha256, sha256]);
      expect(said.files.length).toBe(plan.files);
    }
    await manifestsHold();
    expect((await arkiv.frames(shootId)).id).toEqual(id.slice(2));
    expect(await arkiv.get(`/shoots/${shootId}`)).toMatchObject({ frames: id.length - 2, rejects: 0 });
    expect(JSON.stringify(await clearance())).not.toBe(proven);
    const { times } = await list();
    expect(times).toMatchObject([
      { deed: 'bin', frames: 2, files: plan.files, bytes: plan.bytes, waiting: 0 },
    ]);
    expect(times[0]!.pictures).toHaveLength(2);
    // A mark that another window makes of a frame in the bin is kept with it.
    await arkiv.post('/marks', {
      operations: [
        {
          ...{ id: '01J000000000000000000000C1', subject: id[0], kind: 'stars', from: 0, to: 2 },
          ...{ at: Date.now(), group: 'h', window: 'w' },
        },
      ],
    });
    const back = await run('/bin/back', { binId: times[0]!.id });
    expect(back.job).toMatchObject({ state: 'done', filesFailed: 0 });
    const now = await arkiv.frames(shootId);
    expect([now.id, now.name, now.verdict.slice(0, 2), now.stars[0]]).toEqual([
      ...[id, name, ['reject', 'reject'], 2],
    ]);
    expect(JSON.stringify(await clearance())).toBe(proven);
    expect((await list()).times).toEqual([]);
    // The mark goes into the sidecars that came back.
    await arkiv.app.get(SidecarsService).flush();
    for (const drive of DRIVES) {
      const pictures = (files: Map<string, string>) => [...files].filter(([file]) => !file.endsWith('.xmp'));
      expect(pictures(originals(drive))).toEqual(pictures(before[drive]));
      expect([...originals(drive).keys()]).toEqual([...before[drive].keys()]);
      expect(binned(drive)).toEqual([]);
    }
    await manifestsHold();
  });

  it('come back one by one, under another name where theirs was taken', async () => {
    await run('/bin', { deed: 'bin', shootId });
    const stranger = path.join(volumeOf(data, 'backup'), HOME, `originals/${name[0]}.jpg`);
    writeFileSync(stranger, 'somebody else’s');
    const [time] = (await list()).times;
    await run('/bin/back', { binId: time!.id, frameIds: [id[0]] });
    const now = await arkiv.frames(shootId);
    expect(now.name[now.id.indexOf(id[0]!)]).toBe(`${name[0]}_2`);
    expect(readFileSync(stranger, 'utf8')).toBe('somebody else’s');
    expect((await list()).times).toMatchObject([{ frames: 1 }]);
    const frames = await arkiv.get<{ id: string; verdict: string }[]>(`/bin/${time!.id}/frames`);
    expect(frames).toMatchObject([{ id: id[1], verdict: 'reject' }]);
    await manifestsHold();
  });

  it('are forgotten with their files left, and come back with their marks', async () => {
    expect((await run('/bin', { deed: 'forget', shootId })).job).toMatchObject({
      state: 'done',
      filesFailed: 0,
    });
    for (const drive of DRIVES) expect(originals(drive)).toEqual(before[drive]);
    expect((await arkiv.frames(shootId)).id).toEqual(id.slice(2));
    await manifestsHold();
    const { times } = await list();
    expect(times).toMatchObject([{ deed: 'forget', frames: 2 }]);
    const lists = filesBelow(path.join(volumeOf(data, 'backup'), '.arkiv-archive/forgotten'));
    expect(lists).toHaveLength(1);
    // Nothing of what is forgotten can be deleted by emptying the bin.
    expect(await arkiv.ask('POST', '/bin/empty', { typed: 2 })).toMatchObject({ status: 409 });
    await run('/bin/back', { binId: times[0]!.id });
    expect((await arkiv.frames(shootId)).verdict.slice(0, 2)).toEqual(['reject', 'reject']);
    for (const drive of DRIVES) expect([...originals(drive).keys()]).toEqual([...before[drive].keys()]);
    await manifestsHold();
  });

  it('are deleted on both drives only where the number was typed', async () => {
    const asked = { deed: 'delete', shootId };
    for (const typed of [undefined, 1, 3])
      expect(await arkiv.ask('POST', '/bin', { ...asked, typed })).toMatchObject({
        ...{ status: 409, body: { code: 'bin.typed' } },
      });
    for (const drive of DRIVES) expect(originals(drive)).toEqual(before[drive]);
    expect((await run('/bin', { ...asked, typed: 2 })).job).toMatchObject({ state: 'done', filesFailed: 0 });
    for (const drive of DRIVES) {
      const gone = ofRejects(drive);
      expect([...originals(drive).keys()]).toEqual(
        [...before[drive].keys()].filter((f) => !gone.includes(f)),
      );
      expect(binned(drive)).toEqual([]);
    }
    expect(await list()).toEqual({ times: [], due: [] });
    await manifestsHold();
  });

  it('are deleted when the bin is emptied: by age, and only what is the file that was put there', async () => {
    await run('/bin', { deed: 'bin', shootId });
    expect(await arkiv.ask('POST', '/bin/empty', { olderThanDays: 30, typed: 2 })).toMatchObject({
      ...{ status: 409, body: { code: 'move.nothing' } },
    });
    const swapped = binned('backup').find((file) => file.endsWith(`${name[0]}.jpg`))!;
    writeFileSync(path.join(volumeOf(data, 'backup'), '.arkiv-bin', swapped), 'somebody else’s');
    const [time] = (await list()).times;
    const report = await run('/bin/empty', { binIds: [time!.id], typed: 2 });
    expect(report.job).toMatchObject({ filesFailed: 1, filesDone: 1 });
    expect(report.failures[0]!.reason).toMatch(
      /“Backup drive” is another file than the one that was put there/,
    );
    expect(readFileSync(path.join(volumeOf(data, 'backup'), '.arkiv-bin', swapped), 'utf8')).toBe(
      'somebody else’s',
    );
    expect((await list()).times).toMatchObject([{ frames: 1 }]);
    await manifestsHold();
  });

  it('follow on a drive that was away when it returns: into the bin, back, or deleted', async () => {
    await plug('unplugged');
    expect(await arkiv.post('/bin/plan', { deed: 'bin', shootId })).toMatchObject({ away: ['Backup drive'] });
    const report = await run('/bin', { deed: 'bin', shootId });
    expect(report.job).toMatchObject({ state: 'done', filesFailed: 0 });
    const [time] = (await list()).times;
    expect(time!.waiting).toBeGreaterThan(1);
    expect((await list()).due).toMatchObject([{ volume: 'Backup drive', deed: 'bin', files: time!.waiting }]);
    await plug('well');
    await until(async () => (await list()).due.length === 0);
    for (const file of ofRejects('backup')) {
      expect(originals('backup').has(file)).toBe(false);
      expect(binned('backup').some((kept) => kept.endsWith(file))).toBe(true);
    }
    await until(() => binned('backup').some((file) => file.endsWith('bin.json')));

    await plug('unplugged');
    await run('/bin/back', { binId: time!.id, frameIds: [id[0]] });
    expect((await list()).due).toMatchObject([{ volume: 'Backup drive', deed: 'back' }]);
    await run('/bin/empty', { typed: 1 });
    expect((await list()).due.map(({ deed }) => deed)).toEqual(['back', 'delete']);
    await plug('well');
    await until(async () => (await list()).due.length === 0);
    const kept = ofRejects('backup').filter((file) => file.includes(name[0]!) && !file.endsWith('.xmp'));
    for (const file of kept) expect(originals('backup').get(file)).toBe(before.backup.get(file));
    expect([...originals('backup').keys()].some((file) => file.includes(name[1]!))).toBe(false);
    await until(() => binned('backup').length === 0);
    await until(
      async () => (await arkiv.get<{ missingCopies: number }>(`/shoots/${shootId}`)).missingCopies === 0,
    );
  });

  it('go, come back and are deleted also where one of their files lies elsewhere on a drive', async () => {
    const backup = volumeOf(data, 'backup');
    const volumeId = await arkiv.volumeId('backup');
    const files = [...before.backup].filter(([file]) => file.includes(name[0]!) && !file.endsWith('.xmp'));
    const bytes = files.map(([file]) => readFileSync(path.join(backup, file)));
    mkdirSync(path.join(backup, 'elsewhere'));
    const sidecar = `${HOME}/originals/${name[0]}.xmp`;
    renameSync(path.join(backup, sidecar), path.join(backup, 'elsewhere/other.xmp'));
    const assets = await arkiv.app.get(FramesService).ofFrame(id[0]!);
    await arkiv.app.get(UnitOfWork).write(async (manager) => {
      for (const [file] of files) {
        const at = `elsewhere/other${path.extname(file)}`;
        renameSync(path.join(backup, file), path.join(backup, at));
        const asset = assets.find((one) => one.at === file)!;
        await arkiv.app.get(CopyStore).liesAt(manager, asset.id, volumeId, at);
      }
    });
    const done = { job: { state: 'done', filesFailed: 0 } };
    expect(await run('/bin', { deed: 'bin', shootId, frameIds: [id[0]] })).toMatchObject(done);
    expect(filesBelow(path.join(backup, 'elsewhere'))).toEqual([]);
    const [time] = (await list()).times;
    expect(await run('/bin/back', { binId: time!.id })).toMatchObject(done);
    for (const [i, [file]] of files.entries())
      expect(readFileSync(path.join(backup, file)).equals(bytes[i]!)).toBe(true);
    expect(await run('/bin', { deed: 'delete', shootId, frameIds: [id[0]], typed: 1 })).toMatchObject(done);
    for (const drive of DRIVES) expect(binned(drive)).toEqual([]);
    await manifestsHold();
  });

  it('take along what other programs keep beside them, which is deleted by nobody', async () => {
    const settings = (drive: Drive, i: number) =>
      [`${HOME}/originals/${name[i]}.dng.settings`, `${HOME}/originals/Settings/Session/${name[i]}.edit`].map(
        (file) => path.join(volumeOf(data, drive), file),
      );
    const write = (drive: Drive, i: number) =>
      settings(drive, i).forEach((file, n) => {
        mkdirSync(path.dirname(file), { recursive: true });
        writeFileSync(file, `${drive} ${i} ${n}`);
      });
    const there = (drive: Drive, i: number) => settings(drive, i).map((file) => existsSync(file));
    for (const drive of DRIVES) for (const i of [0, 1]) write(drive, i);
    const done = { job: { state: 'done', filesFailed: 0 } };
    // On the drive that is away they follow with their frame when it is back.
    await plug('unplugged');
    expect(await run('/bin', { deed: 'bin', shootId, frameIds: [id[0], id[1]] })).toMatchObject(done);
    await plug('well');
    await until(async () => (await list()).due.length === 0);
    for (const drive of DRIVES) {
      expect([...there(drive, 0), ...there(drive, 1)]).toEqual([false, false, false, false]);
      expect(binned(drive).filter((file) => /settings$|edit$/.test(file))).toHaveLength(4);
    }
    const [time] = (await list()).times;
    expect(await run('/bin/back', { binId: time!.id, frameIds: [id[0]] })).toMatchObject(done);
    for (const drive of DRIVES) {
      expect(there(drive, 0)).toEqual([true, true]);
      expect(readFileSync(settings(drive, 0)[1]!, 'utf8')).toBe(`${drive} 0 1`);
    }
    // What the archive does not know is nothing that it deletes: it lies again where it lay.
    expect(await run('/bin/empty', { binIds: [time!.id], typed: 1 })).toMatchObject(done);
    for (const drive of DRIVES) {
      expect(there(drive, 1)).toEqual([true, true]);
      expect(binned(drive)).toEqual([]);
    }
    expect(await run('/bin', { deed: 'delete', shootId, frameIds: [id[0]], typed: 1 })).toMatchObject(done);
    for (const drive of DRIVES) expect(there(drive, 0)).toEqual([true, true]);
  });

  it('leave another frame’s sidecar alone that came to their place on a drive that was away', async () => {
    await plug('unplugged');
    await run('/bin', { deed: 'delete', shootId, typed: 2 });
    const place = (ending: string) =>
      path.join(volumeOf(data, 'backup'), HOME, `originals/${name[0]}${ending}`);
    const others = readFileSync(place('.xmp'), 'utf8').replaceAll(id[0]!, '01J0000000000000000000ZZZZ');
    expect(others).toContain('01J0000000000000000000ZZZZ');
    writeFileSync(place('.xmp'), others);
    await plug('well');
    await until(async () => (await list()).due.length === 0);
    expect([existsSync(place('.jpg')), readFileSync(place('.xmp'), 'utf8')]).toEqual([false, others]);
    expect(existsSync(place('.xmp').replace(name[0]!, name[1]!))).toBe(false);
  });

  it('are set aside, and follow on a drive that was away when it returns', async () => {
    await plug('unplugged');
    const aside = { kind: 'aside', shootId, rename: false };
    expect(await arkiv.post('/moves/plan', aside)).toMatchObject({ frames: 2, away: ['Backup drive'] });
    expect((await run('/moves', aside)).job).toMatchObject({ state: 'done', filesFailed: 0 });
    const rejects = (drive: Drive) =>
      filesBelow(path.join(volumeOf(data, drive), HOME)).filter((file) => file.startsWith('rejects/'));
    expect(rejects('working')).toHaveLength(ofRejects('working').length);
    for (const file of ofRejects('backup')) expect(originals('backup').has(file)).toBe(true);
    // What lies there still counts: nothing was taken from its proof.
    expect(await arkiv.get(`/shoots/${shootId}`)).toMatchObject({ missingCopies: 0, frames: id.length });
    await plug('well');
    await until(() => rejects('backup').length === rejects('working').length);
    // Each has its new name before it loses the old one.
    await until(() => ofRejects('backup').every((file) => !originals('backup').has(file)));
    await until(() => {
      const text = path.join(volumeOf(data, 'backup'), HOME, '.arkiv/manifest.sha256');
      return readFileSync(text, 'utf8').includes('rejects/');
    });
    await manifestsHold();
    // Away again, and back at once: it never has to follow.
    await plug('unplugged');
    await run('/moves', { kind: 'back', shootId, rename: false });
    await run('/moves', aside);
    await plug('well');
    expect(rejects('backup')).toEqual(rejects('working'));
    expect((await arkiv.frames(shootId)).verdict.slice(0, 2)).toEqual(['reject', 'reject']);
  });

  it('that were brought back before a drive returned count there as they did', async () => {
    await plug('unplugged');
    await run('/bin', { deed: 'bin', shootId });
    const [time] = (await list()).times;
    await run('/bin/back', { binId: time!.id });
    expect((await list()).due).toEqual([]);
    expect(await arkiv.get(`/shoots/${shootId}`)).toMatchObject({ missingCopies: 0, rejects: 2 });
    await plug('well');
    for (const drive of DRIVES) expect([...originals(drive).keys()]).toEqual([...before[drive].keys()]);
  });

  it('that changed in the bin come back as damaged there and whole from the other drive', async () => {
    await run('/bin', { deed: 'bin', shootId });
    const file = binned('backup').find((kept) => kept.endsWith(`${name[0]}.jpg`))!;
    const place = path.join(volumeOf(data, 'backup'), '.arkiv-bin', file);
    const bytes = readFileSync(place);
    bytes[bytes.length - 100]! ^= 1;
    writeFileSync(place, bytes);
    const [time] = (await list()).times;
    await run('/bin/back', { binId: time!.id });
    const kept = await arkiv.get<{ damaged?: number; name: string }[]>('/volumes');
    expect(kept.find((volume) => volume.name === 'Backup drive')).toMatchObject({ damaged: 1 });
    expect(await arkiv.get(`/shoots/${shootId}`)).toMatchObject({ missingCopies: 1, rejects: 2 });
    expect(originals('working').get(`${HOME}/originals/${name[0]}.jpg`)).toBe(
      before.working.get(`${HOME}/originals/${name[0]}.jpg`),
    );
  });

  it('stay whole where they are when one drive refuses', async () => {
    await arkiv.stop();
    const disk = new FaultyDisk();
    arkiv = await startArkiv(data, disk);
    disk.onLink = (to) => {
      if (to.includes('backup/.arkiv-bin') && to.includes(name[1]!)) throw diskError('EIO');
    };
    const report = await run('/bin', { deed: 'bin', shootId });
    expect(report.job).toMatchObject({ filesFailed: 1, filesDone: 1 });
    disk.onLink = () => undefined;
    expect((await arkiv.frames(shootId)).id).toEqual(id.filter((one) => one !== id[0]));
    for (const drive of DRIVES)
      for (const file of ofRejects(drive).filter((one) => one.includes(name[1]!)))
        expect(originals(drive).get(file)).toBe(before[drive].get(file));
    await manifestsHold();
  });

  it('are listed on a drive that refused the list for a while, with nothing else to write', async () => {
    await arkiv.stop();
    const disk = new FaultyDisk();
    arkiv = await startArkiv(data, disk);
    arkiv.app.get(DueTexts).again = 20;
    // Once as they go, and once when it is quiet: what comes after that comes by itself.
    let refusals = 0;
    disk.onLink = (to) => {
      if (!to.includes('backup/.arkiv-bin') || !to.endsWith('/bin.json') || refusals === 4) return;
      refusals += 1;
      throw diskError('ENOSPC');
    };
    await run('/bin', { deed: 'bin', shootId });
    await until(() => binned('backup').some((file) => file.endsWith('/bin.json')));
    expect(refusals).toBe(4);
  });

  it('leave no list behind that a drive got just as it was pulled', async () => {
    await arkiv.stop();
    const disk = new FaultyDisk();
    arkiv = await startArkiv(data, disk);
    const lists = () => binned('backup').filter((file) => file.includes('bin.json'));
    // The list is under its name; whatever follows on that drive is refused, so that nobody notes it.
    const binPulled = async (): Promise<string> => {
      let isPulled = false;
      disk.onLink = (to) => {
        isPulled ||= to.includes('backup/.arkiv-bin') && to.endsWith('/bin.json');
      };
      disk.onUnlink = (from) => {
        if (isPulled && from.includes('/backup/')) throw diskError('EIO');
      };
      await run('/bin', { deed: 'bin', shootId });
      [disk.onLink, disk.onUnlink] = [() => undefined, () => undefined];
      expect(lists().length).toBe(2);
      return (await list()).times[0]!.id;
    };
    await run('/bin/back', { binId: await binPulled() });
    expect(binned('backup')).toEqual([]);

    const binId = await binPulled();
    await run('/bin/back', { binId, frameIds: [id[0]] });
    expect(lists().length).toBe(1);
    await run('/bin/back', { binId });
    expect(binned('backup')).toEqual([]);
  });

  it('are nothing to a card that comes again: its files are taken in as new ones', async () => {
    await run('/bin', { deed: 'bin', shootId });
    expect(outsideManifest(cardOf(data)).size).toBeGreaterThan(0);
    const known = await arkiv.get<Record<string, unknown>>('/readers/slot-1/card');
    expect(JSON.stringify(known)).toBeTruthy();
    const again = await arkiv.takeIn({ title: 'Again' });
    await arkiv.rest(again.jobId);
    expect((await arkiv.frames(again.shootId)).count).toBe(2);
  });
});

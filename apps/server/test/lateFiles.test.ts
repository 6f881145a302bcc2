import { execFileSync } from 'node:child_process';
import {
  cpSync,
  existsSync,
  readFileSync,
  renameSync,
  symlinkSync,
  unlinkSync,
  writeFileSync,
} from 'node:fs';
import path from 'node:path';
import { DEFAULT_OUTPUT_SPEC } from '@arkiv/core';
import sharp from 'sharp';
import { Reading } from '../src/db/unitOfWork';
import { IntakeHandler } from '../src/intake/intake.handler';
import { FaultyDisk, diskError } from './faultyDisk';
import {
  cardOf,
  dataWithCard,
  filesBelow,
  outsideManifest,
  removeFolder,
  sha256sumCheck,
  startArkiv,
  until,
  volumeOf,
  type TestArkiv,
} from './testArkiv';

const FOLDER = '2026/2026-10-16_press-night';

describe('files that come late, or not at all', () => {
  let arkiv: TestArkiv;
  let data: string;
  let disk: FaultyDisk;

  beforeEach(async () => {
    data = dataWithCard({ until: 'OCK_9973' });
    disk = new FaultyDisk();
    arkiv = await startArkiv(data, disk);
  });
  afterEach(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  const below = (name: 'working' | 'backup', folder: string) =>
    filesBelow(path.join(volumeOf(data, name), folder));
  const unreadable = (name: string | null) => {
    disk.onOpen = (file) => {
      if (name !== null && file.includes('reader/slot-1') && file.endsWith(name)) throw diskError('EIO');
    };
  };
  const run = async (where: string, asked: object) =>
    arkiv.rest((await arkiv.post<{ jobId: string }>(where, asked)).jobId);
  const arriving = (): Promise<{ id: string }[]> =>
    arkiv.app
      .get(Reading)
      .source.query(
        `SELECT id FROM frame f WHERE state = 'arriving' AND EXISTS (SELECT 1 FROM asset a WHERE a."frameId" = f.id)`,
      );

  it('of a shoot that was merged come into the shoot that lives on, and stand in its manifest', async () => {
    const keys = (await arkiv.get<{ frames: { key: string; base: string }[] }>('/readers/slot-1/card'))
      .frames;
    const last = keys.find((f) => f.base === 'OCK_9972')!;
    const home = await arkiv.takeIn({ leaveOut: keys.filter((f) => f !== keys[0]).map((f) => f.key) });
    await arkiv.rest(home.jobId);
    unreadable('OCK_9972.JPG');
    const other = await arkiv.takeIn({ title: 'Second', leaveOut: [keys[0]!.key] });
    expect((await arkiv.rest(other.jobId)).job).toMatchObject({ filesFailed: 1 });
    const merged = await run('/moves', {
      kind: 'merge',
      shootId: other.shootId,
      into: home.shootId,
      rename: false,
    });
    expect(merged.job).toMatchObject({ state: 'done', filesFailed: 0 });
    unreadable(null);
    await arkiv.post(`/jobs/${other.jobId}/retry`);
    expect((await arkiv.rest(other.jobId)).job).toMatchObject({ state: 'done', filesFailed: 0 });
    const frames = await arkiv.frames(home.shootId);
    expect(frames.count).toBe(keys.length);
    const wanted = outsideManifest(cardOf(data));
    const sum = wanted.get(`DCIM/100OCKHM/OCK_9972.JPG`)!;
    for (const drive of ['working', 'backup'] as const) {
      const manifest = readFileSync(
        path.join(volumeOf(data, drive), FOLDER, '.arkiv/manifest.sha256'),
        'utf8',
      );
      expect(manifest).toContain(sum);
      expect(
        sha256sumCheck(path.join(volumeOf(data, drive), FOLDER), '.arkiv/manifest.sha256'),
      ).not.toContain('FAILED');
    }
    expect(last.key).toBeDefined();
    const list = await arkiv.get<{ id: string; frames: number }[]>('/shoots');
    expect(list).toEqual([expect.objectContaining({ id: home.shootId, frames: keys.length })]);
  });

  it('keep the note of their damage when they are renamed, and are put right under the new name', async () => {
    const { jobId, shootId } = await arkiv.takeIn();
    await arkiv.rest(jobId);
    const originals = path.join(volumeOf(data, 'backup'), FOLDER, 'originals');
    const jpeg = filesBelow(originals).find((f) => f.endsWith('.jpg'))!;
    writeFileSync(path.join(originals, jpeg), 'rotten');
    expect((await run('/copies/verifications', { shootId })).job).toMatchObject({ filesFailed: 1 });
    const moved = await run('/moves', {
      kind: 'rename',
      shootId,
      pattern: 'new_{seq:3}',
      seqStart: 1,
      rename: true,
    });
    expect(moved.job).toMatchObject({ state: 'done', filesFailed: 0 });
    expect(filesBelow(originals).filter((f) => f.startsWith('press-night'))).toEqual([]);
    expect(
      readFileSync(path.join(originals, jpeg.replace(/press-night_\d{8}_0*(\d{3})/, 'new_$1')), 'utf8'),
    ).toBe('rotten');
    expect((await run('/copies/missing', { shootId })).job).toMatchObject({ state: 'done', filesFailed: 0 });
    const damaged = filesBelow(path.join(volumeOf(data, 'backup'), FOLDER, '.arkiv/damaged'));
    expect(damaged).toEqual([expect.stringMatching(/^new_\d{3}_.*\.jpg$/)]);
    expect(
      sha256sumCheck(path.join(volumeOf(data, 'backup'), FOLDER), '.arkiv/manifest.sha256'),
    ).not.toContain('FAILED');
    const drives = await arkiv.get<{ name: string; damaged: number }[]>('/volumes');
    expect(drives.find((d) => d.name === 'Backup drive')!.damaged).toBe(0);
  });

  /** Begins an intake whose card is pulled out when the first JPEG is opened: the raw file beside it has arrived. */
  async function halfWay(): Promise<{ jobId: string; shootId: string }> {
    const slot = path.join(data, 'stand-ins/reader/slot-1');
    (arkiv.app.get(IntakeHandler) as { inFlight: number }).inFlight = 1;
    const request = await arkiv.intakeRequest();
    disk.onOpen = (file) => {
      if (!file.startsWith(slot) || !file.endsWith('.JPG') || !existsSync(slot)) return;
      unlinkSync(slot);
      throw diskError('EIO');
    };
    const started = await arkiv.post<{ jobId: string; shootId: string }>('/intakes', request);
    expect((await arkiv.rest(started.jobId)).job.state).toBe('waiting');
    expect(await arriving()).toHaveLength(1);
    disk.onOpen = () => undefined;
    return started;
  }

  it('of a cancelled intake are finished, frame by frame, while the card is there', async () => {
    const { jobId, shootId } = await halfWay();
    await arkiv.post(`/jobs/${jobId}/pause`);
    symlinkSync(cardOf(data), path.join(data, 'stand-ins/reader/slot-1'));
    await arkiv.post(`/jobs/${jobId}/cancel`);
    expect((await arkiv.get<{ job: { state: string } }>(`/jobs/${jobId}`)).job.state).toBe('cancelled');
    expect(await arriving()).toEqual([]);
    const { count, name } = await arkiv.frames(shootId);
    expect(count).toBeGreaterThan(0);
    const there = below('working', `${FOLDER}/originals`);
    expect(there.filter((f) => f.startsWith(`${name.at(-1)}.`) && !f.includes('.xmp')).sort()).toEqual([
      `${name.at(-1)}.dng`,
      `${name.at(-1)}.jpg`,
    ]);
    // What came is proven as after any intake; all else is still to be had from the card.
    expect(
      sha256sumCheck(path.join(volumeOf(data, 'working'), FOLDER), '.arkiv/manifest.sha256'),
    ).not.toContain('FAILED');
    expect(below('working', `${FOLDER}/.arkiv/receipts`).length).toBeGreaterThan(0);
    expect(there.filter((f) => f.endsWith('.jpg')).length).toBe(count);
  });

  it('of a cancelled intake are shown with what is proven when the card is gone, and come when it is tried again', async () => {
    const { jobId, shootId } = await halfWay();
    await arkiv.post(`/jobs/${jobId}/cancel`);
    expect(await arriving()).toEqual([]);
    const before = await arkiv.frames(shootId);
    expect(before.count).toBeGreaterThan(0);
    symlinkSync(cardOf(data), path.join(data, 'stand-ins/reader/slot-1'));
    await arkiv.post(`/jobs/${jobId}/retry`);
    expect((await arkiv.rest(jobId)).job).toMatchObject({ state: 'done', filesFailed: 0 });
    const wanted = new Set(outsideManifest(cardOf(data)).values());
    const have = new Set(outsideManifest(path.join(volumeOf(data, 'working'), FOLDER, 'originals')).values());
    expect([...wanted].filter((sum) => !have.has(sum))).toEqual([]);
  });

  it('of a server that ended after an intake was cancelled are shown at its next start', async () => {
    const { jobId } = await halfWay();
    await arkiv.stop();
    const database = path.join(data, 'archive.sqlite');
    execFileSync(process.execPath, [
      '-e',
      `const D=require('better-sqlite3');new D(${JSON.stringify(database)}).prepare("UPDATE job SET state='cancelled' WHERE id=?").run(${JSON.stringify(jobId)})`,
    ]);
    arkiv = await startArkiv(data);
    expect(await arriving()).toEqual([]);
  });

  it('of a delivery that was tried again stand in its manifest and in its zip', async () => {
    const { jobId, shootId } = await arkiv.takeIn();
    await arkiv.rest(jobId);
    const { id } = await arkiv.frames(shootId);
    const mark = { kind: 'verdict', from: 'undecided', to: 'keep', at: Date.now(), group: 'g', window: 'w' };
    await arkiv.post('/marks', {
      operations: id
        .slice(0, 3)
        .map((subject, i) => ({ ...mark, subject, id: `01J000000000000000000000D${i}` })),
    });
    // Nothing is written to a drive any more when it goes.
    const due = (): Promise<{ n: number }[]> =>
      arkiv.app.get(Reading).source.query('SELECT COUNT(*) AS n FROM frame WHERE "sidecarDue" > 0');
    await until(async () => (await due())[0]!.n === 0);
    const drives = ['working', 'backup'] as const;
    for (const name of drives) renameSync(volumeOf(data, name), `${volumeOf(data, name)}-away`);
    removeFolder(path.join(data, 'previews'));
    const spec = {
      ...{ ...DEFAULT_OUTPUT_SPEC, size: { by: 'long', pixels: 100 }, sharpen: 'none', metadata: 'none' },
      pattern: '{shoot}_{seq:2}',
    };
    const volumeId = await arkiv.volumeId('edit');
    const started = await arkiv.post<{ jobId: string }>(`/shoots/${shootId}/deliveries`, {
      name: 'Set',
      volumeId,
      specs: [spec],
    });
    expect((await arkiv.rest(started.jobId)).job).toMatchObject({ state: 'done', filesFailed: 3 });
    for (const name of drives) renameSync(`${volumeOf(data, name)}-away`, volumeOf(data, name));
    await arkiv.post(`/jobs/${started.jobId}/retry`);
    expect((await arkiv.rest(started.jobId)).job).toMatchObject({
      state: 'done',
      filesDone: 3,
      filesFailed: 0,
    });
    const place = path.join(volumeOf(data, 'edit'), FOLDER, 'delivery');
    const checked = sha256sumCheck(path.join(place, 'set'), 'manifest.sha256');
    expect(checked.trim().split('\n')).toHaveLength(3);
    const listed = execFileSync('unzip', ['-Z1', path.join(place, 'set.zip')], { encoding: 'utf8' });
    expect(listed.trim().split('\n')).toHaveLength(4);
    const [delivery] = await arkiv.get<{ result: { files: number; zip: { sha256: string } } }[]>(
      `/shoots/${shootId}/deliveries`,
    );
    expect(delivery!.result.files).toBe(3);
    expect(outsideManifest(place).get('set.zip')).toBe(delivery!.result.zip.sha256);
  });

  it('of a day that has frames are numbered behind its last one, not behind as many as there are', async () => {
    const { frames } = await arkiv.get<{ frames: { key: string }[] }>('/readers/slot-1/card');
    const half = frames.slice(0, 3).map((f) => f.key);
    const naming = { pattern: '{capture:yyyyMMdd}_{seq:3}', seqBy: 'day' };
    const first = await arkiv.takeIn({
      ...naming,
      seqStart: 20,
      leaveOut: frames.slice(3).map((f) => f.key),
    });
    await arkiv.rest(first.jobId);
    const second = await arkiv.takeIn({ ...naming, shootId: first.shootId, seqStart: 1, leaveOut: half });
    await arkiv.rest(second.jobId);
    const { name } = await arkiv.frames(first.shootId);
    const numbers = name.map((n) => Number(n.slice(-3))).sort((a, b) => a - b);
    expect(numbers).toEqual(frames.map((_, i) => 20 + i));
  });

  it('begin with the marks that were given in the camera, or by a program before, whatever the file', async () => {
    const inside = (name: string) => path.join(cardOf(data), 'DCIM/100OCKHM', name);
    const frames = ['OCK_9969', 'OCK_9970', 'OCK_9971', 'OCK_9972'].map((name) => inside(`${name}.JPG`));
    const give = (file: string, ...marks: string[]) =>
      execFileSync('exiftool', ['-q', '-overwrite_original', ...marks, file]);
    give(frames[0]!, '-XMP:Rating=3', '-XMP:Label=rouge');
    // In the raw alone, as some bodies do it.
    give(inside('OCK_9970.DNG'), '-XMP:Rating=5');
    give(frames[2]!, '-XMP:Rating=-1');
    const at = execFileSync('exiftool', ['-s3', '-DateTimeOriginal', frames[0]!], {
      encoding: 'utf8',
    }).trim();
    for (const [name, rating] of [
      ['OCK_9980.TIF', 2],
      ['OCK_9981.HEIC', 4],
    ] as const) {
      if (name.endsWith('TIF')) await sharp(frames[3]!).tiff().toFile(inside(name));
      else cpSync(path.join(__dirname, 'fixtures/turned-p3.heic'), inside(name));
      give(inside(name), `-XMP:Rating=${rating}`, `-EXIF:DateTimeOriginal=${at}`);
    }
    await arkiv.ask('PATCH', '/settings', {
      labelAlso: { A: [], B: ['Red', 'Rouge'], M: [], S: [], P: [] },
    });
    const template = { mode: 'fill', fields: {}, keywords: '', stars: 1, label: 'M' };
    const { jobId, shootId } = await arkiv.takeIn({ template });
    await arkiv.rest(jobId);
    const { original, stars, label, verdict } = await arkiv.columns(shootId);
    const of = (name: string) => {
      const at = original!.indexOf(name);
      return [stars![at], label![at], verdict![at]];
    };
    expect(of('OCK_9969')).toEqual([3, 'B', 'undecided']);
    expect(of('OCK_9970')).toEqual([5, 'M', 'undecided']);
    expect(of('OCK_9971')).toEqual([1, 'M', 'reject']);
    expect(of('OCK_9972')).toEqual([1, 'M', 'undecided']);
    expect([of('OCK_9980'), of('OCK_9981')].map(([given]) => given)).toEqual([2, 4]);
    const [shoot] = await arkiv.get<{ rejects: number }[]>('/shoots');
    expect(shoot!.rejects).toBe(1);
  });

  it('begin with the stars and the label of their template, in their sidecars too', async () => {
    const template = { mode: 'fill', fields: {}, keywords: '', stars: 2, label: 'M' };
    const { jobId, shootId } = await arkiv.takeIn({ template });
    await arkiv.rest(jobId);
    const columns = await arkiv.columns(shootId);
    expect(new Set(columns.stars)).toEqual(new Set([2]));
    expect(new Set(columns.label)).toEqual(new Set(['M']));
    const sidecar = path.join(volumeOf(data, 'working'), FOLDER, 'originals', `${columns.name![0]}.xmp`);
    for (let i = 0; i < 200 && !existsSync(sidecar); i++) await new Promise((r) => setTimeout(r, 50));
    const said = execFileSync('exiftool', ['-s3', '-XMP:Rating', '-XMP:Label', sidecar], {
      encoding: 'utf8',
    });
    expect(said.trim().split('\n')).toEqual(['2', 'Moss']);
    expect(
      await arkiv.ask('POST', '/intakes', await arkiv.intakeRequest({ template: { ...template, stars: 6 } })),
    ).toMatchObject({ status: 400 });
  });
});

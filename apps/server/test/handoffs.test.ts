import { execFileSync } from 'node:child_process';
import { existsSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import sharp from 'sharp';
import { ulid } from 'ulid';
import { PROGRAM, readSidecar } from '@arkiv/core';
import { UnitOfWork } from '../src/db/unitOfWork';
import { CopiesWatch } from '../src/handoff/copiesWatch.service';
import { Happenings } from '../src/events/domainEvents';
import { OutLedger } from '../src/ledger/outLedger';
import { SidecarsService } from '../src/sidecars/sidecars.service';
import {
  filesBelow,
  isLeftOver,
  outsideManifest,
  removeFolder,
  startArkiv,
  takenIn,
  until,
  volumeOf,
  type TestArkiv,
} from './testArkiv';

const NOTHING_INSIDE = { said: null, written: null, packet: null, mtimeMillis: null };
const HOME = '2026/2026-10-16_press-night';

interface Plan {
  frames: number;
  files: number;
  bytes: number;
  fresh: { frames: number; files: number; bytes: number };
  sidecars: number;
  gone: { name: string; why: string }[];
}

describe('copies that lie with editing', () => {
  let arkiv: TestArkiv;
  let data: string;
  let shootId: string;
  let ids: string[];
  let name: string[];
  let volumeId: string;

  beforeEach(async () => {
    ({ arkiv, data, shootId } = await takenIn('OCK_9973'));
    ({ id: ids, name } = await arkiv.frames(shootId));
    volumeId = await arkiv.volumeId('edit');
    await mark('verdict', 'undecided', 'keep', ...ids.slice(0, 3));
  });
  afterEach(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  const mark = async (...given: Parameters<TestArkiv['mark']>) => {
    await arkiv.mark(...given);
    await arkiv.app.get(SidecarsService).flush();
  };
  const plan = () => arkiv.get<Plan>(`/shoots/${shootId}/handoffs/plan?volumeId=${volumeId}`);
  const hand = async (part?: 'all' | 'new') => {
    const { jobId } = await arkiv.post<{ jobId: string }>(`/shoots/${shootId}/handoffs`, { volumeId, part });
    return (await arkiv.rest(jobId)).job;
  };
  /** Whatever editors have written by now is taken in. */
  const heard = async () => {
    await arkiv.app.get(CopiesWatch).look(shootId);
    return arkiv.get<{ frames: number; at: number | null; problems: string[] }>(
      `/shoots/${shootId}/handoffs/heard`,
    );
  };
  const selects = (file = '') => path.join(volumeOf(data, 'edit'), HOME, 'selects', file);
  const copy = (i: number) => selects(`${name[i]}.xmp`);
  const said = async (i: number) => {
    const { frames } = await arkiv.post<{ frames: Record<string, unknown>[] }>('/marks/now', {
      frameIds: [ids[i]],
    });
    return frames[0]!;
  };
  /** What the reference metadata tool reads there. */
  const rating = (file: string) =>
    (JSON.parse(execFileSync('exiftool', ['-j', '-XMP:Rating', file], { encoding: 'utf8' })) as object[])[0];

  it('are made for what is new or changed alone, with the size of that said before', async () => {
    const before = await plan();
    expect(before).toMatchObject({ frames: 3, sidecars: 0, gone: [] });
    expect(before.fresh).toMatchObject({ frames: 3, files: before.files });
    expect(await hand()).toMatchObject({ state: 'done', filesDone: before.files, filesFailed: 0 });
    expect((await plan()).fresh).toEqual({ frames: 0, files: 0, bytes: 0 });
    const nothing = await arkiv.ask<{ code: string }>('POST', `/shoots/${shootId}/handoffs`, {
      ...{ volumeId, part: 'new' },
    });
    expect(nothing).toMatchObject({ status: 409, body: { code: 'handoff.nothing' } });
    // One is described afterwards, and one more is kept.
    await mark('stars', 0, 4, ids[1]!);
    expect(await plan()).toMatchObject({ sidecars: 1, fresh: { frames: 1, files: 2 } });
    await mark('verdict', 'undecided', 'keep', ids[3]!);
    const now = await plan();
    expect(now).toMatchObject({ frames: 4, sidecars: 1, fresh: { frames: 2 } });
    expect(now.fresh.bytes).toBeLessThan(now.bytes);
    expect(await hand('new')).toMatchObject({ state: 'done', filesDone: now.fresh.files, filesFailed: 0 });
    expect(rating(copy(1))).toMatchObject({ Rating: 4 });
    expect(filesBelow(selects()).filter((file) => file.startsWith(`${name[3]}.`)).length).toBeGreaterThan(1);
    expect((await plan()).fresh.files).toBe(0);
    expect([...filesBelow(volumeOf(data, 'edit'))].filter(isLeftOver)).toEqual([]);
  });

  it('say who has them, in a folder of their own, and with all notes whatever went last', async () => {
    const list = () =>
      arkiv.get<{ result: { person: string; there: number; folders: string[]; frames: number } }[]>(
        `/shoots/${shootId}/handoffs`,
      );
    const to = async (more: object) => {
      const { jobId } = await arkiv.post<{ jobId: string }>(`/shoots/${shootId}/handoffs`, {
        ...{ volumeId, ...more },
      });
      expect((await arkiv.rest(jobId)).job).toMatchObject({ state: 'done', filesFailed: 0 });
    };
    await mark('note', null, 'warmer', ids[0]!);
    await to({ person: ' Ana Pinto ', folder: 'for-ana' });
    expect((await list())[0]!.result).toMatchObject({
      ...{ person: 'Ana Pinto', there: 3, frames: 3, folders: [`${HOME}/for-ana`] },
    });
    // Another folder is another place: nothing is there yet, and nothing of the first is missed in it.
    expect(await plan()).toMatchObject({ fresh: { frames: 3 }, gone: [] });
    const there = (more: string) =>
      arkiv.get<Plan>(`/shoots/${shootId}/handoffs/plan?volumeId=${volumeId}${more}`);
    expect((await there('&folder=for-ana')).fresh.files).toBe(0);
    await mark('note', null, 'cut the pole', ids[2]!);
    await to({ part: 'new', folder: 'for-ana' });
    const notes = readFileSync(path.join(volumeOf(data, 'edit'), HOME, 'for-ana/notes.csv'), 'utf8');
    expect(notes.split('\r\n').slice(1, 3)).toEqual([`${name[0]},warmer,,`, `${name[2]},cut the pole,,`]);
    // The one that was brought anew counts for the hand-off that brought it.
    expect((await list()).map(({ result }) => result.there)).toEqual([1, 3]);
    for (const folder of ['originals', 'Delivery', '../out', '.arkiv', 'a/b'])
      expect(
        (await arkiv.ask('POST', `/shoots/${shootId}/handoffs`, { volumeId, folder })).status,
      ).toBeGreaterThanOrEqual(400);
  });

  it('that are no keepers any more are named, and taken back into the drive’s bin with what editing made of them', async () => {
    await hand();
    const originals = outsideManifest(path.join(volumeOf(data, 'working'), HOME, 'originals'));
    await mark('verdict', 'keep', 'undecided', ids[0]!);
    expect((await plan()).gone).toEqual([{ name: name[0], why: 'no keeper' }]);
    // A copy of another frame that is called alike is wanted, and stays.
    const wanted = `${HOME}/selects/${name[0]}.jpeg`;
    writeFileSync(selects(`${name[0]}.jpeg`), 'another frame');
    const other = {
      volumeId,
      path: wanted,
      shootId: ulid(),
      frameId: ids[1]!,
      handoffId: ulid(),
      sha256: 'x',
      size: 1,
    };
    const { ledger, work } = { ledger: arkiv.app.get(OutLedger), work: arkiv.app.get(UnitOfWork) };
    await work.write((manager) => ledger.hand(manager, { ...other, ...NOTHING_INSIDE }));
    const its = filesBelow(selects()).filter((file) => file.startsWith(`${name[0]}.`));
    // The editor has worked on it, and keeps settings beside it.
    writeFileSync(selects(`${name[0]}.dng.settings`), 'warm');
    const { jobId } = await arkiv.post<{ jobId: string }>(`/shoots/${shootId}/handoffs/take-back`, {
      volumeId,
    });
    expect((await arkiv.rest(jobId)).job).toMatchObject({ state: 'done', filesFailed: 0 });
    expect(filesBelow(selects()).filter((file) => file.startsWith(`${name[0]}.`))).toEqual([
      `${name[0]}.jpeg`,
    ]);
    await work.write((manager) => ledger.takeBack(manager, volumeId, wanted));
    const bin = filesBelow(path.join(volumeOf(data, 'edit'), '.arkiv-bin'));
    for (const file of [...its.filter((one) => !wanted.endsWith(one)), `${name[0]}.dng.settings`])
      expect(bin.filter((one) => one.endsWith(`/${HOME}/selects/${file}`))).toHaveLength(1);
    expect((await plan()).gone).toEqual([]);
    const now = outsideManifest(path.join(volumeOf(data, 'working'), HOME, 'originals'));
    for (const [file, sum] of originals) if (!file.endsWith('.xmp')) expect(now.get(file)).toBe(sum);
    // Kept again, it goes again.
    await mark('verdict', 'undecided', 'keep', ids[0]!);
    expect((await plan()).fresh.frames).toBe(1);
    expect(await hand('new')).toMatchObject({ state: 'done', filesFailed: 0 });
    expect(existsSync(copy(0))).toBe(true);
  });

  it('give back by themselves what editors wrote into their sidecars, and an update leaves all else that stands there', async () => {
    await hand();
    expect(await heard()).toEqual({ frames: 0, at: null, problems: [] });
    const text = readFileSync(copy(1), 'utf8');
    // Another program's settings, stars, and a keyword.
    writeFileSync(
      copy(1),
      text.replace('<rdf:Description', '<rdf:Description xmlns:tune="https://tune.invalid/" tune:warm="7"'),
    );
    execFileSync('exiftool', ['-overwrite_original', '-XMP:Rating=5', '-XMP-dc:Subject+=dusk', copy(1)]);
    const theirs = readFileSync(copy(1), 'utf8');
    // Nobody asks for it.
    await until(async () => (await said(1)).keywords === 'dusk');
    expect(await said(1)).toMatchObject({ stars: 5, keywords: 'dusk', verdict: 'keep' });
    expect(await heard()).toEqual({ frames: 1, at: expect.any(Number), problems: [] });
    // The editor may have it open: nothing was written there, and nothing is to be.
    expect(readFileSync(copy(1), 'utf8')).toBe(theirs);
    expect(await plan()).toMatchObject({ sidecars: 0 });
    // Undone like any mark: it stands in the journal.
    const history = await arkiv.get<{ operations: { kind: string; by: string; window: string }[] }>(
      `/shoots/${shootId}/history`,
    );
    expect(
      history.operations
        .filter(({ by, window }) => by === PROGRAM && window === 'copies')
        .map(({ kind }) => kind)
        .sort(),
    ).toEqual(['keyword dusk', 'stars']);
    await mark('label', null, 'M', ids[1]!);
    expect((await plan()).sidecars).toBe(1);
    // Meanwhile the editor goes on: both words hold, and the settings stay.
    execFileSync('exiftool', ['-overwrite_original', '-XMP-dc:Subject+=pier', copy(1)]);
    expect(await hand('new')).toMatchObject({ state: 'done', filesFailed: 0 });
    const now = readFileSync(copy(1), 'utf8');
    expect(now).toMatch(/tune:warm(="|>)7/);
    expect(now).toContain('Moss');
    expect(await said(1)).toMatchObject({ stars: 5, label: 'M', keywords: 'dusk\npier' });
  });

  it('are named where they cannot be read, and the others are read all the same', async () => {
    await hand();
    const whole = readFileSync(copy(0), 'utf8');
    writeFileSync(copy(0), 'no XML at all');
    execFileSync('exiftool', ['-overwrite_original', '-XMP:Rating=2', copy(2)]);
    const back = await heard();
    expect(back).toMatchObject({ frames: 1, problems: [expect.stringContaining(`${name[0]}.xmp`)] });
    expect(await said(2)).toMatchObject({ stars: 2 });
    expect(readFileSync(copy(0), 'utf8')).toBe('no XML at all');
    // Once it can be read again nothing is wrong.
    writeFileSync(copy(0), whole);
    expect((await heard()).problems).toEqual([]);
  });

  it('give back what was written while nobody listened: the server away, or their drive with the editor', async () => {
    await hand();
    await arkiv.stop();
    execFileSync('exiftool', ['-overwrite_original', '-XMP:Rating=5', copy(0)]);
    arkiv = await startArkiv(data);
    // No window is open.
    await until(async () => (await said(0)).stars === 5);
    const drive = (state: 'well' | 'unplugged') => arkiv.ask('PUT', '/stand-ins/drives/edit', { state });
    await drive('unplugged');
    execFileSync('exiftool', ['-overwrite_original', '-XMP:Rating=1', copy(1)]);
    await heard();
    expect(await said(1)).toMatchObject({ stars: 0 });
    await drive('well');
    await until(async () => (await said(1)).stars === 1);
  });

  it('give back what programs write beside one file, in a sidecar of its own', async () => {
    await hand();
    const picture = filesBelow(selects()).find(
      (file) => file.startsWith(`${name[1]}.`) && !file.endsWith('.xmp'),
    )!;
    execFileSync('exiftool', ['-XMP:Rating=4', '-XMP-dc:Subject=dusk', selects(`${picture}.xmp`)]);
    await until(async () => (await said(1)).stars === 4);
    expect(await said(1)).toMatchObject({ keywords: 'dusk' });
    execFileSync('exiftool', [
      '-overwrite_original',
      '-XMP:Rating=3',
      '-XMP-dc:Subject=',
      selects(`${picture}.xmp`),
    ]);
    await until(async () => (await said(1)).stars === 3);
    expect(await said(1)).toMatchObject({ keywords: '' });
  });

  it('keep a label of the editor’s for which the studio has no colour, through an update', async () => {
    await hand();
    execFileSync('exiftool', ['-overwrite_original', '-XMP:Label=Retouch twice', copy(1)]);
    await heard();
    expect(await plan()).toMatchObject({ sidecars: 0 });
    await mark('caption', null, 'dusk', ids[1]!);
    expect(await hand('new')).toMatchObject({ state: 'done', filesFailed: 0 });
    const read = readSidecar(readFileSync(copy(1), 'utf8'));
    expect(read).toMatchObject({ ok: true, model: { caption: 'dusk', label: 'Retouch twice' } });
  });

  it('are read once more before they are taken back', async () => {
    await hand();
    // Nothing listens.
    await arkiv.app.get(CopiesWatch).beforeApplicationShutdown();
    execFileSync('exiftool', ['-overwrite_original', '-XMP-dc:Subject+=dusk', copy(0)]);
    await mark('verdict', 'keep', 'reject', ids[0]!);
    const { jobId } = await arkiv.post<{ jobId: string }>(`/shoots/${shootId}/handoffs/take-back`, {
      volumeId,
    });
    expect((await arkiv.rest(jobId)).job).toMatchObject({ state: 'done', filesFailed: 0 });
    expect(existsSync(copy(0))).toBe(false);
    expect(await said(0)).toMatchObject({ keywords: 'dusk' });
  });

  it('are as they should be right after they went, though their stage brought a label with it', async () => {
    const { stages } = await arkiv.get<{ stages: { id: string; by: string | null }[] }>('/settings');
    const tied = stages.map((stage) => ({ ...stage, label: stage.by === 'handoff' ? 'S' : null }));
    await arkiv.ask('PATCH', '/settings', { stages: tied });
    await hand();
    expect(await said(0)).toMatchObject({ label: 'S' });
    expect(await plan()).toMatchObject({ sidecars: 0, fresh: { files: 0 } });
    // A label that means no stage is a word to the editor.
    await mark('label', 'S', 'M', ids[0]!);
    expect(await plan()).toMatchObject({ sidecars: 1 });
  });

  describe('with settings of editing programs', () => {
    const own = (role: 'working' | 'backup', i: number) =>
      path.join(volumeOf(data, role), HOME, 'originals', `${name[i]}.xmp`);
    const tune = (file: string, exposure: string) =>
      execFileSync('exiftool', ['-overwrite_original', `-XMP-crs:Exposure2012=${exposure}`, file]);
    const exposure = (file: string) =>
      execFileSync('exiftool', ['-s3', '-XMP-crs:Exposure2012', file], { encoding: 'utf8' }).trim();
    const flush = () => arkiv.app.get(SidecarsService).flush();

    it('bring these into the archive’s own sidecars, on every drive, one that was away too', async () => {
      await hand();
      tune(copy(1), '+0.50');
      const backup = volumeOf(data, 'backup');
      renameSync(backup, `${backup}-away`);
      await heard();
      await flush();
      expect(exposure(own('working', 1))).toBe('+0.50');
      renameSync(`${backup}-away`, backup);
      await until(async () => {
        await arkiv.get('/volumes');
        return exposure(own('backup', 1)) === '+0.50';
      });
      // Nothing of what Arkiv says was lost by that.
      expect(readSidecar(readFileSync(own('backup', 1), 'utf8'))).toMatchObject({
        ok: true,
        model: { frameId: ids[1], verdict: 'keep' },
      });
      // An editor who takes them away again takes them away everywhere.
      execFileSync('exiftool', ['-overwrite_original', '-XMP-crs:all=', copy(1)]);
      await heard();
      await flush();
      for (const role of ['working', 'backup'] as const) expect(exposure(own(role, 1))).toBe('');
    });

    it('leave newer ones that the archive’s own sidecars got meanwhile', async () => {
      await hand();
      tune(own('working', 1), '+1.00');
      await mark('label', null, 'M', ids[1]!);
      expect(exposure(own('backup', 1))).toBe('+1.00');
      // The editor gives stars only.
      execFileSync('exiftool', ['-overwrite_original', '-XMP:Rating=4', copy(1)]);
      await heard();
      await flush();
      for (const role of ['working', 'backup'] as const) expect(exposure(own(role, 1))).toBe('+1.00');
      expect(exposure(copy(1))).toBe('');
      await hand('new');
      expect(exposure(copy(1))).toBe('+1.00');
      expect(await said(1)).toMatchObject({ stars: 4 });
    });

    it('say so where both have changed, and keep what was found last', async () => {
      await hand();
      const told: string[] = [];
      arkiv.app.get(Happenings).on('sidecar', (its) => told.push(its.message));
      tune(own('working', 1), '+1.00');
      await mark('stars', 0, 2, ids[1]!);
      tune(copy(1), '-0.30');
      await heard();
      await flush();
      for (const file of [own('working', 1), own('backup', 1), copy(1)]) expect(exposure(file)).toBe('-0.30');
      expect(told.join()).toContain('two of its sidecars');
    });
  });

  describe('of JPEGs', () => {
    /** Frames of which a JPEG lies with editing, by their numbers. */
    const jpegs = (): { i: number; file: string }[] =>
      filesBelow(selects()).flatMap((file) => {
        const { name: base, ext } = path.parse(file);
        return ext.toLowerCase() === '.jpg' ? { i: name.indexOf(base), file: selects(file) } : [];
      });
    const tool = (...args: string[]) => execFileSync('exiftool', args, { encoding: 'utf8' });
    const told = (file: string, ...tags: string[]) =>
      (
        JSON.parse(tool('-j', '-struct', '-charset', 'iptc=utf8', ...tags, file)) as Record<string, unknown>[]
      )[0]!;
    const original = (i: number, file: string) =>
      path.join(
        volumeOf(data, 'working'),
        HOME,
        'originals',
        path.basename(file).replace(/^.*(?=\.)/, name[i]!),
      );

    it('carry what is said of the frames inside, and the picture stays as it was', async () => {
      await mark('caption', null, 'Grèce: the “white heron” rises', ...ids.slice(0, 3));
      await mark('keyword heron', false, true, ...ids.slice(0, 3));
      await mark('text city', null, 'Søby', ...ids.slice(0, 3));
      await mark('label', null, 'A', ...ids.slice(0, 3));
      await hand();
      const [first] = jpegs();
      const { i, file } = first!;
      expect(
        told(file, '-XMP:all', '-IPTC:all', '-IFD0:ImageDescription', '-Photoshop:IPTCDigest'),
      ).toMatchObject({
        ...{ 'Caption-Abstract': 'Grèce: the “white heron” rises', Keywords: 'heron', City: 'Søby' },
        ...{ Description: 'Grèce: the “white heron” rises', Subject: ['heron'] },
        ImageDescription: 'Grèce: the “white heron” rises',
      });
      expect(told(file, '-IPTCDigest', '-CurrentIPTCDigest')).toMatchObject({
        IPTCDigest: told(file, '-CurrentIPTCDigest').CurrentIPTCDigest,
      });
      expect(tool('-validate', '-warning', '-a', '-s3', file).trim()).toBe(
        tool('-validate', '-warning', '-a', '-s3', original(i, file)).trim(),
      );
      // The decoder sees the same pixels, and everything that the camera wrote is there.
      const pixels = (of: string) => sharp(of).raw().toBuffer();
      expect(await pixels(file)).toEqual(await pixels(original(i, file)));
      const cameras = (of: string) => {
        const all = told(of, '-ExifIFD:all', '-MakerNotes:all', '-IFD1:all', '-ICC_Profile:all', '-MPF:all');
        // Where things lie, and the length of the whole, are others now.
        const { SourceFile: _, MPImageStart: __, MPImageLength: ___, ...its } = all;
        return its;
      };
      expect(cameras(file)).toEqual(cameras(original(i, file)));
      const preview = (of: string) => execFileSync('exiftool', ['-b', '-MPF:PreviewImage', of]);
      expect(preview(file).length).toBeGreaterThan(1000);
      expect(preview(file)).toEqual(preview(original(i, file)));
      expect(readFileSync(original(i, file))).not.toEqual(readFileSync(file));
    });

    it('are brought up to date when more is said, but not where an editor has saved something else', async () => {
      await hand();
      const [first] = jpegs();
      const { i, file } = first!;
      await mark('caption', null, 'dusk', ids[i]!);
      // The sidecar and the JPEG.
      expect(await plan()).toMatchObject({ sidecars: 1, fresh: { frames: 1, files: 2 } });
      expect(await hand('new')).toMatchObject({ state: 'done', filesFailed: 0 });
      expect(told(file, '-IPTC:Caption-Abstract')).toMatchObject({ 'Caption-Abstract': 'dusk' });
      expect((await plan()).fresh.files).toBe(0);
      // The editor works in the copy.
      await sharp(readFileSync(file)).rotate(90).toFile(`${file}.new`);
      renameSync(`${file}.new`, file);
      const theirs = readFileSync(file);
      await mark('caption', 'dusk', 'night', ids[i]!);
      const { state, filesFailed } = await hand('new');
      expect({ state, filesFailed }).toEqual({ state: 'done', filesFailed: 1 });
      expect(readFileSync(file)).toEqual(theirs);
      expect([...filesBelow(volumeOf(data, 'edit'))].filter(isLeftOver)).toEqual([]);
    });

    it('give back the words that an editor’s program wrote into them, and are left to it from then on', async () => {
      await hand();
      const [first] = jpegs();
      const { i, file } = first!;
      tool('-q', '-overwrite_original', '-XMP:Rating=3', '-XMP-dc:Subject+=pier', file);
      const theirs = readFileSync(file);
      await until(async () => (await said(i)).stars === 3);
      expect(await said(i)).toMatchObject({ stars: 3, keywords: 'pier' });
      expect(await heard()).toMatchObject({ frames: 1, problems: [] });
      await mark('stars', 3, 2, ids[i]!);
      // Its sidecar alone.
      expect((await plan()).fresh.files).toBe(1);
      expect(await hand('new')).toMatchObject({ state: 'done', filesFailed: 0 });
      expect(readFileSync(file)).toEqual(theirs);
    });
  });
});

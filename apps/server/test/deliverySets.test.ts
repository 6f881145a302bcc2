import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import {
  appendFileSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import path from 'node:path';
import { DEFAULT_OUTPUT_SPEC, EMPTY_SIDECAR, readSidecar, type OutputSpec } from '@arkiv/core';
import { SidecarsService } from '../src/sidecars/sidecars.service';
import { diskError, FaultyDisk } from './faultyDisk';
import { filesBelow, removeFolder, sha256sumCheck, takenIn, volumeOf, type TestArkiv } from './testArkiv';

const HOME = '2026/2026-10-16_press-night/delivery';
const WEB: OutputSpec = {
  ...{ ...DEFAULT_OUTPUT_SPEC, name: 'Web', size: { by: 'long', pixels: 120 }, pattern: '{number:2}' },
  ...{ sharpen: 'none', metadata: 'all' },
};

interface Changes {
  fresh: number;
  changed: number;
  gone: number;
  names: string[];
}

/** What RFC 8493 asks of a whole and valid bag, read by nothing of ours. */
function checkBag(bag: string): { payload: string[]; info: Map<string, string> } {
  expect(readFileSync(path.join(bag, 'bagit.txt'), 'utf8')).toMatch(
    /^BagIt-Version: \d+\.\d+\r?\nTag-File-Character-Encoding: UTF-8\r?\n?$/,
  );
  const listed = (manifest: string) => {
    const lines = readFileSync(path.join(bag, manifest), 'utf8').trimEnd().split('\n');
    return new Map(
      lines.map((line) => {
        const [, digest, name] = /^([0-9a-f]+)[ \t]+(.+)$/.exec(line)!;
        return [
          name!.replace(/%(0A|0D|25)/gi, (_, code: string) => String.fromCharCode(parseInt(code, 16))),
          digest,
        ];
      }),
    );
  };
  const digest = (file: string) =>
    createHash('sha256')
      .update(readFileSync(path.join(bag, file)))
      .digest('hex');
  const payload = filesBelow(bag, 'data');
  const manifest = listed('manifest-sha256.txt');
  expect([...manifest.keys()].sort()).toEqual(payload);
  for (const [file, its] of manifest) expect(digest(file)).toBe(its);
  for (const [file, its] of listed('tagmanifest-sha256.txt')) expect(digest(file)).toBe(its);
  const info = new Map(
    readFileSync(path.join(bag, 'bag-info.txt'), 'utf8')
      .trimEnd()
      .split('\n')
      .map((line) => line.split(': ', 2) as [string, string]),
  );
  const bytes = payload.reduce((sum, file) => sum + statSync(path.join(bag, file)).size, 0);
  expect(info.get('Payload-Oxum')).toBe(`${bytes}.${payload.length}`);
  return { payload, info };
}

describe('a set', () => {
  let arkiv: TestArkiv;
  let data: string;
  let shootId: string;
  let ids: string[];
  let volumeId: string;
  let disk: FaultyDisk;

  beforeEach(async () => {
    disk = new FaultyDisk();
    ({ arkiv, data, shootId } = await takenIn('OCK_9973', { disk }));
    ({ id: ids } = await arkiv.frames(shootId));
    volumeId = await arkiv.volumeId('working');
    await arkiv.mark('verdict', 'undecided', 'keep', ...ids.slice(0, 3));
  });
  afterEach(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  const start = async (more: object = {}) => {
    const { jobId } = await arkiv.post<{ jobId: string }>(`/shoots/${shootId}/deliveries`, {
      ...{ name: 'Set', volumeId, specs: [WEB], ...more },
    });
    return { jobId, ...(await arkiv.rest(jobId)) };
  };
  const again = async (id: string) => {
    const { jobId } = await arkiv.post<{ jobId: string }>(`/deliveries/${id}/again`);
    return { jobId, ...(await arkiv.rest(jobId)) };
  };
  const changes = (id: string) => arkiv.get<Changes>(`/deliveries/${id}/changes`);
  const home = (file = '') => path.join(volumeOf(data, 'working'), HOME, 'set', file);
  const pictures = () => filesBelow(home()).filter((file) => file.endsWith('.jpg'));
  const unzipped = () =>
    execFileSync('unzip', ['-Z1', path.join(volumeOf(data, 'working'), HOME, 'set.zip')], {
      encoding: 'utf8',
    })
      .trim()
      .split('\n')
      .sort();
  const list = () =>
    arkiv.get<{ jobId: string; result: { files: number; times: number; failed: number } }[]>(
      `/shoots/${shootId}/deliveries`,
    );

  it('is brought up to date: what is new comes, what is another is made anew, what is no part of it goes', async () => {
    const { jobId } = await start();
    expect(await changes(jobId)).toEqual({ fresh: 0, changed: 0, gone: 0, names: [], problem: null });
    const before = new Map(pictures().map((file) => [file, statSync(home(file)).ino]));
    await arkiv.mark('verdict', 'keep', 'reject', ids[0]!);
    await arkiv.mark('verdict', 'undecided', 'keep', ids[3]!);
    await arkiv.mark('caption', null, 'The red curtain', ids[1]!);
    expect(await changes(jobId)).toMatchObject({
      ...{ fresh: 1, changed: 1, gone: 1, names: ['04.jpg', '02.jpg', '01.jpg'] },
    });
    const second = await again(jobId);
    expect(second.job).toMatchObject({ state: 'done', reason: null, filesFailed: 0 });
    // Who had a number keeps it; the next one goes on after the last.
    expect(pictures()).toEqual(['02.jpg', '03.jpg', '04.jpg']);
    expect(statSync(home('03.jpg')).ino).toBe(before.get('03.jpg'));
    expect(
      execFileSync('exiftool', ['-s3', '-XMP-dc:Description', home('02.jpg')], { encoding: 'utf8' }),
    ).toBe('The red curtain\n');
    expect(sha256sumCheck(home(), 'manifest.sha256').trim().split('\n')).toHaveLength(3);
    expect(unzipped()).toEqual(['set/02.jpg', 'set/03.jpg', 'set/04.jpg', 'set/manifest.sha256']);
    expect(await list()).toMatchObject([{ jobId: second.jobId, result: { files: 3, times: 2, failed: 0 } }]);
    expect(await changes(second.jobId)).toMatchObject({ fresh: 0, changed: 0, gone: 0 });
    // The one before is history.
    expect((await arkiv.ask<{ code: string }>('POST', `/deliveries/${jobId}/again`)).body.code).toBe(
      'delivery.old',
    );
    expect(await arkiv.get<{ done: unknown }>(`/shoots/${shootId}`)).toMatchObject({ deliveries: 1 });
  });

  it('keeps what somebody else has changed in its folder, and names it', async () => {
    const { jobId } = await start();
    appendFileSync(home('01.jpg'), 'x');
    appendFileSync(home('02.jpg'), 'x');
    await arkiv.mark('verdict', 'keep', 'reject', ids[0]!);
    await arkiv.mark('caption', null, 'The red curtain', ids[1]!);
    const second = await again(jobId);
    expect(second.job).toMatchObject({ state: 'done', filesFailed: 1 });
    expect(second.failures[0]!.reason).toContain('another file than the one that was made');
    expect(second.job.reason).toContain('01.jpg');
    // What is not as it was made, the set does not vouch for.
    expect(sha256sumCheck(home(), 'manifest.sha256').trim().split('\n')).toEqual(['03.jpg: OK']);
    for (const file of ['01.jpg', '02.jpg']) expect(readFileSync(home(file)).at(-1)).toBe('x'.charCodeAt(0));
  });

  it('makes again what was lost from its folder', async () => {
    const { jobId } = await start();
    const was = readFileSync(home('02.jpg'));
    rmSync(home('02.jpg'));
    expect((await again(jobId)).job).toMatchObject({ state: 'done', filesFailed: 0 });
    expect(readFileSync(home('02.jpg'))).toEqual(was);
  });

  it('keeps the picture of before where the new one cannot be written, and takes it when that is tried again', async () => {
    const { jobId } = await start();
    const was = readFileSync(home('02.jpg'));
    await arkiv.mark('caption', null, 'The red curtain', ids[1]!);
    disk.onWrite = (file, bytes) => {
      if (file.includes('02.jpg')) throw diskError('EIO');
      return bytes;
    };
    const second = await again(jobId);
    expect(second.job).toMatchObject({ state: 'done', filesFailed: 1 });
    expect(readFileSync(home('02.jpg'))).toEqual(was);
    sha256sumCheck(home(), 'manifest.sha256');
    expect(unzipped()).toContain('set/02.jpg');
    disk.onWrite = (_, bytes) => bytes;
    await arkiv.post(`/jobs/${second.jobId}/retry`);
    expect((await arkiv.rest(second.jobId)).job).toMatchObject({ state: 'done', filesFailed: 0 });
    expect(readFileSync(home('02.jpg'))).not.toEqual(was);
    sha256sumCheck(home(), 'manifest.sha256');
  });

  it('holds the raws with their sidecars, called as the finished files, and nothing that is the studio’s own', async () => {
    await arkiv.mark('stars', 0, 4, ids[0]!);
    await arkiv.mark('note', null, 'cut the pole', ids[0]!);
    await arkiv.mark('keyword stage', false, true, ids[0]!);
    await arkiv.mark('keyword unpaid', false, true, ids[0]!);
    await arkiv.post('/vocabulary/terms', { text: '[unpaid]', format: 'indented', bring: true });
    await arkiv.app.get(SidecarsService).flush();
    // Another program's settings lie in the archive's own sidecar.
    const own = filesBelow(volumeOf(data, 'working')).find((file) => /_9968\.xmp$|0001\.xmp$/.test(file))!;
    const settings = [
      '-XMP-crs:Exposure2012=0.5',
      '-overwrite_original',
      path.join(volumeOf(data, 'working'), own),
    ];
    execFileSync('exiftool', settings);
    await arkiv.app.get(SidecarsService).flush();
    const asked = { name: 'Set', volumeId, specs: [WEB], raws: 'camera files' };
    expect(await arkiv.post(`/shoots/${shootId}/deliveries/plan`, asked)).toMatchObject({
      files: 3,
      raws: 3,
    });
    expect((await start({ raws: 'camera files' })).job).toMatchObject({ state: 'done', filesFailed: 0 });
    expect(readdirSync(home('camera files')).sort()).toEqual([
      ...['01.dng', '01.xmp', '02.dng', '02.xmp', '03.dng', '03.xmp'],
    ]);
    const card = path.join(data, 'stand-ins/cards/card-a/DCIM/100OCKHM/OCK_9968.DNG');
    expect(readFileSync(home('camera files/01.dng'))).toEqual(readFileSync(card));
    const text = readFileSync(home('camera files/01.xmp'), 'utf8');
    expect(readSidecar(text)).toMatchObject({
      ok: true,
      model: {
        ...EMPTY_SIDECAR,
        stars: 4,
        keywords: ['stage'],
        preservedFileName: expect.any(String) as string,
      },
    });
    expect(text).not.toMatch(/pole|unpaid|arkiv:/);
    expect(text).toContain('Exposure2012');
    expect(sha256sumCheck(home(), 'manifest.sha256').trim().split('\n')).toHaveLength(9);
    expect(
      (await arkiv.ask('POST', `/shoots/${shootId}/deliveries/plan`, { ...asked, raws: '..' })).status,
    ).toBe(400);
  });

  it('is a bag that is whole and valid, and stays one when it is brought up to date', async () => {
    await arkiv.ask('PATCH', '/settings', { creator: 'Ada Quill' });
    const { jobId, job } = await start({ bag: true, sheet: true });
    expect(job).toMatchObject({ state: 'done', filesFailed: 0 });
    const { payload, info } = checkBag(home());
    expect(payload).toEqual(['data/01.jpg', 'data/02.jpg', 'data/03.jpg', 'data/proof-sheet.pdf']);
    expect(Object.fromEntries(info)).toMatchObject({
      ...{ 'Source-Organization': 'Ada Quill', 'External-Description': 'Press night · Set' },
      'Bagging-Date': expect.stringMatching(/^\d{4}-\d\d-\d\d$/) as string,
    });
    sha256sumCheck(home(), 'manifest-sha256.txt');
    await arkiv.mark('verdict', 'keep', 'reject', ids[1]!);
    expect((await again(jobId)).job).toMatchObject({ state: 'done', filesFailed: 0 });
    expect(checkBag(home()).payload).toEqual(['data/01.jpg', 'data/03.jpg', 'data/proof-sheet.pdf']);
    // As a client checks it who has the zip alone.
    const elsewhere = mkdtempSync(path.join(data, 'client-'));
    execFileSync('unzip', ['-q', path.join(volumeOf(data, 'working'), HOME, 'set.zip'), '-d', elsewhere]);
    checkBag(path.join(elsewhere, 'set'));
  });

  it('has a sheet of all its pictures with their names, on pages', async () => {
    await arkiv.mark('verdict', 'undecided', 'keep', ...ids.slice(3));
    const specs = [{ ...WEB, pattern: 'Ærø {number:2}' }];
    expect((await start({ sheet: true, specs })).job).toMatchObject({ state: 'done', filesFailed: 0 });
    const sheet = home('proof-sheet.pdf');
    const text = execFileSync('pdftotext', [sheet, '-'], { encoding: 'utf8' });
    expect(text).toContain('Press night · Set');
    for (const [i] of ids.entries()) expect(text).toContain(`Ærø ${String(i + 1).padStart(2, '0')}`);
    const shown = execFileSync('pdfimages', ['-list', sheet], { encoding: 'utf8' })
      .trim()
      .split('\n')
      .slice(2);
    expect(shown).toHaveLength(ids.length);
    execFileSync('pdftoppm', ['-png', '-r', '30', sheet, path.join(data, 'page')]);
    expect(readdirSync(data).filter((file) => file.startsWith('page'))).toHaveLength(1);
    sha256sumCheck(home(), 'manifest.sha256');
    // A file of that name that somebody else put there is never written over.
    mkdirSync(path.join(path.dirname(home()), 'other'));
    writeFileSync(path.join(path.dirname(home()), 'other.zip'), 'mine');
    expect(existsSync(sheet)).toBe(true);
  });
});

import { mkdirSync, readFileSync, renameSync, truncateSync, unlinkSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { DEFAULT_OUTPUT_SPEC, readSidecar } from '@arkiv/core';
import { ulid } from 'ulid';
import { SidecarsService } from '../src/sidecars/sidecars.service';
import {
  dataWithCard,
  cardOf,
  filesBelow,
  removeFolder,
  startArkiv,
  volumeOf,
  type TestArkiv,
} from './testArkiv';

const FOLDER = '2026/2026-10-16_press-night';
const operation = (subject: string, kind: string, from: unknown, to: unknown) => ({
  id: ulid(),
  subject,
  kind,
  from,
  to,
  at: Date.now(),
  group: ulid(),
  window: 'test',
});

describe('a shoot whose drives come and go', () => {
  let arkiv: TestArkiv;
  let data: string;
  let shootId: string;
  let ids: string[];
  let names: string[];

  beforeEach(async () => {
    data = dataWithCard({ until: 'OCK_9979' });
    // One JPEG is broken, and one frame has only its raw file.
    truncateSync(path.join(cardOf(data), 'DCIM/100OCKHM/OCK_9971.JPG'), 4000);
    unlinkSync(path.join(cardOf(data), 'DCIM/100OCKHM/OCK_9969.JPG'));
    arkiv = await startArkiv(data);
    const started = await arkiv.takeIn();
    await arkiv.rest(started.jobId);
    shootId = started.shootId;
    ({ id: ids, name: names } = await arkiv.frames(shootId));
  });
  afterEach(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  const plug = async (name: 'working' | 'backup' | 'edit', state: 'well' | 'unplugged') => {
    const answer = await arkiv.ask('PUT', `/stand-ins/drives/${name}`, { state });
    if (answer.status !== 200) throw new Error(JSON.stringify(answer.body));
  };
  const away = (name: 'working' | 'backup' | 'edit') => plug(name, 'unplugged');
  const back = (name: 'working' | 'backup' | 'edit') => plug(name, 'well');
  const flush = () => arkiv.app.get(SidecarsService).flush();
  const sidecar = (volume: 'working' | 'backup', i: number) => {
    const result = readSidecar(
      readFileSync(path.join(volumeOf(data, volume), FOLDER, 'originals', `${names[i]}.xmp`), 'utf8'),
    );
    if (!result.ok) throw new Error(result.reason);
    return result.model;
  };
  const keep = async (...which: number[]) => {
    await arkiv.post('/marks', {
      operations: which.map((i) => operation(ids[i]!, 'verdict', 'undecided', 'keep')),
    });
    await flush();
  };
  const at = (number: string) => names.findIndex((n) => n.endsWith(number));

  it('can be marked while a drive is away; its sidecars catch up when it returns', async () => {
    await flush();
    await away('backup');
    await keep(10);
    expect(sidecar('working', 10).verdict).toBe('keep');
    await back('backup');
    await flush();
    expect(sidecar('backup', 10)).toMatchObject({ verdict: 'keep', frameId: ids[10] });
  });

  it('still shows its pictures from the other drive', async () => {
    await away('working');
    const { picture } = await arkiv.frames(shootId);
    expect((await fetch(`${arkiv.base}/api/previews/v2/${picture[8]}/screen`)).status).toBe(200);
  });

  it('says which drives it looks for when none is there', async () => {
    const { picture } = await arkiv.frames(shootId);
    await arkiv.stop();
    removeFolder(path.join(data, 'previews'));
    arkiv = await startArkiv(data);
    await away('working');
    await away('backup');
    const answer = await arkiv.ask<{ message: string }>('GET', `/previews/v2/${picture[8]}/screen`);
    expect(answer.status).toBe(409);
    expect(answer.body.message).toMatch(/Working drive or Backup drive/);
  });

  it('is not safe to clear while a drive that holds a copy is away', async () => {
    expect(await arkiv.get('/readers/slot-1/clearance')).toMatchObject({ safe: true });
    await away('backup');
    const report = await arkiv.get<{ safe: boolean; reasons: string[] }>('/readers/slot-1/clearance');
    expect(report.safe).toBe(false);
    expect(report.reasons[0]).toMatch(/has 1 of 2 verified copies/);
  });

  it('counts an empty mount point as away, not as an empty drive', async () => {
    renameSync(volumeOf(data, 'edit'), `${volumeOf(data, 'edit')}-away`);
    mkdirSync(volumeOf(data, 'edit'));
    const volumeId = await arkiv.volumeId('edit');
    await keep(10);
    expect(await arkiv.ask('POST', `/shoots/${shootId}/handoffs`, { volumeId })).toMatchObject({
      status: 409,
      body: { code: 'volume.offline' },
    });
    expect(filesBelow(volumeOf(data, 'edit'))).toEqual([]);
  });

  it('is not handed off without a keeper', async () => {
    const volumeId = await arkiv.volumeId('edit');
    expect(await arkiv.ask('POST', `/shoots/${shootId}/handoffs`, { volumeId })).toMatchObject({
      status: 409,
      body: { code: 'job.nothing' },
    });
  });

  it('never overwrites what lies in the selects folder already', async () => {
    await keep(10);
    const selects = path.join(volumeOf(data, 'edit'), FOLDER, 'selects');
    mkdirSync(selects, { recursive: true });
    writeFileSync(path.join(selects, `${names[10]}.jpg`), 'edited by hand');
    writeFileSync(path.join(selects, `${names[10]}.xmp`), 'notes by hand');
    const { jobId } = await arkiv.post<{ jobId: string }>(`/shoots/${shootId}/handoffs`, {
      volumeId: await arkiv.volumeId('edit'),
    });
    const report = await arkiv.rest(jobId);
    expect(report.failures).toHaveLength(2);
    const reasons = report.failures.map(({ reason }) => reason).sort();
    // A sidecar that can be read is written into; one that cannot is named, like a picture that is another one.
    expect(reasons[0]).toMatch(/exists already with other content.*Nothing was overwritten/);
    expect(reasons[1]).toMatch(/xmp cannot be read.*Repair or move it/);
    expect(readFileSync(path.join(selects, `${names[10]}.jpg`), 'utf8')).toBe('edited by hand');
    expect(readFileSync(path.join(selects, `${names[10]}.xmp`), 'utf8')).toBe('notes by hand');
  });

  it('does not hand off a working copy that has rotted', async () => {
    await keep(10);
    const file = path.join(volumeOf(data, 'working'), FOLDER, 'originals', `${names[10]}.jpg`);
    const bytes = readFileSync(file);
    bytes[bytes.length >> 1]! ^= 1;
    writeFileSync(file, bytes);
    const { jobId } = await arkiv.post<{ jobId: string }>(`/shoots/${shootId}/handoffs`, {
      volumeId: await arkiv.volumeId('edit'),
    });
    const report = await arkiv.rest(jobId);
    expect(report.failures.map((f) => f.reason)).toEqual([expect.stringMatching(/differs from its source/)]);
    expect(filesBelow(path.join(volumeOf(data, 'edit'), FOLDER, 'selects'))).toEqual([`${names[10]}.xmp`]);
  });

  it('brings the sidecars of a hand-off up to date by handing off again', async () => {
    await keep(10);
    const volumeId = await arkiv.volumeId('edit');
    const hand = async () =>
      arkiv.rest((await arkiv.post<{ jobId: string }>(`/shoots/${shootId}/handoffs`, { volumeId })).jobId);
    await hand();
    await arkiv.post('/marks', { operations: [operation(ids[10]!, 'stars', 0, 5)] });
    expect((await hand()).failures).toEqual([]);
    expect(
      readFileSync(path.join(volumeOf(data, 'edit'), FOLDER, 'selects', `${names[10]}.xmp`), 'utf8'),
    ).toContain('<xmp:Rating>5</xmp:Rating>');
  });

  it('delivers what can be made, and names what cannot', async () => {
    const broken = at('_0004');
    const rawOnly = at('_0002');
    await keep(broken, rawOnly, 8);
    const body = {
      name: 'Set',
      volumeId: await arkiv.volumeId('working'),
      specs: [
        {
          ...{ ...DEFAULT_OUTPUT_SPEC, size: { by: 'long', pixels: 100 }, sharpen: 'none', metadata: 'none' },
          pattern: '{shoot}_{seq:2}',
        },
      ],
    };
    const { jobId } = await arkiv.post<{ jobId: string }>(`/shoots/${shootId}/deliveries`, body);
    const report = await arkiv.rest(jobId);
    expect(report.job).toMatchObject({ state: 'done', filesDone: 2, filesFailed: 1 });
    expect(report.failures[0]!.reason).toMatch(/_0004: .*cannot be decoded/);
    const folder = path.join(volumeOf(data, 'working'), FOLDER, 'delivery');
    // The raw-only frame comes from the full-size picture that the camera put into it.
    expect(filesBelow(folder)).toEqual([
      'set.zip',
      'set/manifest.sha256',
      'set/press-night_01.jpg',
      'set/press-night_03.jpg',
    ]);
    const [delivered] = await arkiv.get<{ result: { files: number; failed: number } }[]>(
      `/shoots/${shootId}/deliveries`,
    );
    expect(delivered!.result).toMatchObject({ files: 2, failed: 1 });
  });

  it('refuses a delivery that cannot be right, before anything is made', async () => {
    await keep(7, 8);
    const volumeId = await arkiv.volumeId('working');
    const refused: [string, object, object][] = [
      ['a name that is no folder name', { name: '...' }, {}],
      ['a pattern that gives two files one name', {}, { pattern: '{shoot}' }],
      ['an unknown field', {}, { pattern: '{nope}' }],
      ['a path in the pattern', {}, { pattern: '../{seq}' }],
      ['a size of nothing', {}, { size: { by: 'long', pixels: 0 } }],
      ['a field that no spec has', {}, { longSide: 100 }],
      ['a quality over 100', {}, { quality: 101 }],
    ];
    const right = { ...DEFAULT_OUTPUT_SPEC, pattern: '{seq:2}' };
    for (const [why, change, spec] of refused) {
      const body = { name: 'Set', volumeId, ...change, specs: [{ ...right, ...spec }] };
      const { status, body: said } = await arkiv.ask<{ code: string }>(
        'POST',
        `/shoots/${shootId}/deliveries`,
        body,
      );
      expect([why, status, said.code]).toEqual([why, 400, 'request.invalid']);
    }
    expect(filesBelow(path.join(volumeOf(data, 'working'), FOLDER, 'delivery'))).toEqual([]);
  });

  it('gives no zip of a delivery that is not finished or does not exist', async () => {
    expect((await arkiv.ask('GET', '/deliveries/none/zip')).status).toBe(404);
  });
});

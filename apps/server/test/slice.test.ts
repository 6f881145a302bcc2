import { execFileSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import sharp from 'sharp';
import { DEFAULT_OUTPUT_SPEC } from '@arkiv/core';
import { ulid } from 'ulid';
import { SidecarsService } from '../src/sidecars/sidecars.service';
import {
  dataWithCard,
  cardOf,
  filesBelow,
  isLeftOver,
  outsideManifest,
  removeFolder,
  sha256sumCheck,
  startArkiv,
  volumeOf,
  type TestArkiv,
} from './testArkiv';

const FOLDER = '2026/2026-10-16_press-night';
const mark = (subject: string, kind: string, from: unknown, to: unknown) => ({
  id: ulid(),
  subject,
  kind,
  from,
  to,
  at: Date.now(),
  group: ulid(),
  window: 'test',
});

describe('from card to client', () => {
  let arkiv: TestArkiv;
  let data: string;
  let shootId: string;
  let jobId: string;
  let oracle: Map<string, string>;

  beforeAll(async () => {
    data = dataWithCard();
    oracle = outsideManifest(cardOf(data));
    arkiv = await startArkiv(data, undefined, { looks: true });
    ({ jobId, shootId } = await arkiv.takeIn());
    const report = await arkiv.rest(jobId);
    expect(report).toMatchObject({ job: { state: 'done', filesFailed: 0 }, failures: [] });
  });
  afterAll(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  const flush = () => arkiv.app.get(SidecarsService).flush();

  it('copies every file of the card to both drives, byte for byte', () => {
    const wanted = [...oracle.values()].sort();
    for (const volume of ['working', 'backup'] as const) {
      const copies = outsideManifest(path.join(volumeOf(data, volume), FOLDER, 'originals'));
      const originals = [...copies].filter(([name]) => !/\.xmp(\.|$)/.test(name)).map(([, sha]) => sha);
      expect(originals.sort()).toEqual(wanted);
    }
  });

  it('leaves the card as it was', () => expect(outsideManifest(cardOf(data))).toEqual(oracle));

  it('leaves a receipt and a manifest that sha256sum accepts, on both drives', () => {
    for (const volume of ['working', 'backup'] as const) {
      const folder = path.join(volumeOf(data, volume), FOLDER);
      const receipts = filesBelow(path.join(folder, '.arkiv/receipts')).filter((f) => f.endsWith('.sha256'));
      expect(receipts).toHaveLength(1);
      for (const manifest of [`.arkiv/receipts/${receipts[0]}`, '.arkiv/manifest.sha256']) {
        expect(sha256sumCheck(folder, manifest).trim().split('\n')).toHaveLength(oracle.size);
      }
      const facts = JSON.parse(
        readFileSync(path.join(folder, '.arkiv/receipts', receipts[0]!.replace('.sha256', '.json')), 'utf8'),
      ) as { files: { fate: string; copies: unknown[] }[] };
      expect(facts.files.every((f) => f.fate === 'copied' && f.copies.length === 2)).toBe(true);
    }
  });

  it('leaves no temporary file', () => {
    expect(filesBelow(path.join(data, 'stand-ins/volumes')).filter((f) => isLeftOver(f))).toEqual([]);
  });

  it('says that the card is not safe to clear while a copy is gone, or is no longer whole', async () => {
    const [copy] = filesBelow(volumeOf(data, 'backup')).filter((file) => file.endsWith('.jpg'));
    const place = path.join(volumeOf(data, 'backup'), copy!);
    const whole = readFileSync(place);
    const clearance = () =>
      arkiv.get<{ safe: boolean; proven: number; total: number }>('/readers/slot-1/clearance');
    removeFolder(place);
    expect(await clearance()).toMatchObject({ safe: false, proven: oracle.size - 1, total: oracle.size });
    writeFileSync(place, whole.subarray(0, -1));
    expect(await clearance()).toMatchObject({ safe: false, proven: oracle.size - 1 });
    writeFileSync(place, whole);
    expect(await clearance()).toMatchObject({ safe: true, proven: oracle.size });
  });

  it('says that the card is safe to clear, and that it is not once something new is on it', async () => {
    expect(await arkiv.get('/readers/slot-1/clearance')).toMatchObject({
      safe: true,
      proven: oracle.size,
      total: oracle.size,
      required: 2,
    });
    writeFileSync(path.join(cardOf(data), 'DCIM/NEW.JPG'), 'one more');
    const after = await arkiv.get<{ safe: boolean; reasons: string[] }>('/readers/slot-1/clearance');
    expect(after).toMatchObject({ safe: false, reasons: ['DCIM/NEW.JPG was not taken in.'] });
    removeFolder(path.join(cardOf(data), 'DCIM/NEW.JPG'));
  });

  it('recognises the same card again, whatever the new names would be', async () => {
    const { jobId: again } = await arkiv.takeIn({ title: 'Once more' });
    expect((await arkiv.rest(again)).job.state).toBe('done');
    const report = await arkiv.get<{ files: { fate: string; from: string; to: string }[] }>(
      `/intakes/${again}`,
    );
    expect(report.files.filter((f) => f.fate !== 'already-here')).toEqual([]);
    // The report says where the content is, and a shoot without anything of its own is not left behind.
    expect(report.files.every((f) => f.to.startsWith(`${FOLDER}/originals/`))).toBe(true);
    expect((await arkiv.get<{ title: string }[]>('/shoots')).map((s) => s.title)).toEqual(['Press night']);
  });

  it('knows the frames in the order of time, with their facts', async () => {
    const frames = await arkiv.frames(shootId);
    expect(frames.count).toBe(57);
    expect(frames.name[0]).toBe('press-night_20261016_0001');
    expect(frames.name).toEqual([...frames.name].sort());
  });

  it('makes previews by content and serves them for ever', async () => {
    const { picture } = await arkiv.frames(shootId);
    for (const [size, type] of [
      ['thumb', 'image/webp'],
      ['screen', 'image/jpeg'],
      ['embedded', 'image/jpeg'],
    ]) {
      const response = await fetch(`${arkiv.base}/api/previews/v2/${picture[0]}/${size}`);
      expect([response.status, response.headers.get('content-type')]).toEqual([200, type]);
      expect(response.headers.get('cache-control')).toContain('immutable');
    }
    expect((await arkiv.ask('GET', `/previews/v2/${'0'.repeat(64)}/thumb`)).status).toBe(404);
  });

  it('applies a mark once, however often it is sent, and writes it to the sidecars of every drive', async () => {
    const { id, name } = await arkiv.frames(shootId);
    const operations = [
      mark(id[0]!, 'verdict', 'undecided', 'keep'),
      mark(id[0]!, 'stars', 0, 4),
      mark(id[0]!, 'label', null, 'M'),
      mark(id[1]!, 'verdict', 'undecided', 'reject'),
      mark(id[1]!, 'stars', 0, 2),
    ];
    await arkiv.post('/marks', { operations });
    await arkiv.post('/marks', { operations });
    await flush();
    for (const volume of ['working', 'backup'] as const) {
      const folder = path.join(volumeOf(data, volume), FOLDER, 'originals');
      // The reference metadata tool reads them as the standard says.
      const [kept, rejected] = JSON.parse(
        execFileSync('exiftool', ['-j', '-n', '-XMP:all', `${name[0]}.xmp`, `${name[1]}.xmp`], {
          cwd: folder,
          encoding: 'utf8',
          stdio: ['ignore', 'pipe', 'ignore'],
        }),
      ) as Record<string, unknown>[];
      expect(kept).toMatchObject({ Rating: 4, Label: 'Moss', Good: true, PreservedFileName: 'OCK_9968' });
      expect(rejected).toMatchObject({ Rating: -1, Good: false });
    }
    const after = await arkiv.frames(shootId);
    expect([after.verdict[0], after.stars[0], after.verdict[1], after.stars[1]]).toEqual([
      'keep',
      4,
      'reject',
      2,
    ]);
  });

  it('takes up what another program wrote into a sidecar, and keeps what it does not know', async () => {
    const { id, name } = await arkiv.frames(shootId);
    const sidecar = path.join(volumeOf(data, 'working'), FOLDER, 'originals', `${name[2]}.xmp`);
    execFileSync('exiftool', ['-overwrite_original', '-XMP:Rating=5', '-XMP-dc:Subject=puppet', sidecar]);
    // Nothing is marked here: the change is seen by itself.
    for (let i = 0; i < 1200 && (await arkiv.frames(shootId)).stars[2] !== 5; i++)
      await new Promise((resolve) => setTimeout(resolve, 25));
    expect((await arkiv.frames(shootId)).stars[2]).toBe(5);
    await arkiv.post('/marks', { operations: [mark(id[2]!, 'verdict', 'undecided', 'keep')] });
    await flush();
    const after = await arkiv.frames(shootId);
    expect([after.stars[2], after.verdict[2]]).toEqual([5, 'keep']);
    const [read] = JSON.parse(
      execFileSync('exiftool', ['-j', '-n', '-XMP:all', sidecar], { encoding: 'utf8' }),
    ) as Record<string, unknown>[];
    expect(read).toMatchObject({ Rating: 5, Good: true, Subject: 'puppet' });
  });

  it('never overwrites a sidecar that it cannot read', async () => {
    const { id, name } = await arkiv.frames(shootId);
    const sidecar = path.join(volumeOf(data, 'backup'), FOLDER, 'originals', `${name[3]}.xmp`);
    writeFileSync(sidecar, 'not XML at all');
    await arkiv.post('/marks', { operations: [mark(id[3]!, 'stars', 0, 1)] });
    await flush();
    expect(readFileSync(sidecar, 'utf8')).toBe('not XML at all');
    expect((await arkiv.frames(shootId)).stars[3]).toBe(1);
  });

  it('hands off the keepers with their sidecars, counted and verified', async () => {
    const volumeId = await arkiv.volumeId('edit');
    const plan = await arkiv.get<{ frames: number; files: number }>(
      `/shoots/${shootId}/handoffs/plan?volumeId=${volumeId}`,
    );
    // frames 1 and 3 of the bracket are keepers: raw, JPEG and sidecar each
    expect(plan).toMatchObject({ frames: 2, files: 6 });
    const { jobId: handoff } = await arkiv.post<{ jobId: string }>(`/shoots/${shootId}/handoffs`, {
      volumeId,
    });
    expect((await arkiv.rest(handoff)).failures).toEqual([]);
    const selects = path.join(volumeOf(data, 'edit'), FOLDER, 'selects');
    const original = path.join(volumeOf(data, 'working'), FOLDER, 'originals');
    const pixels = (file: string) => sharp(file).raw().toBuffer();
    const handed = outsideManifest(selects);
    expect(handed.size).toBe(6);
    const there = outsideManifest(original);
    for (const [name, sha] of handed) {
      // JPEGs carry words inside; of them the picture is the same.
      if (!name.endsWith('.jpg')) expect(there.get(name)).toBe(sha);
      else expect(await pixels(path.join(selects, name))).toEqual(await pixels(path.join(original, name)));
    }
    // Once more: nothing is copied twice, nothing fails.
    const { jobId: again } = await arkiv.post<{ jobId: string }>(`/shoots/${shootId}/handoffs`, { volumeId });
    expect((await arkiv.rest(again)).failures).toEqual([]);
  });

  it('goes by the studio’s keeper rule, not only by the verdict', async () => {
    await arkiv.ask('PATCH', '/settings', {
      rules: { keeper: { field: 'stars', atLeast: 5 }, reject: { field: 'verdict', is: 'reject' } },
    });
    const volumeId = await arkiv.volumeId('edit');
    expect(await arkiv.get(`/shoots/${shootId}/handoffs/plan?volumeId=${volumeId}`)).toMatchObject({
      frames: 1,
      rule: '≥ 5★',
    });
    await arkiv.ask('PATCH', '/settings', {
      rules: { keeper: { field: 'verdict', is: 'keep' }, reject: { field: 'verdict', is: 'reject' } },
    });
  });

  it('delivers finished JPEGs with a manifest and a zip that outside tools accept', async () => {
    await arkiv.ask('PATCH', '/settings', { creator: 'Ada Quill', rights: '© Ada Quill' });
    const body = {
      name: 'Client set',
      volumeId: await arkiv.volumeId('working'),
      specs: [
        {
          ...{ ...DEFAULT_OUTPUT_SPEC, name: 'small', size: { by: 'long', pixels: 120 }, quality: 80 },
          pattern: '{shoot}_{seq:3}',
        },
      ],
    };
    const { jobId: delivery } = await arkiv.post<{ jobId: string }>(`/shoots/${shootId}/deliveries`, body);
    expect((await arkiv.rest(delivery)).failures).toEqual([]);
    const folder = path.join(volumeOf(data, 'working'), FOLDER, 'delivery');
    expect(filesBelow(folder)).toEqual([
      'client-set.zip',
      'client-set/manifest.sha256',
      'client-set/press-night_001.jpg',
      'client-set/press-night_002.jpg',
    ]);
    sha256sumCheck(path.join(folder, 'client-set'), 'manifest.sha256');
    expect(execFileSync('unzip', ['-t', 'client-set.zip'], { cwd: folder, encoding: 'utf8' })).toContain(
      'No errors detected',
    );
    const [facts] = JSON.parse(
      execFileSync('exiftool', ['-j', '-G1', 'client-set/press-night_001.jpg'], {
        cwd: folder,
        encoding: 'utf8',
      }),
    ) as Record<string, unknown>[];
    expect(facts).toMatchObject({
      'File:ImageWidth': 120,
      'File:ImageHeight': 80,
      'IFD0:Artist': 'Ada Quill',
      'XMP-dc:Creator': 'Ada Quill',
      'XMP-dc:Rights': '© Ada Quill',
    });
    // As readers take Exif's texts (MWG 2.0, 5): in UTF-8.
    expect(facts!['IFD0:Copyright']).toBe('© Ada Quill');
    expect(String(facts!['ICC_Profile:ProfileDescription'])).toMatch(/sRGB/);
    // The serial number and the embedded thumbnail of the original do not go along.
    expect(JSON.stringify(facts)).not.toMatch(/OK5-004217|ThumbnailImage/);
    const zip = await fetch(`${arkiv.base}/api/deliveries/${delivery}/zip`);
    expect(
      Buffer.from(await zip.arrayBuffer()).equals(readFileSync(path.join(folder, 'client-set.zip'))),
    ).toBe(true);
    // The same name once more is refused, nothing is overwritten.
    expect(await arkiv.ask('POST', `/shoots/${shootId}/deliveries`, body)).toMatchObject({
      status: 409,
      body: { code: 'file.exists' },
    });
  });

  it('ejects the card', async () => {
    await arkiv.post('/readers/slot-1/eject');
    expect(await arkiv.ask('GET', '/readers/slot-1/card')).toMatchObject({
      status: 409,
      body: { code: 'card.none' },
    });
  });
});

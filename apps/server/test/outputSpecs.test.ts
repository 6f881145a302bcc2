import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import sharp from 'sharp';
import { DEFAULT_OUTPUT_SPEC, type OutputSpec } from '@arkiv/core';
import { ReturnsWatch } from '../src/returns/returnsWatch.service';
import { filesBelow, removeFolder, takenIn, sha256sumCheck, volumeOf, type TestArkiv } from './testArkiv';

const HOME = '2026/2026-10-16_press-night';
const spec = (name: string, more: Partial<OutputSpec>): OutputSpec => ({
  ...{ ...DEFAULT_OUTPUT_SPEC, name, pattern: '{number:2}', sharpen: 'none', metadata: 'none' },
  ...more,
});

describe('finished files', () => {
  let arkiv: TestArkiv;
  let data: string;
  let shootId: string;
  let ids: string[];
  let name: string[];
  let volumeId: string;

  beforeEach(async () => {
    ({ arkiv, data, shootId } = await takenIn('OCK_9973'));
    arkiv.app.get(ReturnsWatch).settles = 200;
    ({ id: ids, name } = await arkiv.frames(shootId));
    volumeId = await arkiv.volumeId('working');
    await arkiv.mark('verdict', 'undecided', 'keep', ...ids.slice(0, 2));
  });
  afterEach(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  const deliver = async (specs: OutputSpec[], set = 'Set') => {
    const { jobId } = await arkiv.post<{ jobId: string }>(`/shoots/${shootId}/deliveries`, {
      ...{ name: set, volumeId, specs },
    });
    return arkiv.rest(jobId);
  };
  const made = (file = '') => path.join(volumeOf(data, 'working'), HOME, 'delivery/set', file);
  const told = (file: string, ...tags: string[]) =>
    (
      JSON.parse(execFileSync('exiftool', ['-j', '-G1', ...tags, file], { encoding: 'utf8' })) as Record<
        string,
        unknown
      >[]
    )[0]!;

  it('are made by several specs at once, each in its own folder, in its format, size and colours', async () => {
    const specs = [
      spec('Web', { size: { by: 'long', pixels: 120 }, quality: 80 }),
      spec('Story', { size: { by: 'box', width: 90, height: 160 }, format: 'webp' }),
      spec('Print', { size: { by: 'whole' }, format: 'tiff', space: 'p3', sharpen: 'paper' }),
      spec('Grey', { size: { by: 'short', pixels: 64 }, format: 'png', space: 'grey' }),
      spec('Small', { size: { by: 'print', inches: 1, ppi: 100 }, format: 'avif' }),
    ];
    expect(
      await arkiv.post(`/shoots/${shootId}/deliveries/plan`, { name: 'Set', volumeId, specs }),
    ).toMatchObject({
      frames: 2,
      files: 10,
      unfinished: 0,
      names: ['web/01.jpg', 'story/01.webp', 'small/02.avif'],
    });
    expect((await deliver(specs)).job).toMatchObject({ state: 'done', filesTotal: 2, filesFailed: 0 });
    expect(filesBelow(made()).filter((file) => file !== 'manifest.sha256')).toEqual([
      ...['grey/01.png', 'grey/02.png', 'print/01.tif', 'print/02.tif', 'small/01.avif', 'small/02.avif'],
      ...['story/01.webp', 'story/02.webp', 'web/01.jpg', 'web/02.jpg'],
    ]);
    sha256sumCheck(made(), 'manifest.sha256');
    const facts = async (file: string) => {
      const { format, width, height, channels, space } = await sharp(made(file)).metadata();
      return { format, width, height, channels, space };
    };
    expect(await facts('web/01.jpg')).toMatchObject({ format: 'jpeg', width: 120, height: 80 });
    expect(await facts('story/01.webp')).toMatchObject({ format: 'webp', width: 135, height: 90 });
    expect(await facts('print/01.tif')).toMatchObject({ format: 'tiff', width: 240, height: 160 });
    expect(await facts('grey/01.png')).toMatchObject({ format: 'png', width: 96, height: 64, channels: 1 });
    expect(await facts('small/01.avif')).toMatchObject({ format: 'heif', width: 100, height: 67 });
    // The same colours, told in other numbers.
    expect(told(made('print/01.tif'), '-ICC_Profile:ProfileDescription')).toMatchObject({
      'ICC_Profile:ProfileDescription': expect.stringMatching(/P3/) as string,
    });
    const average = async (file: string) => {
      const image = sharp(made(file)).toColourspace('srgb').resize(1, 1);
      return [...(await image.raw().toBuffer()).subarray(0, 3)];
    };
    const [web, print] = [await average('web/01.jpg'), await average('print/01.tif')];
    web.forEach((value, i) => expect(Math.abs(value - print[i]!)).toBeLessThanOrEqual(3));
    // Nothing of the camera goes along.
    for (const file of ['web/01.jpg', 'print/01.tif', 'grey/01.png', 'small/01.avif', 'story/01.webp'])
      expect(JSON.stringify(told(made(file)))).not.toMatch(/OK5-004217|Thumbnail|GPS|Ockham/);
  });

  it('say inside as much as was chosen, and nothing that is not delivered', async () => {
    await arkiv.ask('PATCH', '/settings', { creator: 'Ada Quill', rights: '© Ada Quill' });
    await arkiv.mark('caption', null, 'Opening night: the “red” curtain', ids[0]!);
    await arkiv.mark('text city', null, 'Søby', ids[0]!);
    await arkiv.mark('keyword stage', false, true, ids[0]!);
    await arkiv.mark('keyword unpaid', false, true, ids[0]!);
    await arkiv.mark('note', null, 'cut the pole', ids[0]!);
    // In brackets: it is not delivered.
    await arkiv.post('/vocabulary/terms', { text: '[unpaid]', format: 'indented', bring: true });
    const specs = [
      spec('all', { metadata: 'all' }),
      spec('but places', { metadata: 'butPlaces' }),
      spec('rights', { metadata: 'rights' }),
      spec('none', { metadata: 'none' }),
      spec('webp', { metadata: 'all', format: 'webp' }),
    ];
    expect((await deliver(specs)).job).toMatchObject({ state: 'done', filesFailed: 0 });
    const tags = ['-XMP:all', '-IPTC:all', '-IFD0:all'];
    const all = told(made('all/01.jpg'), ...tags);
    expect(all).toMatchObject({
      ...{ 'XMP-dc:Description': 'Opening night: the “red” curtain', 'IPTC:City': 'Søby' },
      ...{ 'IFD0:Artist': 'Ada Quill', 'XMP-dc:Rights': '© Ada Quill', 'IPTC:By-line': 'Ada Quill' },
    });
    expect(JSON.stringify(all)).toContain('stage');
    expect(JSON.stringify(all)).not.toContain('unpaid');
    const places = told(made('but-places/01.jpg'), ...tags);
    expect(places).toMatchObject({ 'XMP-dc:Creator': 'Ada Quill' });
    expect(JSON.stringify(places)).toContain('Opening night');
    expect(JSON.stringify(places)).not.toContain('Søby');
    const rights = told(made('rights/01.jpg'), ...tags);
    expect(rights).toMatchObject({ 'XMP-dc:Creator': 'Ada Quill' });
    expect(JSON.stringify(rights)).not.toMatch(/Opening night|stage/);
    expect(JSON.stringify(told(made('none/01.jpg'), ...tags))).not.toMatch(/Ada|Opening/);
    expect(told(made('webp/01.webp'), ...tags)).toMatchObject({ 'XMP-photoshop:City': 'Søby' });
    // Words to the editor, and the archive's own, are nobody else's.
    for (const file of ['all/01.jpg', 'webp/01.webp'])
      expect(JSON.stringify(told(made(file)))).not.toMatch(/cut the pole|XMP-arkiv/);
  });

  it('stay below a limit of size, and bear words that are read on light and on dark', async () => {
    const specs = [
      spec('free', { size: { by: 'whole' }, quality: 100 }),
      spec('limited', { size: { by: 'whole' }, quality: 100, mostBytes: 20_000 }),
      spec('marked', {
        size: { by: 'whole' },
        format: 'png',
        watermark: { text: '© Ada & Co', place: 'middle', size: 60, strength: 80 },
      }),
      spec('plain', { size: { by: 'whole' }, format: 'png' }),
    ];
    const report = await deliver(specs);
    expect(report.failures).toEqual([]);
    expect(statSync(made('free/01.jpg')).size).toBeGreaterThan(20_000);
    const limited = statSync(made('limited/01.jpg')).size;
    // As good as it can be below the limit.
    expect(limited).toBeLessThanOrEqual(20_000);
    expect(limited).toBeGreaterThan(14_000);
    const pixels = (file: string) => sharp(made(file)).removeAlpha().greyscale().raw().toBuffer();
    const [marked, plain] = [await pixels('marked/01.png'), await pixels('plain/01.png')];
    const lighter = plain.filter((value, i) => marked[i]! > value + 20).length;
    const darker = plain.filter((value, i) => marked[i]! < value - 10).length;
    expect(lighter).toBeGreaterThan(100);
    expect(darker).toBeGreaterThan(100);
    // Words are where they were asked for: nothing is changed at the edges.
    const { width } = await sharp(made('plain/01.png')).metadata();
    expect(marked.subarray(0, width)).toEqual(plain.subarray(0, width));
  });

  it('bear a picture as a mark, set off on light and on dark, where it was asked for; what is none is refused', async () => {
    // A disc on nothing, dark and light.
    const disc = (fill: string) =>
      sharp(
        Buffer.from(`<svg width="200" height="200"><circle cx="100" cy="100" r="90" fill="${fill}"/></svg>`),
      )
        .png()
        .toBuffer();
    const keep = async (bytes: Buffer) => {
      const answer = await fetch(`${arkiv.base}/api/watermarks`, {
        ...{ method: 'POST', body: new Uint8Array(bytes) },
        headers: { 'content-type': 'application/octet-stream', 'x-arkiv': '1' },
      });
      return { status: answer.status, body: (await answer.json()) as { picture: string; code: string } };
    };
    const [dark, light] = [await keep(await disc('#101010')), await keep(await disc('#f8f8f8'))];
    const png = await fetch(`${arkiv.base}/api/watermarks/${dark.body.picture}`);
    expect(Buffer.from(await png.arrayBuffer()).equals(await disc('#101010'))).toBe(true);
    const jpeg = await sharp(await disc('#fff'))
      .flatten()
      .jpeg()
      .toBuffer();
    expect((await keep(jpeg)).body.code).toBe('watermark.unreadable');
    expect(
      (await keep(Buffer.concat([(await disc('#fff')).subarray(0, 60), Buffer.alloc(40)]))).body.code,
    ).toBe('watermark.unreadable');
    const mark = (picture: string) => ({
      text: 'disc.png',
      picture,
      place: 'middle' as const,
      size: 30,
      strength: 100,
    });
    const whole = { size: { by: 'whole' }, format: 'png' } as const;
    const report = await deliver([
      spec('dark', { ...whole, watermark: mark(dark.body.picture) }),
      spec('light', { ...whole, watermark: mark(light.body.picture) }),
      spec('plain', whole),
    ]);
    expect(report.failures).toEqual([]);
    const read = async (file: string) => {
      const { data: of, info } = await sharp(made(file))
        .removeAlpha()
        .greyscale()
        .raw()
        .toBuffer({ resolveWithObject: true });
      return { of, middle: of[Math.floor(info.height / 2) * info.width + Math.floor(info.width / 2)]! };
    };
    const [black, white, plain] = [
      await read('dark/01.png'),
      await read('light/01.png'),
      await read('plain/01.png'),
    ];
    expect(black.middle).toBeLessThan(30);
    expect(white.middle).toBeGreaterThan(235);
    // Around the dark one it is lighter than it was, around the light one darker.
    expect(plain.of.filter((value, i) => black.of[i]! > value + 20).length).toBeGreaterThan(50);
    expect(plain.of.filter((value, i) => white.of[i]! < value - 10).length).toBeGreaterThan(50);
    const gone = await deliver([spec('gone', { ...whole, watermark: mark('0'.repeat(64)) })], 'Gone');
    expect(JSON.stringify(gone.failures)).toContain('picture of a watermark');
  });

  it('go as they are where an editor finished them, byte for byte, under their new names; a raw alone is named', async () => {
    const originals = path.join(volumeOf(data, 'working'), HOME, 'originals');
    const source = filesBelow(originals).find((file) => file.startsWith(name[0]!) && /\.jpe?g$/i.test(file))!;
    const edit = await sharp(path.join(originals, source)).greyscale().jpeg({ quality: 93 }).toBuffer();
    mkdirSync(path.join(volumeOf(data, 'working'), HOME, 'edits'), { recursive: true });
    writeFileSync(path.join(volumeOf(data, 'working'), HOME, `edits/${name[0]}-bw.jpg`), edit);
    const sha256 = createHash('sha256').update(edit).digest('hex');
    for (;;) {
      await arkiv.app.get(ReturnsWatch).look(shootId);
      if ((await arkiv.columns(shootId)).picture![0] === sha256) break;
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
    const asis = spec('as they are', { format: 'asis', pattern: 'client_{number:3}' });
    const web = spec('web', { size: { by: 'long', pixels: 100 } });
    expect((await deliver([asis, web])).job).toMatchObject({ state: 'done', filesFailed: 0 });
    expect(readFileSync(made('as-they-are/client_001.jpg'))).toEqual(edit);
    // What is made of it is made of the edit, too.
    const { dominant } = await sharp(made('web/01.jpg')).stats();
    expect(Math.abs(dominant.r - dominant.g)).toBeLessThanOrEqual(8);
  });

  it('are of all keepers, or of those that a line finds, and say what is new since', async () => {
    await arkiv.mark('stars', 0, 5, ids[0]!);
    const web = spec('web', { size: { by: 'long', pixels: 100 } });
    const asked = (line: string) => ({ name: 'Set', volumeId, specs: [web], line });
    const plan = (line: string) =>
      arkiv.ask<{ frames: number; rule: string; code: string }>(
        'POST',
        `/shoots/${shootId}/deliveries/plan`,
        asked(line),
      );
    expect((await plan('')).body).toMatchObject({ frames: 2 });
    expect((await plan('≥4★')).body).toMatchObject({ frames: 1, first: [ids[0]] });
    expect((await plan('stage:ready')).body).toMatchObject({ frames: 0 });
    // What is asked of the shoot holds for all of its frames, or for none; an album's rule asks for it too.
    expect((await plan('shoot:"press night"')).body).toMatchObject({ frames: 2 });
    expect((await plan('place:harbour')).body).toMatchObject({ frames: 0 });
    await arkiv.post('/albums', { name: 'Nights', rule: 'shoot:night ≥5★' });
    expect((await plan('album:nights')).body).toMatchObject({ frames: 1 });
    // What no frame of a shoot knows is no part of such a line.
    expect(await plan('delivered:any')).toMatchObject({ status: 400, body: { code: 'request.invalid' } });
    const nothing = await arkiv.ask<{ code: string }>(
      'POST',
      `/shoots/${shootId}/deliveries`,
      asked('stage:ready'),
    );
    expect(nothing.body.code).toBe('job.nothing');
    const { jobId } = await arkiv.post<{ jobId: string }>(`/shoots/${shootId}/deliveries`, asked('≥4★'));
    expect((await arkiv.rest(jobId)).job).toMatchObject({ state: 'done', filesTotal: 1 });
    const list = () =>
      arkiv.get<{ result: { line: string; files: number } }[]>(`/shoots/${shootId}/deliveries`);
    const changes = () => arkiv.get<{ fresh: number }>(`/deliveries/${jobId}/changes`);
    expect((await list())[0]!.result).toMatchObject({ line: '≥4★', files: 1 });
    expect(await changes()).toMatchObject({ fresh: 0 });
    await arkiv.mark('stars', 0, 4, ids[1]!);
    expect(await changes()).toMatchObject({ fresh: 1 });
  });

  it('come into folders by album: into the first that they are in, and into another one where they are put there', async () => {
    const album = async (name: string, more: object = {}) =>
      (await arkiv.post<{ id: string }>('/albums', { name, ...more })).id;
    const feast = await album('The feast');
    const speech = await album('Speech / toast', { parent: feast });
    await album('Starred', { rule: '≥4★' });
    await arkiv.mark('stars', 0, 4, ids[0]!, ids[1]!);
    await arkiv.mark(`album ${speech}`, null, 'a0', ids[0]!);
    const web = spec('web', { size: { by: 'long', pixels: 100 }, folders: 'album' });
    await deliver([web]);
    const pictures = () => filesBelow(made()).filter((file) => file.endsWith('.jpg'));
    expect(pictures()).toEqual(['starred/02.jpg', 'the-feast/speech-toast/01.jpg']);
    const [set] = await arkiv.get<{ jobId: string }[]>(`/shoots/${shootId}/deliveries`);
    const upToDate = async (id: string) => {
      const { jobId } = await arkiv.post<{ jobId: string }>(`/deliveries/${id}/again`);
      expect((await arkiv.rest(jobId)).job).toMatchObject({ state: 'done', filesFailed: 0 });
      return jobId;
    };
    const changes = (id: string) => arkiv.get<object>(`/deliveries/${id}/changes`);
    expect(await changes(set!.jobId)).toMatchObject({ fresh: 0, changed: 0, gone: 0 });
    await arkiv.mark(`album ${speech}`, 'a0', null, ids[0]!);
    await arkiv.mark('stars', 4, 0, ids[1]!);
    await arkiv.mark(`album ${feast}`, null, 'a0', ids[1]!);
    expect(await changes(set!.jobId)).not.toMatchObject({ fresh: 0, changed: 0, gone: 0 });
    const next = await upToDate(set!.jobId);
    // They keep their numbers, and nothing is left of where they were.
    expect(pictures()).toEqual(['starred/01.jpg', 'the-feast/02.jpg']);
    expect(sha256sumCheck(made(), 'manifest.sha256').trim().split('\n')).toHaveLength(2);
    await arkiv.mark('stars', 4, 0, ids[0]!);
    await upToDate(next);
    expect(pictures()).toEqual(['01.jpg', 'the-feast/02.jpg']);
    expect(filesBelow(made()).filter((file) => file.startsWith('starred'))).toEqual([]);
  });

  it('come into folders by day, and can be looked at before they are made', async () => {
    const web = spec('web', { size: { by: 'long', pixels: 100 }, folders: 'day' });
    const { sample } = await arkiv.post<{
      sample: { bytes: number; width: number; data: string; name: string };
    }>(`/shoots/${shootId}/deliveries/sample`, { name: 'Set', volumeId, specs: [web], frameId: ids[1] });
    expect(sample).toMatchObject({ width: 100, name: '02.jpg' });
    expect(Buffer.from(sample.data, 'base64')).toHaveLength(sample.bytes);
    expect(filesBelow(path.join(volumeOf(data, 'working'), HOME, 'delivery'))).toEqual([]);
    await deliver([web]);
    expect(filesBelow(made()).filter((file) => file.endsWith('.jpg'))).toEqual([
      ...['2026-10-16/01.jpg', '2026-10-16/02.jpg'],
    ]);
    // The very bytes that were looked at.
    expect(readFileSync(made('2026-10-16/02.jpg'))).toEqual(Buffer.from(sample.data, 'base64'));
  });
});

import { execFileSync } from 'node:child_process';
import { rmSync } from 'node:fs';
import path from 'node:path';
import { MAKER_VERSION } from '@arkiv/core';
import sharp from 'sharp';
import { PictureHashes } from '../src/features/pictureHashes.service';
import { Reading } from '../src/db/unitOfWork';
import { cardOf, dataWithCard, removeFolder, startArkiv, until, type TestArkiv } from './testArkiv';

interface Variants {
  waiting: number;
  groups: {
    id: string;
    ofShoots: { shootId: string; frameIds: string[]; together: boolean }[];
    frames: {
      id: string;
      picture: string;
      original: string;
      shootId: string;
      width: number;
      format: string;
      take: string;
    }[];
  }[];
  next: string | null;
}

describe('pictures that are there in several ways', () => {
  let arkiv: TestArkiv;
  let data: string;
  let shootId: string;

  beforeAll(async () => {
    // Beside a raw with its picture and two bursts: one in black and white, one cut and called otherwise, one made small that
    // lost its facts, and two presses of another burst in one second.
    data = dataWithCard({ until: 'OCK_9978' });
    const folder = path.join(cardOf(data), 'DCIM/100OCKHM');
    const at = (name: string) => path.join(folder, name);
    const { width, height } = await sharp(at('OCK_9972.JPG')).metadata();
    await sharp(at('OCK_9972.JPG')).greyscale().keepMetadata().toFile(at('OCK_9972-BW.JPG'));
    const cut = { left: 8, top: 6, width: width - 12, height: height - 8 };
    await sharp(at('OCK_9972.JPG')).extract(cut).keepMetadata().toFile(at('COVER.JPG'));
    await sharp(at('OCK_9976.JPG'))
      .resize(Math.round(width / 2))
      .jpeg({ quality: 60 })
      .toFile(at('SMALL.JPG'));
    execFileSync('exiftool', [
      ...['-q', '-overwrite_original', '-DateTimeOriginal=2026:10:16 21:00:00', '-SubSecTimeOriginal=0'],
      ...['OCK_9977.JPG', 'OCK_9978.JPG'].map(at),
    ]);
    arkiv = await startArkiv(data, undefined, { looks: true });
    const started = await arkiv.takeIn();
    ({ shootId } = started);
    await arkiv.rest(started.jobId);
    const all = (await arkiv.columns(shootId)).id!.length;
    await until(async () => {
      await arkiv.app.get(PictureHashes).write();
      const [{ n }] = await arkiv.app.get(Reading).source.query('SELECT COUNT(*) AS n FROM picture_hash');
      return n >= all;
    });
  });
  afterAll(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  const found = () => arkiv.get<Variants>('/duplicates/variants');
  const names = (variants: Variants) =>
    variants.groups.map(({ frames }) => frames.map(({ original }) => original).sort());

  it('are found by the camera’s number, by what they show at its moment, and without their time', async () => {
    const variants = await found();
    expect(variants.next).toBeNull();
    expect(names(variants)).toEqual([
      ['COVER', 'OCK_9972', 'OCK_9972-BW'],
      ['OCK_9976', 'SMALL'],
    ]);
  });

  it('say how large each is and what it is', async () => {
    const { groups } = await found();
    const small = groups[1]!.frames.find(({ original }) => original === 'SMALL')!;
    const whole = groups[1]!.frames.find(({ original }) => original === 'OCK_9976')!;
    expect(small.width * 2).toBeCloseTo(whole.width, -1);
    expect([small.format, small.shootId]).toEqual(['jpeg', shootId]);
  });

  it('stay as one take, by one word of the history that is taken back as any other', async () => {
    const [first] = (await found()).groups;
    const ids = first!.frames.map(({ id }) => id);
    expect(first!.ofShoots).toEqual([{ shootId, frameIds: ids, together: false }]);
    expect((await arkiv.ask('POST', '/duplicates/variants/together', { frameIds: ids })).status).toBe(204);
    const [now] = (await found()).groups;
    expect([now!.ofShoots[0]!.together, now!.frames.map(({ take }) => take)]).toEqual([
      true,
      ['variant', `with:${ids[0]}`, `with:${ids[0]}`],
    ]);
    const groups: { group: string }[] = await arkiv.app
      .get(Reading)
      .source.query(`SELECT DISTINCT "group" FROM operation WHERE kind = 'take'`);
    expect(groups).toHaveLength(1);
    // Asked for once more, nothing is said twice.
    await arkiv.ask('POST', '/duplicates/variants/together', { frameIds: ids });
    const [{ n }] = await arkiv.app
      .get(Reading)
      .source.query(`SELECT COUNT(*) AS n FROM operation WHERE kind = 'take'`);
    expect(n).toBe(ids.length);
  });

  it('are refused where a frame is not there, or a page that is none is asked for', async () => {
    const [first] = (await found()).groups;
    const frameIds = [first!.id, '01J000000000000000000000ZZ'];
    expect((await arkiv.ask('POST', '/duplicates/variants/together', { frameIds })).status).toBe(404);
    expect((await arkiv.ask('GET', '/duplicates/variants?after=x')).status).toBe(400);
  });

  it('are none any more when the others are in the bin', async () => {
    const [first] = (await found()).groups;
    const { jobId } = await arkiv.post<{ jobId: string }>('/bin', {
      ...{ deed: 'bin', shootId, frameIds: first!.frames.slice(1).map(({ id }) => id) },
    });
    await arkiv.rest(jobId);
    expect(names(await found())).toEqual([['OCK_9976', 'SMALL']]);
    await arkiv.rest((await arkiv.post<{ jobId: string }>(`/bin/jobs/${jobId}/undo`)).jobId);
    expect((await found()).groups).toHaveLength(2);
  });

  it('show themselves, not what was left in their file, and are looked at again when what is known of them was let go', async () => {
    const grey = (await found()).groups[0]!.frames.find(({ original }) => original === 'OCK_9972-BW')!;
    const answer = await fetch(`${arkiv.base}/api/previews/v${MAKER_VERSION}/${grey.picture}/thumb`);
    expect(answer.headers.get('cache-control')).toMatch(/immutable/);
    const { data: pixels } = await sharp(Buffer.from(await answer.arrayBuffer()))
      .raw()
      .toBuffer({ resolveWithObject: true });
    for (let i = 0; i < pixels.length; i += 3) expect(Math.abs(pixels[i]! - pixels[i + 2]!)).toBeLessThan(16);
    // While it is not made yet the one in its file stands in, and no browser keeps it for good.
    rmSync(path.join(data, 'previews'), { recursive: true });
    // What nobody has looked at any more is looked at again.
    expect((await found()).waiting).toBeGreaterThan(0);
    await until(async () => (await found()).waiting === 0);
    expect((await found()).groups).toHaveLength(2);
    rmSync(path.join(data, 'previews'), { recursive: true });
    const quick = await fetch(`${arkiv.base}/api/previews/v${MAKER_VERSION}/${grey.picture}/thumb`);
    expect(quick.headers.get('cache-control')).toBe('private, max-age=60');
    expect((await fetch(`${arkiv.base}/api/previews/v${MAKER_VERSION}/${grey.picture}/screen`)).status).toBe(
      200,
    );
    const last = await fetch(`${arkiv.base}/api/previews/v${MAKER_VERSION}/${grey.picture}/thumb`);
    expect(last.headers.get('cache-control')).toMatch(/immutable/);
  });
});

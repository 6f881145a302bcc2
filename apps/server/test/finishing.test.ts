import { execFileSync } from 'node:child_process';
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import {
  DEFAULT_OUTPUT_SPEC,
  finishedKey,
  finishOf,
  keyParts,
  previewAddress,
  toner,
  type OutputSpec,
  type PreviewSize,
} from '@arkiv/core';
import sharp from 'sharp';
import { SidecarsService } from '../src/sidecars/sidecars.service';
import {
  filesBelow,
  outsideManifest,
  removeFolder,
  takenIn,
  until,
  volumeOf,
  type TestArkiv,
} from './testArkiv';

const HOME = '2026/2026-10-16_press-night';
const SPEC: OutputSpec = {
  ...{ ...DEFAULT_OUTPUT_SPEC, name: 'Web', size: { by: 'whole' }, format: 'png', pattern: '{number:2}' },
  ...{ sharpen: 'none', metadata: 'none' },
};

describe('a finished frame', () => {
  let arkiv: TestArkiv;
  let data: string;
  let shootId: string;
  let ids: string[];

  beforeAll(async () => {
    ({ arkiv, data, shootId } = await takenIn('OCK_9973'));
    ({ id: ids } = await arkiv.frames(shootId));
  });
  afterAll(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  const pictureOf = async (id: string) => {
    const all = (await arkiv.frames(shootId)) as unknown as Record<string, (string | null)[]>;
    return all.picture![all.id!.indexOf(id)]!;
  };
  const fetched = async (key: string, size: PreviewSize) => {
    const response = await fetch(`${arkiv.base}${previewAddress(key, size)}`);
    return { status: response.status, bytes: Buffer.from(await response.arrayBuffer()) };
  };
  const pixels = async (bytes: Buffer) => {
    const { data: of, info } = await sharp(bytes).removeAlpha().raw().toBuffer({ resolveWithObject: true });
    return { of, width: info.width, height: info.height };
  };
  /** Mean distance of two pictures of one size, in steps of 255. */
  const apart = (a: Uint8Array, b: Uint8Array) => {
    expect(a.length).toBe(b.length);
    return a.reduce((sum, v, i) => sum + Math.abs(v - b[i]!), 0) / a.length;
  };
  const originals = () => path.join(volumeOf(data, 'working'), HOME, 'originals');
  const sidecarOf = (id: string) => {
    const text = filesBelow(originals()).filter((file) => file.endsWith('.xmp'));
    return text
      .map((file) => path.join(originals(), file))
      .find((file) => readFileSync(file, 'utf8').includes(id))!;
  };
  const flushed = () => arkiv.app.get(SidecarsService).flush();

  it('is shown with its values under a key of its own, in every size, and its file stays as it was', async () => {
    const before = outsideManifest(originals());
    const id = ids[0]!;
    const plain = await pictureOf(id);
    await arkiv.mark('finish exposure', null, 0.8, id);
    await arkiv.mark('finish mono', null, 'plain', id);
    const key = await pictureOf(id);
    expect(keyParts(key)).toEqual({ picture: plain, finish: 'exposure=0.8,mono=plain' });
    for (const size of ['thumb', 'screen', 'full'] as const) {
      const { status, bytes } = await fetched(key, size);
      expect([size, status]).toEqual([size, 200]);
      const [own, raw] = [await pixels(bytes), await pixels((await fetched(plain, size)).bytes)];
      expect([own.width, own.height]).toEqual([raw.width, raw.height]);
      // What core makes of the same pixels, but for the coding of both.
      const wanted = Uint8Array.from(raw.of);
      toner(finishOf('exposure=0.8,mono=plain'))(wanted, 3);
      expect(apart(own.of, wanted)).toBeLessThan(3);
      expect(apart(own.of, raw.of)).toBeGreaterThan(8);
      // Kept, it comes again as it is.
      expect((await fetched(key, size)).bytes.equals(bytes)).toBe(true);
    }
    await arkiv.mark('finish exposure', 0.8, null, id);
    await arkiv.mark('finish mono', 'plain', null, id);
    expect(await pictureOf(id)).toBe(plain);
    await flushed();
    const originalsNow = [...outsideManifest(originals())].filter(([file]) => !file.endsWith('.xmp'));
    expect(originalsNow).toEqual([...before].filter(([file]) => !file.endsWith('.xmp')));
  });

  it('is asked for by nothing but the text that its values are kept as', async () => {
    const plain = keyParts(await pictureOf(ids[1]!)).picture;
    for (const text of ['exposure=9', 'mono=plain,exposure=1', 'exposure=1.0', '../../x'])
      expect((await fetched(finishedKey(plain, text).replaceAll('/', '%2F'), 'thumb')).status).toBe(404);
    expect((await fetched(`${plain}~0:exposure=1`, 'thumb')).status).toBe(404);
  });

  it('is cropped, turned and laid level where it says so', async () => {
    const id = ids[1]!;
    const plain = await pictureOf(id);
    const whole = await pixels((await fetched(plain, 'full')).bytes);
    await arkiv.mark('finish crop', null, '1:1:0.25:0.5:0.5', id);
    const cut = await pixels((await fetched(await pictureOf(id), 'full')).bytes);
    const side = Math.round(Math.min(whole.width, whole.height) / 2);
    expect([cut.width, cut.height]).toEqual([side, side]);
    const wanted = await sharp((await fetched(plain, 'full')).bytes)
      .extract({
        left: Math.round(whole.width * 0.25 - side / 2),
        top: Math.round(whole.height * 0.5 - side / 2),
        ...{ width: side, height: side },
      })
      .removeAlpha()
      .raw()
      .toBuffer();
    expect(apart(cut.of, wanted)).toBeLessThan(3);
    await arkiv.mark('finish crop', '1:1:0.25:0.5:0.5', null, id);
    await arkiv.mark('finish turn', null, 1, id);
    const turned = await pixels((await fetched(await pictureOf(id), 'screen')).bytes);
    const right = await sharp((await fetched(plain, 'screen')).bytes)
      .rotate(90)
      .removeAlpha()
      .raw()
      .toBuffer();
    expect(turned.width).toBe(whole.height);
    expect(apart(turned.of, right)).toBeLessThan(3);
    // Laid askew and back again, the middle is where it was.
    await arkiv.mark('finish turn', 1, null, id);
    await arkiv.mark('finish angle', null, 20, id);
    const askew = await pixels((await fetched(await pictureOf(id), 'full')).bytes);
    const back = await sharp(askew.of, { raw: { width: askew.width, height: askew.height, channels: 3 } })
      .rotate(-20)
      .raw()
      .toBuffer({ resolveWithObject: true });
    const middle = (of: Buffer, width: number, height: number) =>
      sharp(of, { raw: { width, height, channels: 3 } })
        .extract({
          left: Math.round(width / 2) - 20,
          top: Math.round(height / 2) - 15,
          width: 40,
          height: 30,
        })
        .blur(2)
        .raw()
        .toBuffer();
    const [one, other] = [
      await middle(whole.of, whole.width, whole.height),
      await middle(back.data, back.info.width, back.info.height),
    ];
    expect(apart(one, other)).toBeLessThan(6);
    await arkiv.mark('finish angle', 20, null, id);
  });

  it('goes to clients as it is shown, in each form, and is other by now where its values change', async () => {
    const id = ids[2]!;
    const volumeId = await arkiv.volumeId('working');
    await arkiv.mark('verdict', 'undecided', 'keep', id);
    await arkiv.mark('finish crop', null, '4:5:0.5:0.5:1', id);
    await arkiv.mark('finish temperature', null, 60, id);
    const specs = [
      SPEC,
      { ...SPEC, name: 'Small', size: { by: 'long', pixels: 64 }, format: 'jpeg', quality: 95 },
    ];
    const { jobId } = await arkiv.post<{ jobId: string }>(`/shoots/${shootId}/deliveries`, {
      ...{ name: 'Set', volumeId, specs },
    });
    await arkiv.rest(jobId);
    const home = path.join(volumeOf(data, 'working'), HOME, 'delivery/set');
    const files = filesBelow(home).filter((file) => /\.(png|jpg)$/.test(file));
    expect(files).toHaveLength(2);
    const made = await pixels(
      readFileSync(
        path.join(
          home,
          files.find((file) => file.endsWith('png'))!,
        ),
      ),
    );
    const shown = await pixels((await fetched(await pictureOf(id), 'full')).bytes);
    expect([made.width, made.height]).toEqual([shown.width, shown.height]);
    expect(made.width / made.height).toBeCloseTo(0.8, 1);
    expect(apart(made.of, shown.of)).toBeLessThan(3);
    const small = await pixels(
      readFileSync(
        path.join(
          home,
          files.find((file) => file.endsWith('jpg'))!,
        ),
      ),
    );
    expect([small.width, small.height]).toEqual([51, 64]);
    expect(await arkiv.get(`/deliveries/${jobId}/changes`)).toMatchObject({ changed: 0 });
    await arkiv.mark('finish temperature', 60, 20, id);
    expect(await arkiv.get(`/deliveries/${jobId}/changes`)).toMatchObject({ changed: 2 });
  });

  it('says its values in its sidecar, and hears of others that are written there', async () => {
    const id = ids[3]!;
    await arkiv.mark('finish angle', null, -1.25, id);
    await arkiv.mark('finish exposure', null, 0.35, id);
    await flushed();
    const file = sidecarOf(id);
    const said = execFileSync('exiftool', ['-j', '-G1', '-XMP:all', file], { encoding: 'utf8' });
    expect(said).toContain('"XMP-arkiv:Finish": "angle=-1.25,exposure=0.35"');
    writeFileSync(
      file,
      readFileSync(file, 'utf8').replace('angle=-1.25,exposure=0.35', 'exposure=0.35,contrast=20,nonsense=3'),
    );
    await until(async () => keyParts(await pictureOf(id)).finish === 'exposure=0.35,contrast=20');
  });

  it('is found by that it is finished, and shown as it is where an edit of it came back', async () => {
    const { page } = await arkiv.post<{ page: { columns: { id?: string[] } } }>('/find', {
      ...{ line: 'finished:any', rejects: true, oldestFirst: true },
    });
    expect([...(page.columns.id ?? [])].sort()).toEqual([ids[2]!, ids[3]!].sort());
    const names = (await arkiv.frames(shootId)).name;
    const edits = path.join(volumeOf(data, 'working'), HOME, 'edits');
    const source = path.join(
      originals(),
      filesBelow(originals()).find((file) => file.endsWith('.jpg'))!,
    );
    const edit = await sharp(source).greyscale().jpeg().toBuffer();
    mkdirSync(edits, { recursive: true });
    writeFileSync(path.join(edits, `${names[3]}-edit.jpg`), edit);
    await until(async () => {
      await arkiv.post(`/shoots/${shootId}/returns/look`);
      return keyParts(await pictureOf(ids[3]!)).finish === '';
    });
  });

  it('is finished by a name, and a list that says nothing to put on is refused', async () => {
    const kept = [{ name: 'Dusk', values: 'exposure=0.5,temperature=20' }];
    expect((await arkiv.ask('PATCH', '/settings', { finishes: kept })).status).toBe(200);
    expect((await arkiv.get<{ finishes: object[] }>('/settings')).finishes).toEqual(kept);
    const refused = await arkiv.ask<{ message: string }>('PATCH', '/settings', {
      finishes: [{ name: 'None', values: 'exposure=99' }],
    });
    expect(refused.status).toBe(400);
    expect(JSON.stringify(refused.body)).toContain('holds no values');
  });
});

import { rmSync } from 'node:fs';
import path from 'node:path';
import sharp from 'sharp';
import { AWAY, measuredFacts, measuresIn } from '@arkiv/core';
import { Reading, UnitOfWork } from '../src/db/unitOfWork';
import { Happenings, type DomainEvents } from '../src/events/domainEvents';
import { FrameStore } from '../src/frames/frameStore';
import { makeRaw } from './madeRaw';
import { cardOf, dataWithCard, removeFolder, startArkiv, until, type TestArkiv } from './testArkiv';

const RAW_ONLY = 'OCK_9979_ONLY';

describe('what is found out of a frame’s files after it came', () => {
  let arkiv: TestArkiv;
  let data: string;
  let shootId: string;
  const told: DomainEvents['measured'][] = [];

  beforeAll(async () => {
    data = dataWithCard({ until: 'OCK_9980' });
    const folder = path.join(cardOf(data), 'DCIM/100OCKHM');
    makeRaw(path.join(folder, `${RAW_ONLY}.DNG`));
    // A raw whose picture is as large as its sensor is none that has to be developed, however small both are.
    rmSync(path.join(folder, 'OCK_9979.JPG'), { force: true });
    arkiv = await startArkiv(data, undefined, { looks: true });
    arkiv.app.get(Happenings).on('measured', (event) => void told.push(event));
    const started = await arkiv.takeIn();
    ({ shootId } = started);
    await arkiv.rest(started.jobId);
  });
  afterAll(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  const frames = async (): Promise<Record<string, string | number | null>[]> => {
    const columns = await arkiv.columns(shootId);
    return columns.id!.map((_, i) =>
      Object.fromEntries(Object.entries(columns).map(([fact, values]) => [fact, values[i] ?? null])),
    );
  };
  const frame = async (original: string) => (await frames()).find((one) => one.original === original)!;
  const picture = async (key: unknown, size: string): Promise<Buffer> => {
    const response = await fetch(`${arkiv.base}/api/previews/v4/${String(key)}/${size}`);
    expect(response.status).toBe(200);
    return Buffer.from(await response.arrayBuffer());
  };

  it('is at first what its kind shows as a rule, and whether it has a voice note', async () => {
    const jpeg = await frame('OCK_9975');
    expect([jpeg.detail, jpeg.voice]).toEqual(['full', null]);
    expect((await frames()).filter(({ voice }) => voice !== null)).toMatchObject([
      { original: 'OCK_9980', voice: 'voice note' },
    ]);
  });

  it('is a developed picture of a raw that holds no more than a thumbnail, in all its pixels', async () => {
    const { picture: key } = await frame(RAW_ONLY);
    expect((await sharp(await picture(key, 'screen')).metadata()).width).toBe(1600);
    const full = sharp(await picture(key, 'full'));
    expect(await full.metadata()).toMatchObject({ format: 'jpeg', width: 1600, height: 800 });
    const { data: white } = await full
      .extract({ left: 80, top: 400, width: 4, height: 4 })
      .raw()
      .toBuffer({ resolveWithObject: true });
    expect(white[0]).toBeGreaterThan(250);
    expect((await frame(RAW_ONLY)).detail).toBe('developed');
  });

  it('is the picture that the camera put into a raw, where that is as large as the sensor', async () => {
    const raw = await frame('OCK_9979');
    await picture(raw.picture, 'screen');
    expect([raw.raw, (await frame('OCK_9979')).detail]).toEqual(['only', 'embedded']);
  });

  it('is what its picture is measured as when its preview is made, and windows are told of it', async () => {
    await until(async () => (await frames()).every(({ measures }) => measures !== null));
    const measured = new Map(told.flatMap(({ measures }) => measures));
    for (const { id, measures } of await frames()) {
      expect(measuresIn(String(measures))!.sharp).toBeGreaterThan(0);
      expect(measured.get(String(id))).toBe(measures);
    }
    // Filters ask for what the text says.
    const rows: { measures: string; sharpness: number; advice: string }[] = await arkiv.app
      .get(Reading)
      .source.query('SELECT measures, sharpness, advice FROM frame');
    for (const { measures, ...facts } of rows) expect(facts).toEqual(measuredFacts(measures));
    expect(new Set(told.map((event) => event.shootId))).toEqual(new Set([shootId]));
  });

  it('is measured anew on request where it is not known, and only there', async () => {
    const { id, measures } = await frame('OCK_9975');
    expect(await arkiv.post(`/features/shoots/${shootId}`)).toEqual({ pictures: 0 });
    await arkiv.app
      .get(UnitOfWork)
      .write((manager) => manager.query('UPDATE frame SET measures = NULL WHERE id = ?', [id]));
    expect(await arkiv.post(`/features/shoots/${shootId}`)).toEqual({ pictures: 1 });
    await until(async () => (await frame('OCK_9975')).measures === measures);
  });

  it('is forgotten with another picture', async () => {
    const { id } = await frame('OCK_9980');
    const files: { id: string; raw: number }[] = await arkiv.app
      .get(Reading)
      .source.query('SELECT id, raw FROM asset WHERE "frameId" = ?', [id]);
    await arkiv.app
      .get(UnitOfWork)
      .write((manager) =>
        arkiv.app.get(FrameStore).setDisplay(manager, String(id), files.find(({ raw }) => raw)!.id),
      );
    expect(await frame('OCK_9980')).toMatchObject({ detail: 'embedded', measures: null });
  });

  it('is whether any drive that is here holds its picture', async () => {
    const away = () => arkiv.get<string[]>(`/shoots/${shootId}/away`);
    const drive = (name: string, state: string) => arkiv.ask('PUT', `/stand-ins/drives/${name}`, { state });
    expect(await away()).toEqual([]);
    await drive('backup', 'unplugged');
    expect(await away()).toEqual([]);
    await drive('working', 'unplugged');
    expect((await away()).sort()).toEqual((await frames()).map(({ id }) => id).sort());
    await drive('backup', 'well');
    expect(await away()).toEqual([]);
    await drive('working', 'well');
  });

  it('is no ground for the studio’s rules where it comes and goes', async () => {
    const rules = (keeper: object) =>
      arkiv.ask<{ message: string }>('PATCH', '/settings', {
        rules: { keeper, reject: { field: 'verdict', is: 'reject' } },
      });
    const refused = await rules({ not: { field: 'away', is: AWAY } });
    expect([refused.status, JSON.stringify(refused.body)]).toEqual([
      400,
      expect.stringContaining('kept with a frame'),
    ]);
  });
});

import { execFileSync } from 'node:child_process';
import { cpSync, existsSync, mkdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { ulid } from 'ulid';
import {
  cardOf,
  dataWithCard,
  filesBelow,
  outsideManifest,
  removeFolder,
  ROOT,
  sha256sumCheck,
  startArkiv,
  volumeOf,
  type TestArkiv,
} from './testArkiv';
import { IntakePlansService } from '../src/intake/intakePlans.service';

const FOLDER = '2026/2026-10-16_press-night';
/** Seconds that the second body's clock is behind, as the demo's season has it. */
const BEHIND = 207;

/** The second body's card at the tests' size; it bears the same file names as the first. */
function secondCard(): string {
  const card = path.join(ROOT, 'node_modules/.arkiv/test-cards/press-night-b-240');
  if (!existsSync(card)) {
    mkdirSync(path.dirname(card), { recursive: true });
    const make = path.join(ROOT, 'tools/demo/make-card.mjs');
    execFileSync(process.execPath, [make, '--out', card, '--card', 'press-night-b', '--side', '240']);
  }
  return card;
}

interface Shoot {
  id: string;
  frames: number;
  nextSeq: number;
  folders: string[];
  keepers: number;
}

/** Frames and files of the cards’ first minutes, which is what most of these need; the whole evening has 57 and 44. */
const FIRST = { frames: 14, files: 22, until: 'OCK_9981' };
const SECOND = { frames: 8, until: 'OCK_9979' };
const WHOLE = 'interleave';

describe('two cards of two bodies in one shoot', () => {
  let arkiv: TestArkiv;
  let data: string;
  let shootId: string;

  beforeEach(async () => {
    const whole = expect.getState().currentTestName!.includes(WHOLE);
    data = dataWithCard(whole ? {} : { until: FIRST.until });
    cpSync(secondCard(), path.join(data, 'stand-ins/cards/card-b'), {
      recursive: true,
      preserveTimestamps: true,
      filter: (file) =>
        whole || !file.endsWith('.JPG') || (file.includes('100OCKHM') && path.basename(file) < SECOND.until),
    });
    arkiv = await startArkiv(data);
    const first = await arkiv.takeIn();
    shootId = first.shootId;
    await arkiv.rest(first.jobId);
    await arkiv.post('/stand-ins/slots/slot-2/insert', { card: 'card-b' });
  });
  afterEach(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  const bodyOfSecond = async (): Promise<string> => {
    const { frames } = await arkiv.get<{
      frames: { facts: { make: string; model: string; serial: string } }[];
    }>('/readers/slot-2/card');
    const { make, model, serial } = frames[0]!.facts;
    return `${make} · ${model} · ${serial}`;
  };
  const addSecond = async (change: Record<string, unknown> = {}) => {
    const { fingerprint } = await arkiv.get<{ fingerprint: string }>('/readers/slot-2/card');
    const request = await arkiv.intakeRequest();
    return arkiv.ask<{ jobId: string; shootId: string; code?: string }>('POST', '/intakes', {
      ...request,
      readerId: 'slot-2',
      fingerprint,
      shootId,
      ...change,
    });
  };
  const shoot = async () => (await arkiv.get<Shoot[]>('/shoots'))[0]!;
  const columns = () => arkiv.columns(shootId);

  it('carry the numbers on, under the shoot’s own names, though the cards’ names are the same', async () => {
    const before = await shoot();
    const { status, body } = await addSecond({ title: 'Something else', pattern: '{original}' });
    expect(status).toBe(201);
    expect(body.shootId).toBe(shootId);
    expect((await arkiv.rest(body.jobId)).failures).toEqual([]);
    const after = await shoot();
    expect(after).toMatchObject({ id: shootId, frames: before.frames + SECOND.frames, folders: [FOLDER] });
    expect(after.nextSeq).toBe(before.nextSeq + SECOND.frames);
    expect(await arkiv.get<Shoot[]>('/shoots')).toHaveLength(1);
    const names = (await columns()).name!.map(String).sort();
    expect(names[0]).toBe('press-night_20261016_0001');
    expect(names.at(-1)).toBe('press-night_20261016_0022');
    expect(new Set(names).size).toBe(FIRST.frames + SECOND.frames);
  });

  it('lie whole on both drives, and each drive’s manifest holds both', async () => {
    const { body } = await addSecond();
    await arkiv.rest(body.jobId);
    const wanted = [cardOf(data), path.join(data, 'stand-ins/cards/card-b')].flatMap((card) => [
      ...outsideManifest(card).values(),
    ]);
    for (const name of ['working', 'backup'] as const) {
      const folder = path.join(volumeOf(data, name), FOLDER);
      const there = new Set(outsideManifest(folder).values());
      expect(wanted.filter((sum) => !there.has(sum))).toEqual([]);
      const checked = sha256sumCheck(folder, '.arkiv/manifest.sha256');
      expect(checked.trim().split('\n').length).toBeGreaterThanOrEqual(FIRST.files + SECOND.frames);
      expect(
        filesBelow(folder).filter((f) => f.includes('/receipts/') && f.endsWith('.sha256')),
      ).toHaveLength(2);
    }
  });

  it(`${WHOLE} rightly once the second body’s clock is put right; its own times stay`, async () => {
    const body = await bodyOfSecond();
    const { body: started } = await addSecond({ corrections: [{ body, millis: BEHIND * 1000 }] });
    await arkiv.rest(started.jobId);
    const { serial, instant, local, name } = await columns();
    const of = (wanted: string) =>
      serial!.flatMap((s, i) =>
        s === wanted ? [{ at: Number(instant![i]), local: String(local![i]), name: String(name![i]) }] : [],
      );
    const [first, second] = [of('OK5-004217'), of('OK3-001186')];
    // The evening's last burst of bows was taken by both bodies within the same few seconds.
    const nearest = Math.min(...second.map((b) => Math.min(...first.map((a) => Math.abs(a.at - b.at)))));
    expect(nearest).toBeLessThan(2000);
    expect(Math.max(...second.map((f) => f.at)) - Math.max(...first.map((f) => f.at))).toBeLessThan(40_000);
    // What the camera wrote is still 207 seconds behind the corrected instant (its offset is two hours).
    for (const f of second)
      expect(Math.round((f.at - Date.parse(`${f.local}+02:00`)) / 1000)).toBeCloseTo(BEHIND, -0.5);
    for (const f of first) expect(Math.abs(f.at - Date.parse(`${f.local}+02:00`))).toBeLessThan(1000);
    // No file was touched for it: the metadata tool still reads the camera's time.
    const one = second[0]!;
    const file = path.join(volumeOf(data, 'working'), FOLDER, 'originals', `${one.name}.jpg`);
    const written = execFileSync('exiftool', ['-s3', '-DateTimeOriginal', file], { encoding: 'utf8' }).trim();
    expect(written.replace(/^(\d+):(\d+):(\d+) /, '$1-$2-$3T')).toBe(one.local);
  });

  it('stay one shoot when the second card holds nothing new', async () => {
    const once = await addSecond();
    await arkiv.rest(once.body.jobId);
    const before = await shoot();
    const again = await addSecond();
    const { job } = await arkiv.rest(again.body.jobId);
    expect(job.state).toBe('done');
    expect(await shoot()).toMatchObject({ id: shootId, frames: before.frames });
  });

  it('are added one after the other: of two that were planned at once the later is told to plan anew', async () => {
    const plans = arkiv.app.get(IntakePlansService);
    const prepare = plans.prepare.bind(plans);
    let waiting = 0;
    let go: () => void = () => undefined;
    const both = new Promise<void>((resolve) => (go = resolve));
    const held = jest.spyOn(plans, 'prepare').mockImplementation(async (...asked) => {
      const prepared = await prepare(...asked);
      if (++waiting === 2) go();
      await both;
      return prepared;
    });
    const answers = await Promise.all([addSecond(), addSecond()]);
    held.mockRestore();
    const codes = answers.map((a) => (a.status === 201 ? 'started' : a.body.code)).sort();
    expect(codes).toEqual(['intake.overtaken', 'started']);
    await arkiv.rest(answers.find((a) => a.status === 201)!.body.jobId);
    // Planned anew, it starts: everything of it is here by now.
    const again = await addSecond();
    expect(again.status).toBe(201);
    expect((await arkiv.rest(again.body.jobId)).failures).toEqual([]);
    const names = (await columns()).name!.map(String);
    expect(new Set(names).size).toBe(names.length);
    const there = filesBelow(path.join(volumeOf(data, 'working'), FOLDER, 'originals'));
    expect(there.filter((f) => f.endsWith('.jpg'))).toHaveLength(FIRST.frames + SECOND.frames);
  });

  it('of equal names in folders of their own come together in the selects, each with its own sidecar', async () => {
    const { folders } = await arkiv.get<{ folders: Record<string, string> }>('/settings');
    const request = {
      ...(await arkiv.intakeRequest()),
      pattern: '{original}',
      folders: { ...folders, below: '{serial}' },
    };
    const { fingerprint } = await arkiv.get<{ fingerprint: string }>('/readers/slot-2/card');
    // The first body's card again, under another title, so that all its frames lie under their own names.
    const { jobId, shootId: other } = await arkiv.post<{ jobId: string; shootId: string }>('/intakes', {
      ...{ ...request, readerId: 'slot-2', fingerprint, title: 'Own names' },
    });
    await arkiv.rest(jobId);
    const merged = await arkiv.post<{ jobId: string }>('/moves', {
      ...{ kind: 'merge', shootId, into: other, rename: true },
    });
    expect((await arkiv.rest(merged.jobId)).failures).toEqual([]);
    const frames = await arkiv.columns(other);
    const twice = frames.name!.filter((name, i) => frames.name!.indexOf(name) !== i);
    expect(twice.length).toBeGreaterThan(0);
    const operations = frames.id!.map((subject) => ({
      ...{
        id: ulid(),
        subject,
        kind: 'verdict',
        from: 'undecided',
        to: 'keep',
        at: Date.now(),
        group: 'g',
        window: 'w',
      },
    }));
    await arkiv.post('/marks', { operations });
    const handed = await arkiv.post<{ jobId: string }>(`/shoots/${other}/handoffs`, {
      volumeId: await arkiv.volumeId('edit'),
    });
    expect((await arkiv.rest(handed.jobId)).failures).toEqual([]);
    const selects = filesBelow(volumeOf(data, 'edit')).filter((file) => file.includes('/selects/'));
    const bases = selects.filter((file) => file.endsWith('.xmp')).map((file) => file.toLowerCase());
    expect(new Set(bases).size).toBe(frames.id!.length);
    for (const name of twice) expect(selects.some((file) => file.endsWith(`/${name}_2.xmp`))).toBe(true);
  });

  it('are not taken for one another when it comes to clearing, though their files have the same names', async () => {
    const clearance = await arkiv.get<{ safe: boolean; proven: number; reasons: string[] }>(
      '/readers/slot-2/clearance',
    );
    expect(clearance).toMatchObject({ safe: false, proven: 0 });
    expect(clearance.reasons.every((reason) => reason.endsWith('was not taken in.'))).toBe(true);
  });

  it('leave out what was chosen to stay: the receipt says so, and the card is not safe to clear', async () => {
    const { frames } = await arkiv.get<{ frames: { key: string; files: { path: string }[] }[] }>(
      '/readers/slot-2/card',
    );
    const stay = frames.slice(0, 3);
    const { body } = await addSecond({ leaveOut: stay.map((frame) => frame.key) });
    await arkiv.rest(body.jobId);
    expect((await shoot()).frames).toBe(FIRST.frames + SECOND.frames - 3);
    const report = await arkiv.get<{ files: { from: string; fate: string }[]; receipts: string[] }>(
      `/intakes/${body.jobId}`,
    );
    const paths = stay.flatMap((frame) => frame.files.map((file) => file.path)).sort();
    const leftOut = report.files.filter((file) => file.fate === 'left-out').map((file) => file.from);
    expect(leftOut.sort()).toEqual(paths);
    const json = path.join(volumeOf(data, 'backup'), report.receipts[0]!.replace(/sha256$/, 'json'));
    const receipt = JSON.parse(readFileSync(json, 'utf8')) as { files: { from: string; fate: string }[] };
    expect(receipt.files.filter((file) => file.fate === 'left-out')).toHaveLength(paths.length);
    const clearance = await arkiv.get<{ safe: boolean; reasons: string[] }>('/readers/slot-2/clearance');
    expect(clearance.reasons).toEqual(paths.map((file) => `${file} was not taken in.`));
  });

  it('answer for a shoot that is not there, and for clocks that make no sense', async () => {
    expect(await addSecond({ shootId: '0'.repeat(26) })).toMatchObject({
      status: 404,
      body: { code: 'not-found' },
    });
    expect(await addSecond({ corrections: [{ body: 'x', millis: 1e15 }] })).toMatchObject({ status: 400 });
    expect(
      await addSecond({
        corrections: [
          { body: 'x', millis: 1 },
          { body: 'x', millis: 2 },
        ],
      }),
    ).toMatchObject({ status: 400 });
  });
});

import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { readSidecar } from '@arkiv/core';
import {
  cardOf,
  dataWithCard,
  filesBelow,
  isLeftOver,
  outsideManifest,
  removeFolder,
  sha256sumCheck,
  startArkiv,
  until,
  volumeOf,
  type TestArkiv,
} from './testArkiv';

const HOME = '2026/2026-10-16_press-night';

interface Plan {
  files: number;
  frames: number;
  ways: { from: string; to: string }[];
  problems: string[];
}

describe('arranging frames of a shoot', () => {
  let arkiv: TestArkiv;
  let data: string;
  let shootId: string;
  let ids: string[];
  let card: string[];

  beforeAll(async () => {
    data = dataWithCard({ until: 'OCK_9973' });
    arkiv = await startArkiv(data);
    card = [...outsideManifest(cardOf(data)).values()].sort();
    const started = await arkiv.takeIn();
    shootId = started.shootId;
    await arkiv.rest(started.jobId);
    ids = (await arkiv.frames(shootId)).id;
    await until(() => sidecars('backup').length === ids.length);
  });
  afterAll(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  const below = (drive: 'working' | 'backup') =>
    filesBelow(path.join(volumeOf(data, drive), HOME, 'originals')).filter((file) => !file.includes('_card'));
  const sidecars = (drive: 'working' | 'backup') => below(drive).filter((file) => file.endsWith('.xmp'));
  const asked = (more: object) => ({ kind: 'arrange', rename: false, shootId, ...more });
  const plan = (more: object) => arkiv.post<Plan>('/moves/plan', asked(more));
  const move = async (more: object) => {
    const { jobId } = await arkiv.post<{ jobId: string }>('/moves', asked(more));
    return { jobId, job: (await arkiv.rest(jobId)).job };
  };
  const nothingLost = () => {
    for (const drive of ['working', 'backup'] as const) {
      const all = outsideManifest(volumeOf(data, drive));
      const kept = [...all.values()];
      expect(card.filter((sum) => !kept.includes(sum))).toEqual([]);
      expect([...all.keys()].filter(isLeftOver)).toEqual([]);
      sha256sumCheck(path.join(volumeOf(data, drive), HOME), '.arkiv/manifest.sha256');
    }
  };

  it('names a selection by a pattern, with its files and sidecars on every drive, and takes it back', async () => {
    const before = below('working');
    const { name: called } = await arkiv.frames(shootId);
    const shoot = await arkiv.get<{ pattern: string; nextSeq: number }>(`/shoots/${shootId}`);
    const wish = {
      frameIds: [ids[3], ids[1]],
      pattern: 'curtain_{due:yyyyMMdd}_{number:3}',
      due: '2031-06-30',
    };
    const would = await plan(wish);
    expect([would.frames, would.problems]).toEqual([2, []]);
    expect(below('working')).toEqual(before);
    const { jobId, job } = await move(wish);
    expect(job).toMatchObject({ state: 'done', filesFailed: 0 });
    const { name } = await arkiv.frames(shootId);
    // In order of time, whatever the order in which they were chosen.
    expect([name[1], name[3]]).toEqual(['curtain_20310630_001', 'curtain_20310630_002']);
    for (const drive of ['working', 'backup'] as const) {
      const its = below(drive).filter((file) => file.includes('curtain_20310630_002'));
      expect(its.length).toBeGreaterThanOrEqual(2);
      expect(its.some((file) => file.endsWith('.xmp'))).toBe(true);
    }
    const text = readFileSync(
      path.join(volumeOf(data, 'backup'), HOME, 'originals/curtain_20310630_001.xmp'),
      'utf8',
    );
    expect(readSidecar(text)).toMatchObject({ ok: true, model: { frameId: ids[1] } });
    // One more of them goes on behind; what the shoot calls its own frames stays as it is.
    await move({ ...wish, frameIds: [ids[0]] });
    expect((await arkiv.frames(shootId)).name[0]).toBe('curtain_20310630_003');
    expect(await arkiv.get(`/shoots/${shootId}`)).toMatchObject(shoot);
    nothingLost();
    const undone = await arkiv.post<{ jobId: string }>(`/moves/${jobId}/undo`);
    expect((await arkiv.rest(undone.jobId)).job).toMatchObject({ state: 'done', filesFailed: 0 });
    const now = (await arkiv.frames(shootId)).name;
    expect([now[0], now[1], now[3]]).toEqual(['curtain_20310630_003', called[1], called[3]]);
    nothingLost();
  });

  it('names one frame by hand, never over another one', async () => {
    const { name } = await arkiv.frames(shootId);
    expect((await plan({ frameIds: [ids[0]], name: name[1] })).problems.length).toBeGreaterThan(0);
    const over = await arkiv.ask<{ code: string }>(
      'POST',
      '/moves',
      asked({ frameIds: [ids[0]], name: name[1] }),
    );
    expect(over).toMatchObject({ status: 422, body: { code: 'plan.problems' } });
    const two = await arkiv.ask<{ code: string }>(
      'POST',
      '/moves',
      asked({ frameIds: ids.slice(0, 2), name: 'a' }),
    );
    expect(two.body.code).toBe('move.nothing');
    expect((await move({ frameIds: [ids[0]], name: 'first-bow_0001' })).job.state).toBe('done');
    expect((await arkiv.frames(shootId)).name[0]).toBe('first-bow_0001');
    nothingLost();
  });

  it('moves frames into a folder below the originals, by which they are found, and back', async () => {
    const before = below('working');
    const { jobId, job } = await move({ frameIds: [ids[2], ids[4]], below: 'proofs/second round' });
    expect(job).toMatchObject({ state: 'done', filesFailed: 0 });
    for (const drive of ['working', 'backup'] as const) {
      const its = below(drive).filter((file) => file.startsWith('proofs/second round/'));
      expect(its.filter((file) => file.endsWith('.xmp'))).toHaveLength(2);
      expect(below(drive)).toHaveLength(before.length);
    }
    const { lies } = await arkiv.columns(shootId);
    expect(new Set(lies)).toEqual(new Set([`${HOME}/originals`, `${HOME}/originals/proofs/second round`]));
    const found = async (line: string) =>
      (
        await arkiv.post<{ page: { columns: { id?: string[] } } }>('/find', {
          line,
          rejects: true,
          oldestFirst: true,
        })
      ).page.columns.id ?? [];
    expect(await found('folder:"second round"')).toEqual([ids[2], ids[4]]);
    expect((await found(`folder="${HOME}/originals"`)).length).toBe(ids.length - 2);
    nothingLost();
    await arkiv.rest((await arkiv.post<{ jobId: string }>(`/moves/${jobId}/undo`)).jobId);
    expect(below('working')).toEqual(before);
    // Back without undoing: the folder is empty then.
    await move({ frameIds: [ids[2]], below: 'proofs' });
    await move({ frameIds: [ids[2]], below: '' });
    expect(below('working')).toEqual(before);
    const out = await arkiv.ask<{ code: string }>(
      'POST',
      '/moves',
      asked({ frameIds: [ids[2]], below: '../out' }),
    );
    expect(out.body.code).toBe('path.outside');
    nothingLost();
  });

  it('take along what other programs keep of them, beside them and in folders of their own, and back', async () => {
    const { name } = await arkiv.frames(shootId);
    const originals = (drive: 'working' | 'backup') => path.join(volumeOf(data, drive), HOME, 'originals');
    const put = (drive: 'working' | 'backup', at: string, text: string) => {
      mkdirSync(path.dirname(path.join(originals(drive), at)), { recursive: true });
      writeFileSync(path.join(originals(drive), at), text);
    };
    put('working', `${name[0]}.dng.pp`, 'one');
    put('working', `Settings/Session 1/${name[0]}.dng.cfg`, 'two');
    put('backup', `.cache/${name[0]}.thumb`, 'three');
    // Of others: a frame whose name only begins so, a catalogue, and what is on its way.
    put('working', `${name[0]}b.dng.pp`, 'other');
    put('working', 'Settings/catalogue.db', 'other');
    put('working', `.${name[0]}.dng.part`, 'other');
    const wish = { frameIds: [ids[0]], name: 'bow_0001', below: 'best' };
    const would = await arkiv.post<Plan & { along: string[] }>('/moves/plan', asked(wish));
    expect(would.along.map((at) => at.slice(HOME.length + 11))).toEqual([
      `.cache/${name[0]}.thumb`,
      `Settings/Session 1/${name[0]}.dng.cfg`,
      `${name[0]}.dng.pp`,
    ]);
    const { jobId, job } = await move(wish);
    expect(job).toMatchObject({ state: 'done', filesFailed: 0 });
    const text = (drive: 'working' | 'backup', at: string) =>
      readFileSync(path.join(originals(drive), at), 'utf8');
    expect([
      text('working', 'best/bow_0001.dng.pp'),
      text('working', 'best/Settings/Session 1/bow_0001.dng.cfg'),
      text('backup', 'best/.cache/bow_0001.thumb'),
    ]).toEqual(['one', 'two', 'three']);
    expect(text('working', `${name[0]}b.dng.pp`) + text('working', 'Settings/catalogue.db')).toBe(
      'otherother',
    );
    await arkiv.rest((await arkiv.post<{ jobId: string }>(`/moves/${jobId}/undo`)).jobId);
    expect(text('working', `Settings/Session 1/${name[0]}.dng.cfg`)).toBe('two');
    // What cannot follow is said before, and then nothing moves.
    put('working', 'Settings/Session 1/stern_0001.dng.cfg', 'in the way');
    const stopped = { frameIds: [ids[0]], name: 'stern_0001' };
    expect((await plan(stopped)).problems[0]).toContain(
      'Settings/Session 1/stern_0001.dng.cfg” is there already',
    );
    expect((await arkiv.ask('POST', '/moves', asked(stopped))).status).toBe(422);
    expect(text('working', `${name[0]}.dng.pp`)).toBe('one');
  });
});

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
    removeFolder(path.join(originals('working'), `.${name[0]}.dng.part`));
  });

  describe('copies of frames', () => {
    const copying = async (more: object) => {
      const { jobId } = await arkiv.post<{ jobId: string }>('/moves', asked({ copies: true, ...more }));
      return { jobId, job: (await arkiv.rest(jobId)).job };
    };
    const at = (drive: 'working' | 'backup', file: string) =>
      path.join(volumeOf(data, drive), HOME, 'originals', file);
    const star = async (id: string, to: number, from = 0) =>
      arkiv.post('/marks', {
        operations: [
          ...[
            {
              id: `01${String(to).repeat(24)}`,
              kind: 'stars',
              subject: id,
              from,
              to,
              at: Date.now(),
              window: 'w',
            },
          ],
        ].map((operation) => ({ ...operation, group: operation.id, pass: null })),
      });
    const bin = async () => (await arkiv.get<{ times: { frames: number }[] }>('/bin')).times;

    it('are frames of their own, proven on every drive, with what was said of the first', async () => {
      const before = { working: below('working'), backup: below('backup') };
      const { name } = await arkiv.frames(shootId);
      await star(ids[2]!, 4);
      const own = `${name[2]}.xmp`;
      const said = async (file: string) => {
        await until(() => /Rating[=>]"?4/.test(readFileSync(at('backup', file), 'utf8')));
        return readFileSync(at('working', file), 'utf8');
      };
      // Another program keeps its settings in the sidecar.
      const text = await said(own);
      const tuned = text.replace(
        '<rdf:Description',
        '<rdf:Description xmlns:tune="https://tune.invalid/" tune:warm="7"',
      );
      writeFileSync(at('working', own), tuned);
      const wish = { frameIds: [ids[1], ids[2]], below: 'album' };
      const would = await plan({ copies: true, ...wish });
      expect([would.frames, would.problems]).toEqual([2, []]);
      expect(below('working')).toEqual(before.working);
      const { jobId, job } = await copying(wish);
      expect(job).toMatchObject({
        kind: 'derive',
        state: 'done',
        filesDone: 2,
        filesFailed: 0,
        reason: null,
      });
      const now = await arkiv.columns(shootId);
      const copies = now.id!.filter((id) => !ids.includes(id as string)) as string[];
      expect(copies).toHaveLength(2);
      const place = (column: string) => copies.map((id) => now[column]![now.id!.indexOf(id)]);
      expect(place('stars')).toEqual([0, 4]);
      for (const [i, id] of copies.entries())
        expect(await arkiv.get(`/opening/frames/${id}`)).toMatchObject({
          copyOf: { id: ids[i + 1], shootId },
        });
      expect(place('picture')).toEqual([1, 2].map((i) => now.picture![now.id!.indexOf(ids[i]!)]));
      for (const drive of ['working', 'backup'] as const) {
        const sums = outsideManifest(path.join(volumeOf(data, drive), HOME, 'originals'));
        for (const file of below(drive).filter((one) => one.startsWith('album/') && !one.endsWith('.xmp')))
          expect(sums.get(file)).toBe(sums.get(file.slice('album/'.length)));
        expect(below(drive).filter((one) => one.startsWith('album/') && !one.endsWith('.xmp'))).toHaveLength(
          before[drive].filter((one) =>
            [1, 2].some((i) => one.startsWith(`${name[i]}.`) && !one.endsWith('.xmp')),
          ).length,
        );
      }
      await until(() => readFileSync(at('working', `album/${own}`), 'utf8').includes(copies[1]!));
      const copied = readFileSync(at('working', `album/${own}`), 'utf8');
      expect(copied).toContain('tune:warm="7"');
      expect(readSidecar(copied)).toMatchObject({
        ok: true,
        model: { frameId: copies[1], derivedFrom: ids[2], stars: 4 },
      });
      // Each has its own marks from then on.
      await star(copies[1]!, 1, 4);
      const later = await arkiv.columns(shootId);
      expect([ids[2]!, copies[1]!].map((id) => later.stars![later.id!.indexOf(id)])).toEqual([4, 1]);
      // They were asked for: they are no duplicates.
      expect(await arkiv.get('/duplicates')).toMatchObject({ groups: [] });
      nothingLost();
      // Taken back, they lie in the bin; the frames are what they were.
      const undone = await arkiv.post<{ jobId: string }>(`/bin/jobs/${jobId}/undo`);
      expect((await arkiv.rest(undone.jobId)).job).toMatchObject({ state: 'done', filesFailed: 0 });
      expect((await arkiv.frames(shootId)).id.sort()).toEqual([...ids].sort());
      expect((await bin())[0]!.frames).toBe(2);
      expect(below('backup')).toEqual(before.backup);
      nothingLost();
    });

    it('are made from the copy that is good, and are missing where a drive was away', async () => {
      const { name } = await arkiv.frames(shootId);
      const file = below('working').find((one) => one.startsWith(`${name[3]}.`) && !one.endsWith('.xmp'))!;
      const good = readFileSync(at('working', file));
      writeFileSync(
        at('working', file),
        Buffer.concat([good.subarray(0, -1), Buffer.from([good.at(-1)! ^ 1])]),
      );
      const { jobId, job } = await copying({ frameIds: [ids[3]], below: 'mended' });
      expect(job).toMatchObject({ state: 'done', filesFailed: 0, reason: null });
      for (const drive of ['working', 'backup'] as const)
        expect(readFileSync(at(drive, `mended/${file}`)).equals(good)).toBe(true);
      writeFileSync(at('working', file), good);
      await arkiv.rest((await arkiv.post<{ jobId: string }>(`/bin/jobs/${jobId}/undo`)).jobId);
      await arkiv.ask('PUT', '/stand-ins/drives/backup', { state: 'unplugged' });
      const alone = await copying({ frameIds: [ids[3]], below: 'alone' });
      expect(alone.job.state).toBe('done');
      expect(alone.job.reason).toMatch(/are missing on a drive that has the first ones/);
      await arkiv.ask('PUT', '/stand-ins/drives/backup', { state: 'well' });
      const { jobId: mending } = await arkiv.post<{ jobId: string }>('/copies/missing', { shootId });
      await arkiv.rest(mending);
      expect(readFileSync(at('backup', `alone/${file}`)).equals(good)).toBe(true);
      nothingLost();
    });
  });

  it('moves frames into another shoot, under names that are free there, and back', async () => {
    const { jobId: splitting, shootId: other } = await arkiv.post<{ jobId: string; shootId: string }>(
      '/moves',
      {
        ...{ kind: 'split', shootId, frameIds: [ids[5]], title: 'Late guests', rename: false },
      },
    );
    await arkiv.rest(splitting);
    const before = below('working');
    const { jobId, job } = await move({ frameIds: [ids[4]], into: other, below: 'arriving' });
    expect(job).toMatchObject({ state: 'done', filesFailed: 0 });
    expect((await arkiv.frames(other)).id.sort()).toEqual([ids[4], ids[5]].sort());
    const { lies } = await arkiv.columns(other);
    expect(lies!.filter((place) => String(place).endsWith('_late-guests/originals/arriving'))).toHaveLength(
      1,
    );
    await arkiv.rest((await arkiv.post<{ jobId: string }>(`/moves/${jobId}/undo`)).jobId);
    expect(below('working')).toEqual(before);
    expect((await arkiv.frames(other)).id).toEqual([ids[5]]);
  });
});

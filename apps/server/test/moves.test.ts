import { mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { readSidecar } from '@arkiv/core';
import { UnitOfWork } from '../src/db/unitOfWork';
import { DueTexts } from '../src/frames/dueTexts.service';
import { ShootsService } from '../src/shoots/shoots.service';
import { FaultyDisk } from './faultyDisk';
import {
  cardOf,
  filesBelow,
  isLeftOver,
  outsideManifest,
  removeFolder,
  takenIn,
  sha256sumCheck,
  volumeOf,
  type TestArkiv,
} from './testArkiv';

const FIRST = '2026/2026-10-16_press-night';
const SECOND = '2026/2026-10-16_curtain-call';

describe('moving frames between shoots', () => {
  let arkiv: TestArkiv;
  let data: string;
  let shootId: string;
  let card: string[];
  let disk: FaultyDisk;

  beforeEach(async () => {
    disk = new FaultyDisk();
    ({ arkiv, data, shootId } = await takenIn('OCK_9973', { disk }));
    card = [...outsideManifest(cardOf(data)).values()].sort();
    const { id } = await arkiv.frames(shootId);
    const mark = { kind: 'stars', from: null, to: 4, at: Date.now(), group: 'g', window: 'w' };
    await arkiv.post('/marks', {
      operations: [{ ...mark, id: '01J0000000000000000000000A', subject: id[3]!, from: 0 }],
    });
    await settled();
  });
  afterEach(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  const below = (name: 'working' | 'backup', folder: string) =>
    filesBelow(path.join(volumeOf(data, name), folder));
  const sidecars = (folder: string) => below('backup', folder).filter((f) => f.endsWith('.xmp'));
  /** Sidecars are written a moment after the frames are there. */
  const settled = async () => {
    for (let i = 0; i < 100 && sidecars(FIRST).length < 6; i++) await new Promise((r) => setTimeout(r, 50));
    await new Promise((r) => setTimeout(r, 600));
  };
  const move = async (asked: Record<string, unknown>) => {
    const started = await arkiv.post<{ jobId: string; shootId: string }>('/moves', {
      rename: false,
      shootId,
      ...asked,
    });
    return { ...started, report: await arkiv.rest(started.jobId) };
  };
  /** Everything that came on the card lies on both drives, whole, under final names, and both say so. */
  const nothingLost = (...folders: string[]) => {
    for (const name of ['working', 'backup'] as const) {
      const all = outsideManifest(volumeOf(data, name));
      const kept = [...all.values()];
      expect(card.filter((sum) => !kept.includes(sum))).toEqual([]);
      expect([...all.keys()].filter(isLeftOver)).toEqual([]);
      for (const folder of folders)
        sha256sumCheck(path.join(volumeOf(data, name), folder), '.arkiv/manifest.sha256');
    }
  };

  it('splits a shoot: originals and sidecars go to the new folder on every drive', async () => {
    const { id } = await arkiv.frames(shootId);
    const { report, shootId: made } = await move({
      kind: 'split',
      frameIds: id.slice(3),
      title: 'Curtain call',
    });
    expect(report.job).toMatchObject({ state: 'done', filesFailed: 0, filesTotal: 3 });
    expect((await arkiv.frames(shootId)).count).toBe(3);
    const there = await arkiv.frames(made);
    expect(there.id).toEqual(id.slice(3));
    expect(there.stars).toEqual([4, 0, 0]);
    expect(sidecars(FIRST)).toHaveLength(3);
    expect(sidecars(SECOND)).toHaveLength(3);
    const text = readFileSync(path.join(volumeOf(data, 'backup'), SECOND, sidecars(SECOND)[0]!), 'utf8');
    expect(readSidecar(text)).toMatchObject({ ok: true, model: { stars: 4, frameId: id[3] } });
    nothingLost(FIRST, SECOND);
  });

  it('gives each shoot a folder of its own where the plan would give two the same one, and the drives tell of both', async () => {
    const plan = `UPDATE shoot SET plan = json_set(plan, '$.path', '{capture:yyyy}/{capture:yyyy-MM-dd}')`;
    await arkiv.app.get(UnitOfWork).write((manager) => manager.query(plan));
    const { id } = await arkiv.frames(shootId);
    const first = await move({ kind: 'split', frameIds: [id[0]], title: 'Doors', rename: true });
    const second = await move({ kind: 'split', frameIds: [id[1]], title: 'Foyer', rename: true });
    const folders = async (of: string) => (await arkiv.get<{ folders: string[] }>(`/shoots/${of}`)).folders;
    expect(await folders(first.shootId)).toEqual(['2026/2026-10-16']);
    expect(await folders(second.shootId)).toEqual(['2026/2026-10-16_2']);
    await arkiv.app.get(DueTexts).flush();
    for (const { shootId: of } of [first, second]) {
      const [home] = await folders(of);
      const there = path.join(volumeOf(data, 'backup'), home!);
      expect(JSON.parse(readFileSync(path.join(there, '.arkiv/shoot.json'), 'utf8')).id).toBe(of);
      sha256sumCheck(there, '.arkiv/manifest.sha256');
    }
    // A shoot of the same name and folder would be that shoot.
    const again = { kind: 'split', shootId, frameIds: [id[2]], title: 'doors', rename: true };
    const { problems } = await arkiv.post<{ problems: string[] }>('/moves/plan', again);
    expect(problems[0]).toMatch(/is the folder of the shoot “Doors” already/);
    // What goes into a shoot goes into its folder, whatever the plan says of theirs.
    await move({ kind: 'merge', shootId: first.shootId, into: second.shootId, rename: true });
    expect(await folders(second.shootId)).toEqual(['2026/2026-10-16_2']);
  });

  it('tells of two shoots on the drives also where both are in one folder, as two archives may make the same', async () => {
    const plan = `UPDATE shoot SET plan = json_set(plan, '$.path', '{capture:yyyy}/{capture:yyyy-MM-dd}')`;
    await arkiv.app.get(UnitOfWork).write((manager) => manager.query(plan));
    jest.spyOn(arkiv.app.get(ShootsService), 'folderOwner').mockResolvedValue(() => null);
    const { id } = await arkiv.frames(shootId);
    const folder = '2026/2026-10-16';
    const shoots: string[] = [];
    for (const [i, title] of ['Doors', 'Foyer'].entries()) {
      const { shootId: made } = await move({ kind: 'split', frameIds: [id[i]], title, rename: true });
      await arkiv.app.get(DueTexts).flush();
      shoots.push(made);
    }
    // Something is decided in each, in turn.
    for (const i of [0, 1, 0]) {
      await arkiv.mark('note', null, `note ${i}`, id[i]!);
      await arkiv.app.get(DueTexts).flush();
    }
    const root = volumeOf(data, 'backup');
    const homes = [folder, `.arkiv-archive/adopted/${shoots[1]}`];
    for (const [i, home] of homes.entries()) {
      const text = (name: string) => readFileSync(path.join(root, home, '.arkiv', name), 'utf8');
      expect(JSON.parse(text('shoot.json'))).toMatchObject({ id: shoots[i], folders: [folder] });
      expect(text('record/frames-0.jsonl')).toContain(id[i]);
      expect(text('record/frames-0.jsonl')).not.toContain(id[1 - i]);
      expect(text('history.jsonl')).toContain(`note ${i}`);
      sha256sumCheck(path.join(root, home), '.arkiv/manifest.sha256');
    }
    // The first goes into the other, which has the folder for itself by then.
    await move({ kind: 'merge', shootId: shoots[0], into: shoots[1], rename: false });
    await arkiv.app.get(DueTexts).flush();
    const record = readFileSync(path.join(root, folder, '.arkiv/record/frames-0.jsonl'), 'utf8');
    expect([0, 1].every((i) => record.includes(id[i]!))).toBe(true);
    expect(filesBelow(path.join(root, '.arkiv-archive/adopted'))).toEqual([]);
  });

  it('undoes a split: the shoot is as it was, and the new one is not listed any more', async () => {
    const before = below('working', FIRST).filter((f) => !f.includes('.arkiv'));
    const { id } = await arkiv.frames(shootId);
    const { jobId, shootId: made } = await move({
      kind: 'split',
      frameIds: id.slice(3),
      title: 'Curtain call',
      rename: true,
    });
    const undone = await arkiv.post<{ jobId: string }>(`/moves/${jobId}/undo`);
    expect((await arkiv.rest(undone.jobId)).job).toMatchObject({ state: 'done', filesFailed: 0 });
    expect(below('working', FIRST).filter((f) => !f.includes('.arkiv'))).toEqual(before);
    const shoots = await arkiv.get<{ id: string }[]>('/shoots');
    expect(shoots.map((s) => s.id)).toEqual([shootId]);
    expect(shoots.map((s) => s.id)).not.toContain(made);
    nothingLost(FIRST);
  });

  it('splits a shoot into three by one job, which is undone as one', async () => {
    const THIRD = '2026/2026-10-16_after-party';
    const before = await arkiv.columns(shootId);
    const { id } = await arkiv.frames(shootId);
    const asked = {
      ...{ kind: 'split', frameIds: id.slice(2, 4), title: 'Curtain call', rename: true },
      more: [{ frameIds: id.slice(4), title: 'After party', date: '2026-10-17' }],
    };
    const plan = await arkiv.post<{ frames: number; folders: string[]; problems: string[] }>('/moves/plan', {
      ...{ shootId, ...asked },
    });
    expect(plan).toMatchObject({ frames: id.length - 2, problems: [] });
    expect(plan.folders).toEqual(expect.arrayContaining([SECOND, THIRD]));
    const { jobId, report } = await move(asked);
    expect(report).toMatchObject({ job: { state: 'done' }, failures: [] });
    expect((await arkiv.get<unknown[]>('/jobs')).length).toBe(2);
    const shoots = await arkiv.get<{ id: string; title: string; frames: number; date: string }[]>('/shoots');
    const framesOf = Object.fromEntries(shoots.map(({ title, frames }) => [title, frames]));
    expect(framesOf).toEqual({ 'Press night': 2, 'Curtain call': 2, 'After party': id.length - 4 });
    expect(shoots.find(({ title }) => title === 'After party')!.date).toBe('2026-10-17');
    nothingLost(FIRST, SECOND, THIRD);
    const undone = await arkiv.post<{ jobId: string }>(`/moves/${jobId}/undo`);
    expect(await arkiv.rest(undone.jobId)).toMatchObject({ job: { state: 'done' }, failures: [] });
    expect((await arkiv.get<{ title: string }[]>('/shoots')).map(({ title }) => title)).toEqual([
      'Press night',
    ]);
    expect((await arkiv.columns(shootId)).name).toEqual(before.name);
    const still = [...below('backup', SECOND), ...below('working', THIRD)];
    expect(still.filter((file) => !file.includes('.arkiv'))).toEqual([]);
    nothingLost(FIRST);
  });

  it('takes no frame into two shoots at once, and leaves none behind without any', async () => {
    const { id } = await arkiv.frames(shootId);
    const split = (frameIds: string[], more: string[]) =>
      arkiv.ask<{ code: string; message: string }>('POST', '/moves', {
        ...{ kind: 'split', shootId, rename: true, title: 'Curtain call', frameIds },
        more: [{ title: 'After party', frameIds: more }],
      });
    const twice = await split(id.slice(0, 2), id.slice(1, 3));
    expect(twice).toMatchObject({ status: 409, body: { code: 'move.nothing' } });
    expect(twice.body.message).toContain('two shoots');
    const all = await split(id.slice(0, 2), id.slice(2));
    expect(all).toMatchObject({ status: 409, body: { code: 'move.nothing' } });
    const none = await split(id.slice(0, 2), []);
    expect(none.body.message).toContain('no frames');
  });

  it('sets rejects aside on every drive, by the studio’s rules, and brings them back', async () => {
    const before = below('working', FIRST).filter((f) => !f.includes('.arkiv'));
    const { id, name } = await arkiv.frames(shootId);
    const mark = (n: number, i: number, to: string) => ({
      ...{ id: `01J000000000000000000000B${n}`, subject: id[i]!, kind: 'verdict', from: 'undecided', to },
      ...{ at: Date.now(), group: 'g', window: 'w' },
    });
    await arkiv.post('/marks', {
      operations: [mark(1, 0, 'reject'), mark(2, 1, 'reject'), mark(3, 2, 'keep')],
    });
    const aside = { kind: 'aside', shootId, rename: false };
    const plan = await arkiv.post<{ frames: number; bytes: number; volumes: string[]; handedOff: number }>(
      '/moves/plan',
      aside,
    );
    expect(plan).toMatchObject({ frames: 2, volumes: ['Backup drive', 'Working drive'], handedOff: 0 });
    expect(plan.bytes).toBeGreaterThan(1000);
    expect((await arkiv.post<{ frames: number }>('/moves/plan', { ...aside, undecided: true })).frames).toBe(
      5,
    );
    const { jobId, report } = await move({ kind: 'aside' });
    expect(report.job).toMatchObject({ state: 'done', filesFailed: 0, filesTotal: 2 });
    for (const drive of ['working', 'backup'] as const) {
      const there = below(drive, `${FIRST}/rejects`);
      expect(there).toEqual(expect.arrayContaining([`${name[0]}.jpg`, `${name[0]}.xmp`, `${name[1]}.jpg`]));
      expect(below(drive, `${FIRST}/originals`).some((file) => file.startsWith(name[0]!))).toBe(false);
    }
    // They are in the archive as before: the same frames, with marks and both copies, and the manifest knows their place.
    const now = await arkiv.frames(shootId);
    expect([now.count, now.verdict.slice(0, 3)]).toEqual([6, ['reject', 'reject', 'keep']]);
    nothingLost(FIRST);
    expect(await arkiv.ask('POST', '/moves', aside)).toMatchObject({
      status: 409,
      body: { code: 'move.nothing' },
    });
    // One alone, as a client asks for it; then all that are left, by undoing.
    const one = await move({ kind: 'back', frameIds: [id[0]] });
    expect(one.report.job).toMatchObject({ state: 'done', filesTotal: 1 });
    expect(below('backup', `${FIRST}/rejects`).some((file) => file.startsWith(name[0]!))).toBe(false);
    const undone = await arkiv.post<{ jobId: string }>(`/moves/${jobId}/undo`);
    expect((await arkiv.rest(undone.jobId)).job).toMatchObject({ state: 'done', filesTotal: 1 });
    expect(below('working', FIRST).filter((f) => !f.includes('.arkiv'))).toEqual(before);
    nothingLost(FIRST);
  });

  it('merges two shoots with all that belongs to no frame, and can part them again', async () => {
    const { id, name } = await arkiv.frames(shootId);
    const split = await move({ kind: 'split', frameIds: id.slice(3), title: 'Curtain call', rename: true });
    const { report, jobId } = await move({ kind: 'merge', into: split.shootId });
    expect(report.job).toMatchObject({ state: 'done', filesFailed: 0 });
    expect((await arkiv.get<{ id: string }[]>('/shoots')).map((s) => s.id)).toEqual([split.shootId]);
    const merged = await arkiv.frames(split.shootId);
    expect([...merged.id].sort()).toEqual([...id].sort());
    // Names that are not taken stay.
    expect(merged.name).toEqual(expect.arrayContaining(name.slice(0, 3)));
    expect(below('backup', FIRST).filter((f) => !f.includes('.arkiv'))).toEqual([]);
    nothingLost(SECOND);
    const undone = await arkiv.post<{ jobId: string }>(`/moves/${jobId}/undo`);
    expect((await arkiv.rest(undone.jobId)).job).toMatchObject({ state: 'done', filesFailed: 0 });
    expect((await arkiv.frames(shootId)).name).toEqual(name.slice(0, 3));
    nothingLost(FIRST, SECOND);
  });

  it('renames all frames by a pattern even when each takes its neighbour’s name', async () => {
    const { name } = await arkiv.frames(shootId);
    const { report } = await move({
      kind: 'rename',
      pattern: '{shoot}_{capture:yyyyMMdd}_{seq:4}',
      seqStart: 2,
    });
    expect(report.job).toMatchObject({ state: 'done', filesFailed: 0 });
    const renamed = (await arkiv.frames(shootId)).name;
    expect(renamed.slice(0, 5)).toEqual(name.slice(1));
    expect(sidecars(FIRST).map((f) => path.basename(f, '.xmp'))).toEqual(renamed);
    nothingLost(FIRST);
  });

  it('renames frames where they lie: in sub-folders, set aside, and where the title was corrected since', async () => {
    const { id } = await arkiv.frames(shootId);
    const run = async (asked: object) => {
      const { jobId } = await arkiv.post<{ jobId: string }>('/moves', { shootId, rename: false, ...asked });
      expect((await arkiv.rest(jobId)).job).toMatchObject({ state: 'done', filesFailed: 0 });
    };
    await arkiv.mark('verdict', 'undecided', 'reject', id[1]!);
    await run({ kind: 'aside', frameIds: [id[1]] });
    await run({ kind: 'arrange', frameIds: [id[0]], below: 'first dance' });
    expect((await arkiv.ask('PATCH', `/shoots/${shootId}`, { title: 'Première' })).status).toBe(204);
    const lies = async () => (await arkiv.columns(shootId)).lies!.map(String);
    const before = await lies();
    expect(new Set(before).size).toBeGreaterThan(2);
    await run({ kind: 'rename', pattern: '{shoot}_{number:4}', rename: true });
    expect(await lies()).toEqual(before);
    expect((await arkiv.frames(shootId)).name[0]).toBe('première_0001');
    expect((await arkiv.get<{ folders: string[] }>(`/shoots/${shootId}`)).folders).toHaveLength(1);
  });

  it('undoes a renaming, and how the next names are made with it; the undoing can be undone', async () => {
    const naming = async () => {
      const { pattern, nextSeq } = await arkiv.get<{ pattern: string; nextSeq: number }>(
        `/shoots/${shootId}`,
      );
      return { pattern, nextSeq };
    };
    const before = { naming: await naming(), names: (await arkiv.frames(shootId)).name };
    const { jobId } = await move({ kind: 'rename', pattern: 'x_{seq:2}', seqStart: 5 });
    const after = { naming: await naming(), names: (await arkiv.frames(shootId)).name };
    expect(after.naming).toEqual({ pattern: 'x_{seq:2}', nextSeq: 11 });
    const undone = await arkiv.post<{ jobId: string }>(`/moves/${jobId}/undo`);
    await arkiv.rest(undone.jobId);
    expect({ naming: await naming(), names: (await arkiv.frames(shootId)).name }).toEqual(before);
    const again = await arkiv.post<{ jobId: string }>(`/moves/${undone.jobId}/undo`);
    await arkiv.rest(again.jobId);
    expect({ naming: await naming(), names: (await arkiv.frames(shootId)).name }).toEqual(after);
    nothingLost(FIRST);
  });

  it('leaves the pattern of a later renaming alone when an earlier one is undone in part', async () => {
    const first = await move({ kind: 'rename', pattern: 'x_{seq:2}' });
    const { id } = await arkiv.frames(shootId);
    await move({ kind: 'split', frameIds: id.slice(3), title: 'Curtain call', rename: true });
    const undone = await arkiv.post<{ jobId: string }>(`/moves/${first.jobId}/undo`);
    await arkiv.rest(undone.jobId);
    expect(await arkiv.get(`/shoots/${shootId}`)).toMatchObject({ pattern: 'x_{seq:2}', nextSeq: 7 });
    nothingLost(FIRST, SECOND);
  });

  it('shows every file’s way before anything is touched', async () => {
    const plan = await arkiv.ask<{
      frames: number;
      ways: { from: string; to: string }[];
      problems: string[];
    }>('POST', '/moves/plan', {
      kind: 'rename',
      shootId,
      pattern: '{original}',
      rename: true,
    });
    expect(plan.body).toMatchObject({ frames: 6, problems: [] });
    expect(plan.body.ways[0]).toEqual({
      from: `${FIRST}/originals/press-night_20261016_0001.dng`,
      to: `${FIRST}/originals/OCK_9968.dng`,
    });
  });

  it('never writes over a file that stands in the way', async () => {
    const stranger = path.join(volumeOf(data, 'backup'), FIRST, 'originals/ock_9970.JPG');
    writeFileSync(stranger, 'somebody else’s');
    const asked = { kind: 'rename', shootId, pattern: 'ock_{seq:4}', seqStart: 9968, rename: true };
    expect(await arkiv.ask('POST', '/moves', asked)).toMatchObject({
      status: 422,
      body: { code: 'plan.problems' },
    });
    // A name that comes from the card gives way instead.
    const plan = await arkiv.ask<{ problems: unknown[]; ways: { to: string }[] }>('POST', '/moves/plan', {
      ...asked,
      pattern: '{original}',
    });
    expect(plan.body.problems).toEqual([]);
    expect(readFileSync(stranger, 'utf8')).toBe('somebody else’s');
    nothingLost(FIRST);
  });

  it('leaves a frame where it is when somebody’s file comes to its new name in the last moment', async () => {
    const stranger = path.join(volumeOf(data, 'backup'), FIRST, 'originals/x_03.jpg');
    let came = false;
    disk.onLink = (to) => {
      // The plan has been checked by then: the first file of it moves.
      if (to.includes('/x_') && !came) writeFileSync(stranger, 'somebody else’s');
      came ||= to.includes('/x_');
    };
    const { report } = await move({ kind: 'rename', pattern: 'x_{seq:2}' });
    expect(report.job).toMatchObject({ state: 'done', filesFailed: 1, filesDone: 5 });
    expect(report.failures[0]!.reason).toMatch(/x_03\.jpg exists already with other content/);
    expect(readFileSync(stranger, 'utf8')).toBe('somebody else’s');
    nothingLost(FIRST);
  });

  it('unlinks nothing for a name that another file took between looking and moving', async () => {
    const stranger = path.join(volumeOf(data, 'backup'), FIRST, 'originals/x_01.jpg');
    disk.onLink = (to) => {
      // It comes while this very frame is on its way, after all its places were looked at.
      if (to.endsWith('working/2026/2026-10-16_press-night/originals/x_01.jpg'))
        writeFileSync(stranger, 'somebody else’s');
    };
    const { report } = await move({ kind: 'rename', pattern: 'x_{seq:2}' });
    expect(report.job).toMatchObject({ state: 'done', filesFailed: 1 });
    expect(readFileSync(stranger, 'utf8')).toBe('somebody else’s');
    nothingLost(FIRST);
  });

  it('waits for a drive that holds copies', async () => {
    // An unmounted mount point is an empty folder.
    renameSync(volumeOf(data, 'backup'), `${volumeOf(data, 'backup')}-away`);
    mkdirSync(volumeOf(data, 'backup'));
    expect(
      await arkiv.ask('POST', '/moves', { kind: 'rename', shootId, pattern: '{original}', rename: true }),
    ).toMatchObject({ status: 409, body: { code: 'move.away' } });
  });
});

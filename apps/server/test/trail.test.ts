import { copyFileSync, unlinkSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { filesBelow, removeFolder, takenIn, volumeOf, type TestArkiv } from './testArkiv';

interface Line {
  seq: number;
  kind: string;
  shoot: string;
  frameId: string | null;
  drive: string | null;
  from: string | null;
  to: string | null;
  reason: string | null;
}

const HOME = '2026/2026-10-16_press-night/originals';

describe('The paper trail', () => {
  let arkiv: TestArkiv;
  let data: string;
  let shootId: string;

  beforeAll(async () => {
    ({ arkiv, data, shootId } = await takenIn('OCK_9973'));
  });
  afterAll(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  const trail = async (asked: Record<string, string> = {}) =>
    arkiv.get<{ lines: Line[]; more: boolean }>(`/trail?${new URLSearchParams(asked)}`);
  const done = async (where: string, asked: object) => {
    const { jobId } = await arkiv.post<{ jobId: string }>(where, asked);
    expect((await arkiv.rest(jobId)).failures).toEqual([]);
  };

  it('says of each frame where it went, what was binned, brought back and deleted, the newest first', async () => {
    const { id, name } = await arkiv.frames(shootId);
    await done('/moves', {
      ...{ kind: 'rename', rename: true, shootId, frameIds: [id[0]] },
      pattern: 'first_{number:2}',
    });
    await done('/bin', { deed: 'bin', shootId, frameIds: [id[1], id[2]] });
    const { times } = await arkiv.get<{ times: { id: string }[] }>('/bin');
    await done('/bin/back', { binId: times[0]!.id, frameIds: [id[1]] });
    await done('/bin/empty', { binIds: [times[0]!.id], typed: 1 });
    const { lines } = await trail({ shoot: shootId });
    const said = lines.map(({ kind, frameId, from, to }) => [kind, id.indexOf(frameId!), from, to]);
    expect(said.slice(0, 4)).toEqual([
      ['deleted', 2, `${HOME}/first_03`, null],
      ['brought-back', 1, null, `${HOME}/first_02`],
      ['binned', 2, `${HOME}/first_03`, null],
      ['binned', 1, `${HOME}/first_02`, null],
    ]);
    expect(said.slice(4)).toHaveLength(id.length);
    expect(said).toContainEqual(['renamed', 0, `${HOME}/${name[0]}`, `${HOME}/first_01`]);
  });

  it('names the drive whose copy was damaged, and was put right', async () => {
    const backup = path.join(volumeOf(data, 'backup'), HOME);
    const [first, second] = filesBelow(backup).filter((file) => file.endsWith('.jpg'));
    const whole = path.join(data, 'whole.jpg');
    copyFileSync(path.join(backup, first!), whole);
    unlinkSync(path.join(backup, first!));
    writeFileSync(path.join(backup, second!), 'something else');
    const { jobId } = await arkiv.post<{ jobId: string }>('/copies/verifications', { shootId });
    expect((await arkiv.rest(jobId)).job.filesFailed).toBe(2);
    await done('/copies/missing', { shootId });
    const { lines } = await trail({ shoot: shootId, find: 'backup' });
    expect(lines.map(({ kind, drive, from, reason }) => [kind, drive, from, reason?.split(':')[0]])).toEqual(
      expect.arrayContaining([
        ['missing', 'Backup drive', `${HOME}/${first}`, 'is missing.'],
        ['damaged', 'Backup drive', `${HOME}/${second}`, 'has changed'],
        ['repaired', 'Backup drive', `${HOME}/${first}`, undefined],
        ['repaired', 'Backup drive', `${HOME}/${second}`, undefined],
      ]),
    );
  });

  it('is searched by frame, day and words, a page at a time', async () => {
    const { lines } = await trail();
    const binned = lines.find(({ kind }) => kind === 'binned')!;
    const ofFrame = await trail({ frame: binned.frameId! });
    expect(ofFrame.lines.length).toBeGreaterThan(0);
    expect(ofFrame.lines.every(({ frameId }) => frameId === binned.frameId)).toBe(true);
    const found = (await trail({ find: 'first_01' })).lines;
    expect(found.map(({ kind }) => kind)).toContain('renamed');
    expect(found.every(({ from, to }) => `${from} ${to}`.includes('first_01'))).toBe(true);
    expect((await trail({ find: 'first_01 nobody' })).lines).toEqual([]);
    const before = await trail({ before: String(lines[1]!.seq) });
    expect(before.lines).toEqual(lines.slice(2));
    expect((await trail({ day: '2001-01-01' })).lines).toEqual([]);
    const now = new Date();
    const today = [now.getFullYear(), now.getMonth() + 1, now.getDate()].map((n) =>
      String(n).padStart(2, '0'),
    );
    expect((await trail({ day: today.join('-') })).lines).toEqual(lines);
    const { status } = await arkiv.ask('GET', '/trail?day=yesterday');
    expect(status).toBe(400);
  });
});

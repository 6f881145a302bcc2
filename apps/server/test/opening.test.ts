import { chmodSync, existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { dataWithCard, removeFolder, startArkiv, until, type TestArkiv } from './testArkiv';

interface Lying {
  here: boolean;
  files: {
    assetId: string;
    volumeId: string;
    volume: string;
    name: string;
    path: string;
    whole: string | null;
  }[];
}

describe('files on this computer', () => {
  let arkiv: TestArkiv;
  let data: string;
  let shootId: string;
  let ids: string[];

  beforeAll(async () => {
    data = dataWithCard({ until: 'OCK_9972' });
    arkiv = await startArkiv(data);
    const { jobId, shootId: taken } = await arkiv.takeIn();
    shootId = taken;
    await arkiv.rest(jobId);
    ids = (await arkiv.frames(shootId)).id;
  });
  afterAll(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  const from = (headers: Record<string, string>, method: string, where: string, body?: object) =>
    fetch(`${arkiv.base}/api${where}`, {
      method,
      headers: { 'x-arkiv': '1', 'content-type': 'application/json', ...headers },
      ...(body ? { body: JSON.stringify(body) } : {}),
    });

  it('are told in whole to who sits at it, on every drive', async () => {
    const { here, files } = await arkiv.get<Lying>(`/opening/frames/${ids[0]}`);
    expect(here).toBe(true);
    expect(new Set(files.map(({ volume }) => volume)).size).toBe(2);
    for (const { whole, path: below } of files) {
      expect(existsSync(whole!)).toBe(true);
      expect(whole!.endsWith(below)).toBe(true);
    }
    const elsewhere = await from({ 'x-forwarded-for': '10.0.0.9' }, 'GET', `/opening/frames/${ids[0]}`);
    const told = (await elsewhere.json()) as Lying;
    expect([told.here, told.files.length, told.files.some(({ whole }) => whole !== null)]).toEqual([
      ...[false, files.length, false],
    ]);
    expect((await arkiv.ask('GET', '/opening/frames/01NOWHERE00000000000000000')).status).toBe(404);
  });

  it('are handed to a program of the owner’s list, each name as it is, and to no other', async () => {
    const folder = path.join(data, 'it’s a “tool”; folder');
    mkdirSync(folder);
    const [tool, out] = [path.join(folder, 'tool.mjs'), path.join(folder, 'out.json')];
    writeFileSync(
      tool,
      `import { writeFileSync, renameSync } from 'node:fs';
       writeFileSync(${JSON.stringify(`${out}.part`)}, JSON.stringify(process.argv.slice(2)));
       renameSync(${JSON.stringify(`${out}.part`)}, ${JSON.stringify(out)});`,
    );
    chmodSync(tool, 0o755);
    const program = {
      name: 'Tool',
      command: process.execPath,
      args: [tool, '--new', '{files}'],
      takes: 'raw',
    };
    expect((await arkiv.ask('PUT', '/opening/programs', { programs: [program] })).status).toBe(204);
    const opened = await arkiv.post<{ files: number }>('/opening/frames', {
      ...{ frameIds: ids.slice(0, 2), program: 'Tool' },
    });
    expect(opened.files).toBe(2);
    await until(() => existsSync(out));
    const given = JSON.parse(readFileSync(out, 'utf8')) as string[];
    expect(given[0]).toBe('--new');
    expect(given.slice(1).every((file) => existsSync(file) && /\.dng$/i.test(file))).toBe(true);
    expect((await arkiv.ask('POST', '/opening/frames', { frameIds: ids, program: 'Other' })).status).toBe(
      404,
    );
    // The copies that lie with editing, where they are meant: never the originals.
    const volumeId = await arkiv.volumeId('edit');
    const none = { frameIds: ids.slice(0, 2), volumeId, program: 'Tool' };
    expect((await arkiv.ask('POST', '/opening/copies', none)).status).toBe(409);
    const keep = {
      ...{ id: '01J000000000000000000000C1', subject: ids[0], kind: 'verdict', from: 'undecided' },
    };
    await arkiv.post('/marks', {
      operations: [{ ...keep, to: 'keep', at: Date.now(), group: 'g', window: 'w' }],
    });
    const { jobId } = await arkiv.post<{ jobId: string }>(`/shoots/${shootId}/handoffs`, { volumeId });
    await arkiv.rest(jobId);
    rmSync(out);
    expect(await arkiv.post('/opening/copies', none)).toEqual({ files: 1 });
    await until(() => existsSync(out));
    const [, copy] = JSON.parse(readFileSync(out, 'utf8')) as string[];
    expect(copy).toMatch(/volumes\/edit\/.*\/selects\/.*\.dng$/i);
    expect(existsSync(copy!)).toBe(true);
    const broken = { ...program, name: 'Broken', command: path.join(folder, 'nothing') };
    await arkiv.ask('PUT', '/opening/programs', { programs: [program, broken] });
    const failed = await arkiv.ask<{ code: string; message: string }>('POST', '/opening/frames', {
      ...{ frameIds: [ids[0]], program: 'Broken' },
    });
    expect([failed.status, failed.body.code]).toEqual([409, 'opening.failed']);
    expect(failed.body.message).toContain('there is no such program');
  });

  it('are opened, and programs are named, from this computer alone', async () => {
    const there = { 'x-forwarded-for': '10.0.0.9' };
    const evil = { programs: [{ name: 'X', command: '/bin/sh', args: [], takes: 'raw' }] };
    for (const [method, where, body] of [
      ['PUT', '/opening/programs', evil],
      ['GET', '/opening/programs', undefined],
      ['POST', '/opening/frames', { frameIds: [ids[0]], program: 'Tool' }],
      ['POST', '/opening/copies', { frameIds: [ids[0]], volumeId: ids[0], program: 'Tool' }],
      ['POST', '/opening/folder', { assetId: ids[0], volumeId: ids[0] }],
    ] as const)
      expect((await from(there, method, where, body)).status).toBe(403);
    // Nor through the studio's settings, which any window may change.
    expect((await arkiv.ask('PATCH', '/settings', evil)).status).toBe(400);
    const settings = await arkiv.get<object>('/settings');
    expect(settings).not.toHaveProperty('programs');
    const { programs } = await arkiv.get<{ programs: { name: string }[] }>('/opening/programs');
    expect(programs.map(({ name }) => name)).toEqual(['Tool', 'Broken']);
  });
});

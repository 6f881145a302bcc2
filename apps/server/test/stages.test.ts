import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { DEFAULT_STAGES } from '@arkiv/core';
import { ulid } from 'ulid';
import { SidecarsService } from '../src/sidecars/sidecars.service';
import {
  dataWithCard,
  filesBelow,
  removeFolder,
  startArkiv,
  until,
  volumeOf,
  type TestArkiv,
} from './testArkiv';

describe('the stages of keepers', () => {
  let arkiv: TestArkiv;
  let data: string;
  let shootId: string;
  let ids: string[];

  beforeAll(async () => {
    data = dataWithCard({ until: 'OCK_9973' });
    arkiv = await startArkiv(data);
    const started = await arkiv.takeIn();
    shootId = started.shootId;
    await arkiv.rest(started.jobId);
    ids = (await arkiv.frames(shootId)).id;
    await mark('verdict', 'undecided', 'keep', ...ids.slice(0, 4));
  });
  afterAll(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  async function mark(kind: string, from: unknown, to: unknown, ...frames: string[]): Promise<string> {
    const group = ulid();
    const operations = frames.map((subject) => ({
      ...{ id: ulid(), subject, kind, from, to, at: Date.now(), group, window: 'w' },
    }));
    await arkiv.post('/marks', { operations });
    return group;
  }
  const counts = async () => (await arkiv.get<{ stages: number[] }>(`/shoots/${shootId}`)).stages;
  const said = async (id: string) => {
    const { frames } = await arkiv.post<{ frames: { stage: string | null; label: string | null }[] }>(
      '/marks/now',
      { frameIds: [id] },
    );
    return [frames[0]!.stage, frames[0]!.label];
  };
  const found = async (line: string) => {
    const { page } = await arkiv.post<{ page: { columns: { id?: string[] } } }>('/find', {
      ...{ line, rejects: true, oldestFirst: true },
    });
    return page.columns.id ?? [];
  };
  const sidecar = (i: number) => {
    const home = path.join(volumeOf(data, 'backup'), '2026/2026-10-16_press-night/originals');
    const file = filesBelow(home).filter((one) => one.endsWith('.xmp') && !one.includes('_card'))[i]!;
    return path.join(home, file);
  };
  const set = (stages: object[]) => arkiv.ask<{ message: string }>('PATCH', '/settings', { stages });

  it('add up to the keepers, and are found by the studio’s words', async () => {
    expect(await counts()).toEqual([4, 0, 0, 0]);
    await mark('stage', null, 'ready', ids[1]!);
    // What is no keeper counts at no stage.
    await mark('stage', null, 'ready', ids[5]!);
    expect(await counts()).toEqual([3, 0, 0, 1]);
    expect(await found('stage:ready')).toEqual([ids[1]]);
    expect(await found('stage:"to edit"')).toEqual([ids[0], ids[2], ids[3]]);
    await arkiv.app.get(SidecarsService).flush();
    await until(() => readFileSync(sidecar(1), 'utf8').includes('ready'));
    // The last frame that was kept is taken back: it is at no stage any more, and keeps what was said.
    await mark('verdict', 'keep', 'undecided', ids[1]!);
    expect(await counts()).toEqual([3, 0, 0, 0]);
    await mark('verdict', 'undecided', 'keep', ids[1]!);
    expect(await counts()).toEqual([3, 0, 0, 1]);
  });

  it('are reached by a hand-off from the first one, and by nothing else from a later one', async () => {
    const { jobId } = await arkiv.post<{ jobId: string }>(`/shoots/${shootId}/handoffs`, {
      volumeId: await arkiv.volumeId('edit'),
    });
    expect((await arkiv.rest(jobId)).job).toMatchObject({ state: 'done', filesFailed: 0 });
    expect(await counts()).toEqual([0, 3, 0, 1]);
    const selects = path.join(volumeOf(data, 'edit'), '2026/2026-10-16_press-night/selects');
    expect(filesBelow(selects)).not.toContain('notes.csv');
    await mark('note', null, '[50 % 10 %] dust, here', ids[0]!);
    // Once more moves none back.
    await mark('stage', 'editing', 'nearly', ids[0]!);
    const again = await arkiv.post<{ jobId: string }>(`/shoots/${shootId}/handoffs`, {
      volumeId: await arkiv.volumeId('edit'),
    });
    await arkiv.rest(again.jobId);
    expect(await counts()).toEqual([0, 2, 1, 1]);
    // What is to be done stands in the sidecars, and in a list beside the copies.
    const { name } = await arkiv.frames(shootId);
    const list = () => readFileSync(path.join(selects, 'notes.csv'), 'utf8');
    expect(list()).toBe(`frame,note,% across,% down\r\n${name[0]},"dust, here",50,10\r\n`);
    expect(readFileSync(path.join(selects, `${name[0]}.xmp`), 'utf8')).toContain('dust, here');
  });

  it('bring the label that the studio ties to them, and are brought by it, be it in another program', async () => {
    const tied = DEFAULT_STAGES.map((stage) => ({
      ...stage,
      label: { nearly: 'S', ready: 'M' }[stage.id] ?? null,
    }));
    expect((await set(tied)).status).toBe(200);
    await mark('stage', 'editing', 'ready', ids[2]!);
    expect(await said(ids[2]!)).toEqual(['ready', 'M']);
    await mark('label', 'M', 'S', ids[2]!);
    expect(await said(ids[2]!)).toEqual(['nearly', 'S']);
    // Both are one step of the journal.
    const history = await arkiv.get<{ operations: { group: string; kind: string; subject: string }[] }>(
      `/shoots/${shootId}/history`,
    );
    const last = history.operations.at(-1)!;
    expect(history.operations.filter(({ group }) => group === last.group).map(({ kind }) => kind)).toEqual([
      ...['label', 'stage'],
    ]);
    await arkiv.app.get(SidecarsService).flush();
    await until(() => readFileSync(sidecar(2), 'utf8').includes('Slate'));
    execFileSync('exiftool', ['-overwrite_original', '-XMP:Label=Moss', sidecar(2)]);
    await mark('stars', 0, 2, ids[2]!);
    await arkiv.app.get(SidecarsService).flush();
    expect(await said(ids[2]!)).toEqual(['ready', 'M']);
    await mark('stage', 'ready', 'to-edit', ids[2]!);
    expect(await said(ids[2]!)).toEqual(['to-edit', null]);
  });

  it('are the studio’s own list, in which each has a name of its own', async () => {
    const [first, ...rest] = DEFAULT_STAGES;
    const twice = await set([first!, { ...rest[0]!, name: 'To edit' }]);
    expect(twice.status).toBe(400);
    expect(twice.body.message).toContain('Two stages are called “To edit”');
    expect((await set([])).body.message).toContain('one stage at least');
    expect((await set([{ id: 'x' }])).status).toBe(400);
    // Frames at a stage that is no more stand at the first.
    expect((await set(DEFAULT_STAGES.slice(0, 2))).status).toBe(200);
    expect(await counts()).toEqual([3, 1]);
    expect((await set([...DEFAULT_STAGES])).status).toBe(200);
    expect(await counts()).toEqual([1, 1, 1, 1]);
    const wrong = { ...{ id: ulid(), subject: ids[0], kind: 'stage', from: null, to: 'Not An Id' } };
    const refused = await arkiv.ask('POST', '/marks', {
      operations: [{ ...wrong, at: Date.now(), group: 'g', window: 'w' }],
    });
    expect(refused).toMatchObject({ status: 400, body: { code: 'marks.invalid' } });
  });
});

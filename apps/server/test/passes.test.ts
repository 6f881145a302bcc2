import { ulid } from 'ulid';
import { dataWithCard, removeFolder, startArkiv, type TestArkiv } from './testArkiv';

interface Pass {
  id: string;
  name: string;
  frames: string[];
  seen: string;
  seenCount: number;
  at: string | null;
  total: number;
  endedAt: number | null;
  undoneAt: number | null;
}

describe('a pass over a shoot', () => {
  let arkiv: TestArkiv;
  let data: string;
  let shootId: string;
  let ids: string[];
  const pass = ulid();

  beforeAll(async () => {
    data = dataWithCard({ until: 'OCK_9972' });
    arkiv = await startArkiv(data);
    const started = await arkiv.takeIn();
    ({ shootId } = started);
    await arkiv.rest(started.jobId);
    ({ id: ids } = await arkiv.frames(shootId));
  });
  afterAll(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  const begin = () =>
    arkiv.post<Pass>(`/shoots/${shootId}/passes`, { id: pass, name: 'undecided', frames: ids });
  const mark = (i: number, kind: string, from: unknown, to: unknown, more: object = {}) => ({
    ...{ id: ulid(), subject: ids[i]!, kind, from, to, at: Date.now(), group: ulid(), window: 'w' },
    ...more,
  });
  const progress = { seen: '0-1', seenCount: 2, kept: 1, rejected: 0, activeMillis: 4000, ended: false };

  it('is begun once, however often it is sent, and is kept with what it is about', async () => {
    await begin();
    expect(await begin()).toMatchObject({ name: 'undecided', frames: ids, total: ids.length, at: ids[0] });
    const list = await arkiv.get<Pass[]>(`/shoots/${shootId}/passes`);
    expect(list).toHaveLength(1);
    expect(list[0]).not.toHaveProperty('frames');
    expect(
      (await arkiv.ask('POST', `/shoots/${shootId}/passes`, { id: ulid(), name: 'none', frames: [] })).status,
    ).toBe(400);
  });

  it('goes on where it was left, after a restart of the server too', async () => {
    const saved = await arkiv.ask('PUT', `/passes/${pass}`, { ...progress, at: ids[2], ended: true });
    expect(saved.status).toBe(204);
    await arkiv.stop();
    arkiv = await startArkiv(data);
    expect(await arkiv.get(`/passes/${pass}`)).toMatchObject({
      ...{ seen: '0-1', seenCount: 2, kept: 1, at: ids[2], activeMillis: 4000 },
      endedAt: expect.any(Number) as number,
    });
    await arkiv.ask('PUT', `/passes/${pass}`, { ...progress, at: ids[2] });
    expect((await arkiv.get<Pass>(`/passes/${pass}`)).endedAt).toBeNull();
  });

  it('is taken back as a whole: only what was decided in it, and not what was changed since', async () => {
    await arkiv.post('/marks', {
      operations: [
        mark(0, 'stars', 0, 2),
        mark(0, 'stars', 2, 3, { pass }),
        mark(0, 'stars', 3, 5, { pass }),
        mark(1, 'verdict', 'undecided', 'keep', { pass }),
        mark(2, 'verdict', 'undecided', 'reject', { pass }),
        mark(2, 'verdict', 'reject', 'keep'),
        mark(3, 'label', null, 'M'),
      ],
    });
    const decisions = await arkiv.get<{ subject: string }[]>(`/passes/${pass}/decisions`);
    expect(decisions.map(({ subject }) => ids.indexOf(subject))).toEqual([0, 0, 1, 2]);
    expect(await arkiv.post(`/passes/${pass}/undo`)).toEqual({ marks: 2, skipped: 1 });
    const { stars, verdict, label } = await arkiv.columns(shootId);
    expect(stars!.slice(0, 2)).toEqual([2, 0]);
    expect(verdict!.slice(0, 3)).toEqual(['undecided', 'undecided', 'keep']);
    expect(label![3]).toBe('M');
    expect((await arkiv.get<Pass>(`/passes/${pass}`)).undoneAt).toEqual(expect.any(Number));
    // Taken back twice, it changes nothing more.
    expect(await arkiv.post(`/passes/${pass}/undo`)).toMatchObject({ marks: 0 });
  });

  it('that never was is not found', async () => {
    expect((await arkiv.ask('GET', `/passes/${ulid()}`)).status).toBe(404);
    expect((await arkiv.ask('PUT', `/passes/${ulid()}`, progress)).status).toBe(404);
  });
});

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

interface Whole extends Pass {
  parts: { shootId: string; title: string; frames: number; kept: number; rejected: number }[];
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

  const begin = () => arkiv.post<Pass>('/passes', { id: pass, name: 'undecided', over: { frames: ids } });
  const mark = (i: number, kind: string, from: unknown, to: unknown, more: object = {}) => ({
    ...{ id: ulid(), subject: ids[i]!, kind, from, to, at: Date.now(), group: ulid(), window: 'w' },
    ...more,
  });
  const progress = () => ({
    ...{ shootId, seen: '0-1', seenCount: 2, kept: 1, rejected: 0, activeMillis: 4000, ended: false },
  });

  it('is begun once, however often it is sent, and is kept with what it is about', async () => {
    await begin();
    expect(await begin()).toMatchObject({ name: 'undecided', frames: ids, total: ids.length, at: ids[0] });
    const list = await arkiv.get<Pass[]>(`/shoots/${shootId}/passes`);
    expect(list).toHaveLength(1);
    expect(list[0]).not.toHaveProperty('frames');
    expect(
      (await arkiv.ask('POST', '/passes', { id: ulid(), name: 'none', over: { frames: [] } })).status,
    ).toBe(400);
  });

  it('goes on where it was left, after a restart of the server too', async () => {
    const saved = await arkiv.ask('PUT', `/passes/${pass}`, { ...progress(), at: ids[2], ended: true });
    expect(saved.status).toBe(204);
    await arkiv.stop();
    arkiv = await startArkiv(data);
    expect(await arkiv.get(`/passes/${pass}`)).toMatchObject({
      ...{ seen: '0-1', seenCount: 2, kept: 1, at: ids[2], activeMillis: 4000 },
      endedAt: expect.any(Number) as number,
    });
    await arkiv.ask('PUT', `/passes/${pass}`, { ...progress(), at: ids[2] });
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
    expect((await arkiv.ask('PUT', `/passes/${ulid()}`, progress())).status).toBe(404);
  });

  describe('over several shoots', () => {
    let other: string;
    let moved: string[];
    let over: Whole;
    beforeAll(async () => {
      moved = ids.slice(0, 2);
      const { jobId } = await arkiv.post<{ jobId: string }>('/moves', {
        ...{ kind: 'split', shootId, frameIds: moved, title: 'Curtain call', rename: false },
      });
      await arkiv.rest(jobId);
      const shoots = await arkiv.get<{ id: string }[]>('/shoots');
      other = shoots.find(({ id }) => id !== shootId)!.id;
      await arkiv.post('/marks', {
        operations: [
          ...ids.map((_, i) => mark(i, 'verdict', null, i < 3 ? 'keep' : 'undecided')),
          ...ids.map((_, i) => mark(i, 'stars', null, i === 3 ? 4 : 0)),
        ],
      });
    });

    it('has the frames of one shoot together, each shoot as its first frame comes', async () => {
      const mixed = [ids[4]!, moved[0]!, ids[3]!, moved[1]!];
      over = await arkiv.post<Whole>('/passes', { id: ulid(), name: 'mixed', over: { frames: mixed } });
      expect(over.frames).toEqual([ids[4], ids[3], moved[0], moved[1]]);
      expect(over.parts).toMatchObject([
        { shootId, frames: 2, kept: 0 },
        { shootId: other, title: 'Curtain call', frames: 2 },
      ]);
      for (const id of [shootId, other])
        expect((await arkiv.get<{ id: string; shoots: number }[]>(`/shoots/${id}/passes`))[0]).toMatchObject({
          id: over.id,
          shoots: 2,
        });
    });

    it('counts what is kept of each shoot, and all of it together', async () => {
      const said = { ...progress(), seen: '0,2', seenCount: 2, at: moved[0] };
      const put = (change: object) => arkiv.ask('PUT', `/passes/${over.id}`, { ...said, ...change });
      await put({ kept: 1, rejected: 1 });
      await put({ shootId: other, kept: 2, rejected: 0 });
      expect(await arkiv.get(`/passes/${over.id}`)).toMatchObject({
        ...{ kept: 3, rejected: 1, at: moved[0] },
        parts: [
          { kept: 1, rejected: 1 },
          { kept: 2, rejected: 0 },
        ],
      });
      expect((await put({ shootId: ulid() })).status).toBe(404);
    });

    it('can be about what the studio’s rules or stars say, of frames or of the shoots that words find', async () => {
      const choices = (asked: object) => arkiv.post<object>('/passes/choices', { over: asked });
      const left = ids.length - 3;
      const all = { all: ids.length, left, keepers: 3, stars: [1, 1, 1, 1, 0] };
      expect(await choices({ frames: ids })).toEqual(all);
      expect(await choices({ find: '' })).toEqual(all);
      expect(await choices({ find: 'curtain' })).toEqual({
        all: 2,
        left: 0,
        keepers: 2,
        stars: [0, 0, 0, 0, 0],
      });
      const begun = (asked: object, what?: object) =>
        arkiv.post<Whole>('/passes', { id: ulid(), name: 'x', over: asked, ...(what && { what }) });
      expect((await begun({ find: 'CURTAIN' })).frames).toEqual(moved);
      expect((await begun({ find: '' }, { standing: 'keeper' })).frames.sort()).toEqual(
        ids.slice(0, 3).sort(),
      );
      expect((await begun({ frames: ids }, { stars: 4 })).frames).toEqual([ids[3]]);
      const none = await arkiv.ask<{ code: string }>('POST', '/passes', {
        ...{ id: ulid(), name: 'x', over: { frames: ids }, what: { stars: 5 } },
      });
      expect([none.status, none.body.code]).toEqual([409, 'pass.frames']);
    });

    it('is compared with another: what both kept, what one did, and what only one has seen', async () => {
      const one = await arkiv.post<Whole>('/passes', { id: ulid(), name: 'Ada', over: { frames: ids } });
      const two = await arkiv.post<Whole>('/passes', { id: ulid(), name: 'Bo', over: { frames: ids } });
      const places = (wanted: readonly string[], of: Whole) =>
        wanted.map((id) => of.frames.indexOf(id)).join(',');
      const seen = (of: Whole, wanted: readonly string[]) =>
        arkiv.ask('PUT', `/passes/${of.id}`, {
          ...{ ...progress(), seen: places(wanted, of), seenCount: wanted.length, at: wanted[0] },
        });
      // Both see 0–3; only the first sees 4. 0 stood kept before both began, and both leave it.
      await arkiv.post('/marks', {
        operations: [
          mark(1, 'verdict', 'keep', 'reject', { pass: one.id }),
          mark(3, 'verdict', 'undecided', 'keep', { pass: one.id }),
          mark(3, 'verdict', 'keep', 'reject', { pass: two.id }),
          mark(2, 'verdict', 'keep', 'reject', { pass: two.id }),
          mark(1, 'verdict', 'reject', 'keep', { pass: two.id }),
          mark(2, 'verdict', 'reject', 'undecided'),
        ],
      });
      await seen(one, ids.slice(0, 5));
      await seen(two, ids.slice(0, 4));
      expect(await arkiv.get(`/passes/${one.id}/compare/${two.id}`)).toEqual({
        both: [ids[0]],
        onlyFirst: expect.arrayContaining([ids[2], ids[3]]) as string[],
        onlySecond: [ids[1]],
        neither: [],
        seenByOne: 1,
      });
      const back = await arkiv.get<{ onlySecond: string[] }>(`/passes/${two.id}/compare/${one.id}`);
      expect(back.onlySecond.sort()).toEqual([ids[2], ids[3]].sort());
    });

    it('goes with its frames into another shoot and back, and what was seen stays seen', async () => {
      const moveOf = async (asked: object, to = '/moves') => {
        const its = await arkiv.post<{ jobId: string; shootId: string }>(to, asked);
        expect(await arkiv.rest(its.jobId)).toMatchObject({ job: { state: 'done' }, failures: [] });
        return its;
      };
      const { shootId: third } = await moveOf({
        ...{ kind: 'split', shootId, frameIds: [ids[4]], title: 'Third', rename: false },
      });
      const [a, b, c] = [ids[4]!, moved[0]!, ids[3]!];
      const { id } = await arkiv.post<Whole>('/passes', {
        id: ulid(),
        name: '3',
        over: { frames: [a, b, c] },
      });
      const whole = () => arkiv.get<Whole & { arranged: number }>(`/passes/${id}`);
      const said = { ...progress(), shootId: third, seen: '0,2', seenCount: 2, at: c, arranged: 0 };
      await arkiv.ask('PUT', `/passes/${id}`, { ...said, kept: 0, rejected: 0 });
      const before = await whole();
      expect(before.parts.map((part) => part.shootId)).toEqual([third, other, shootId]);

      const { jobId } = await moveOf({ kind: 'merge', shootId: third, into: shootId, rename: false });
      expect(await whole()).toMatchObject({
        ...{ frames: [a, c, b], seen: '0-1', seenCount: 2, at: c, arranged: 1, kept: 1, rejected: 1 },
        parts: [
          { shootId, frames: 2, kept: 0, rejected: 1 },
          { shootId: other, frames: 1, kept: 1, rejected: 0 },
        ],
      });
      const listed = await arkiv.get<Pass[]>(`/shoots/${third}/passes`);
      expect(listed.map((pass) => pass.id)).not.toContain(id);
      // A window that still counts in the old order is told so, and is written down in the new one.
      const late = await arkiv.ask<{ code: string }>('PUT', `/passes/${id}`, said);
      expect([late.status, late.body.code]).toEqual([409, 'pass.arranged']);
      expect((await whole()).seen).toBe('0-1');
      const now = { ...said, shootId, seen: '0-2', seenCount: 3, arranged: 1 };
      expect((await arkiv.ask('PUT', `/passes/${id}`, now)).status).toBe(204);

      await moveOf({}, `/moves/${jobId}/undo`);
      const after = await whole();
      expect(after.parts.map((part) => [part.shootId, part.frames])).toEqual([
        [third, 1],
        [shootId, 1],
        [other, 1],
      ]);
      expect(after).toMatchObject({ frames: [a, c, b], seen: '0-2', arranged: 2 });
    });
  });
});

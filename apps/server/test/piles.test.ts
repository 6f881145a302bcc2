import { ulid } from 'ulid';
import { Reading } from '../src/db/unitOfWork';
import { SidecarsService } from '../src/sidecars/sidecars.service';
import { dataWithCard, removeFolder, startArkiv, type TestArkiv } from './testArkiv';

interface Pile {
  id: string;
  name: string;
  number: number | null;
  frames: number;
}

describe('piles', () => {
  let arkiv: TestArkiv;
  let data: string;
  let shootId: string;
  let ids: string[];

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

  const list = () => arkiv.get<Pile[]>('/piles');
  const make = (name: string) => arkiv.post<Pile>('/piles', { name });
  const operation = (i: number, pile: string, to: boolean, more: object = {}) => ({
    ...{ id: ulid(), subject: ids[i]!, kind: `pile ${pile}`, from: !to, to },
    ...{ at: Date.now(), group: ulid(), window: 'w', ...more },
  });
  const put = (operations: object[]) => arkiv.ask<{ code?: string }>('POST', '/marks', { operations });
  const column = async () => (await arkiv.columns(shootId)).piles!;

  it('take the first free digits, and each name once', async () => {
    const [album, press] = [await make(' Album '), await make('Press')];
    expect([album.name, album.number, press.number]).toEqual(['Album', 1, 2]);
    expect(await arkiv.ask('POST', '/piles', { name: 'album' })).toMatchObject({
      status: 409,
      body: { code: 'pile.exists' },
    });
    expect((await arkiv.ask('POST', '/piles', { name: '  ' })).status).toBe(400);
    await arkiv.ask('DELETE', `/piles/${album.id}`);
    expect((await make('Prints')).number).toBe(1);
    for (let i = 3; i <= 9; i++) expect((await make(`Pile ${i}`)).number).toBe(i);
    expect((await make('Pile 10')).number).toBeNull();
    expect((await list()).map(({ number }) => number)).toEqual([1, 2, 3, 4, 5, 6, 7, 8, 9, null]);
    expect((await arkiv.ask('PATCH', `/piles/${press.id}`, { name: 'Prints' })).status).toBe(409);
    expect((await arkiv.ask('PATCH', `/piles/${press.id}`, { name: 'Press, and web' })).status).toBe(204);
    expect((await list())[1]).toMatchObject({ id: press.id, name: 'Press, and web', number: 2 });
  });

  it('hold frames by marks: several piles a frame, counted, in the journal, and nothing for sidecars to say', async () => {
    const [one, other] = await list();
    await arkiv.app.get(SidecarsService).flush();
    expect((await put([operation(0, one!.id, true), operation(1, one!.id, true)])).status).toBe(200);
    await put([operation(0, other!.id, true)]);
    expect((await column()).slice(0, 3)).toEqual([[one!.id, other!.id].sort().join('+'), one!.id, '']);
    expect((await list()).slice(0, 2).map(({ frames }) => frames)).toEqual([2, 1]);
    const due = await arkiv.app
      .get(Reading)
      .source.query<{ n: number }[]>(`SELECT COUNT(*) AS n FROM frame WHERE "sidecarDue" > 0`);
    expect(due).toEqual([{ n: 0 }]);
    const { operations } = await arkiv.get<{ operations: { kind: string; to: unknown }[] }>(
      `/shoots/${shootId}/history`,
    );
    expect(operations.map(({ kind, to }) => [kind, to])).toEqual([
      [`pile ${one!.id}`, true],
      [`pile ${one!.id}`, true],
      [`pile ${other!.id}`, true],
    ]);
    const { frames } = await arkiv.post<{ frames: { piles: string }[] }>('/marks/now', {
      frameIds: [ids[1]],
    });
    expect(frames).toMatchObject([{ piles: one!.id }]);
  });

  it('show their frames over all shoots, and are emptied as one step that can be taken back', async () => {
    const [one] = await list();
    const shown = await arkiv.get<Pile & { shown: { id: string; shootId: string }[] }>(`/piles/${one!.id}`);
    expect(shown).toMatchObject({ name: one!.name, frames: 2 });
    expect(shown.shown.map(({ id }) => id)).toEqual([ids[0], ids[1]]);
    const { body } = await arkiv.ask<{ frames: number; group: string }>('DELETE', `/piles/${one!.id}/frames`);
    expect(body.frames).toBe(2);
    expect((await list())[0]!.frames).toBe(0);
    const { operations } = await arkiv.get<{ operations: { group: string; to: unknown; by: string }[] }>(
      `/shoots/${shootId}/history`,
    );
    expect(operations.slice(-2)).toMatchObject([
      { group: body.group, to: false, by: '' },
      { group: body.group, to: false, by: '' },
    ]);
  });

  it('that were removed are there again when an undo puts a frame back', async () => {
    const [one] = await list();
    await put([operation(2, one!.id, true)]);
    expect((await arkiv.ask('DELETE', `/piles/${one!.id}`)).status).toBe(204);
    expect((await list()).some(({ id }) => id === one!.id)).toBe(false);
    expect((await column())[2]).toBe('');
    await put([operation(2, one!.id, true)]);
    expect((await list()).find(({ id }) => id === one!.id)).toMatchObject({ frames: 1, number: null });
  });

  it('that never were take no frame', async () => {
    expect(await put([operation(3, ulid(), true)])).toMatchObject({
      status: 404,
      body: { code: 'not-found' },
    });
    expect(await put([{ ...operation(3, 'x', true) }])).toMatchObject({ status: 400 });
    expect((await column())[3]).toBe('');
    expect((await arkiv.ask('GET', `/piles/${ulid()}`)).status).toBe(404);
  });
});

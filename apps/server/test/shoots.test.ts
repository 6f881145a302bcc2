import { readFileSync } from 'node:fs';
import path from 'node:path';
import { dataWithCard, removeFolder, startArkiv, until, volumeOf, type TestArkiv } from './testArkiv';

interface Shoot {
  id: string;
  title: string;
  date: string;
  folders: string[];
  leads: string[];
  chosenLeads: string[];
}

describe('shoots', () => {
  let arkiv: TestArkiv;
  let data: string;
  let shootId: string;
  let ids: string[];

  beforeAll(async () => {
    data = dataWithCard({ until: 'OCK_9980' });
    arkiv = await startArkiv(data);
    const started = await arkiv.takeIn();
    ({ shootId } = started);
    expect((await arkiv.rest(started.jobId)).job.state).toBe('done');
    ({ id: ids } = await arkiv.frames(shootId));
    const { shootId: later } = await arkiv.post<{ shootId: string; jobId: string }>('/moves', {
      ...{ kind: 'split', shootId, frameIds: ids.slice(-2), title: 'Two of them', date: '2031-02-03' },
      ...{ client: 'Kiln & Co', place: 'The yard', rename: false },
    });
    await until(async () => (await arkiv.frames(later)).id.length === 2);
    ids = ids.slice(0, -2);
  });
  afterAll(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  const list = (asked: string) => arkiv.get<Shoot[]>(`/shoots?${asked}`);
  const titles = async (asked: string) => (await list(asked)).map(({ title }) => title);

  it('are listed by year, client and place, and those that name none by that', async () => {
    expect(await titles('year=2031')).toEqual(['Two of them']);
    const { date } = await arkiv.get<Shoot>(`/shoots/${shootId}`);
    expect(await titles(`year=${date.slice(0, 4)}`)).toEqual(['Press night']);
    expect(await titles('year=1999')).toEqual([]);
    const groups =
      await arkiv.get<{ name: string; shoots: number; frames: number; first: string; last: string }[]>(
        '/shoots/groups?by=client',
      );
    expect(groups.reduce((sum, { shoots }) => sum + shoots, 0)).toBe(2);
    expect(groups.reduce((sum, { frames }) => sum + frames, 0)).toBe(ids.length + 2);
    for (const { name, shoots } of groups)
      expect(await list(`client=${encodeURIComponent(name)}`)).toHaveLength(shoots);
    const places = await arkiv.get<{ name: string }[]>('/shoots/groups?by=place');
    for (const { name } of places)
      expect((await list(`place=${encodeURIComponent(name)}`)).length).toBeGreaterThan(0);
    expect((await arkiv.ask('GET', '/shoots/groups?by=moon')).status).toBe(400);
  });

  it('are passed over frame by frame, in order of time, each with its picture', async () => {
    const skimmed = await arkiv.get<{ id: string; picture: string; time: string }[]>(
      `/shoots/${shootId}/skim`,
    );
    expect(skimmed.map(({ id }) => id)).toEqual(ids);
    expect([...skimmed].sort((a, b) => (a.time < b.time ? -1 : 1))).toEqual(skimmed);
    expect(new Set(skimmed.map(({ picture }) => picture)).size).toBeGreaterThan(1);
  });

  it('show themselves by the frames that were chosen, and fill up what is left by themselves', async () => {
    const picture = async (i: number) =>
      (await arkiv.get<{ id: string; picture: string }[]>(`/shoots/${shootId}/skim`))[i]!.picture;
    const leads = async () => (await arkiv.get<Shoot>(`/shoots/${shootId}`)).leads;
    await leads();
    const two = [ids[1]!, ids[2]!];
    expect((await arkiv.ask('PUT', `/shoots/${shootId}/leads`, { frameIds: two })).status).toBe(204);
    const [one, other] = [await picture(1), await picture(2)];
    await until(async () => {
      const now = await leads();
      return now.includes(one) && now.includes(other) && now.length === 6;
    });
    const { chosenLeads, folders } = await arkiv.get<Shoot>(`/shoots/${shootId}`);
    expect(chosenLeads).toEqual(two);
    // The shoot's folder says so, so that another machine shows it the same way.
    const facts = path.join(volumeOf(data, 'working'), folders[0]!, '.arkiv/shoot.json');
    expect(JSON.parse(readFileSync(facts, 'utf8'))).toMatchObject({ leads: two });
    const six = ids.slice(0, 7);
    expect((await arkiv.ask('PUT', `/shoots/${shootId}/leads`, { frameIds: six })).status).toBe(400);
    await arkiv.ask('PUT', `/shoots/${shootId}/leads`, { frameIds: [] });
    expect((await arkiv.get<Shoot>(`/shoots/${shootId}`)).chosenLeads).toEqual([]);
    expect(JSON.parse(readFileSync(facts, 'utf8'))).not.toHaveProperty('leads');
  });

  it('are counted by the day that their frames were taken on, by corrected clocks', async () => {
    const { local } = await arkiv.columns(shootId);
    const day = String(local![0]).slice(0, 10);
    const year = Number(day.slice(0, 4));
    const days = () =>
      arkiv.get<{ years: number[]; days: Record<string, number> }>(`/find/days?year=${year}`);
    const { years, days: its } = await days();
    expect(years).toContain(year);
    expect(Object.values(its).reduce((sum, n) => sum + n, 0)).toBe(ids.length + 2);
    // A camera's clock that stood a day back: its frames count for the next day.
    const { body } = await arkiv.columns(shootId);
    const theirs = body!.filter((one) => one === body![0]).length;
    await arkiv.ask('PUT', `/shoots/${shootId}/clocks`, {
      corrections: [{ body: body![0], millis: 24 * 3_600_000 }],
    });
    const next = new Date(Date.parse(`${day}T00:00:00Z`) + 24 * 3_600_000).toISOString().slice(5, 10);
    const after = (await days()).days;
    expect(after[next]).toBe((its[next] ?? 0) + theirs);
    expect((await arkiv.get<{ days: object }>('/find/days?year=1999')).days).toEqual({});
    expect((await arkiv.ask('GET', '/find/days?year=x')).status).toBe(400);
  });
});

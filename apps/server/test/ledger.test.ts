import { DEFAULT_OUTPUT_SPEC } from '@arkiv/core';
import { removeFolder, takenIn, until, type TestArkiv } from './testArkiv';

interface Entry {
  id: string;
  kind: string;
  name: string;
  client: string;
  shoot: string;
  frames: number;
  files: number;
  forms: string[];
  again: boolean;
}
interface Page {
  entries: Entry[];
  next: string | null;
}

describe('the ledger', () => {
  let arkiv: TestArkiv;
  let data: string;
  let shootId: string;
  let ids: string[];
  let volumeId: string;

  beforeEach(async () => {
    ({ arkiv, data, shootId } = await takenIn('OCK_9973'));
    ({ id: ids } = await arkiv.frames(shootId));
    volumeId = await arkiv.volumeId('working');
    await arkiv.mark('verdict', 'undecided', 'keep', ...ids.slice(0, 3));
  });
  afterEach(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  const web = { ...DEFAULT_OUTPUT_SPEC, name: 'Web', size: { by: 'long', pixels: 100 } as const };
  const deliver = async (name: string, more: object = {}) => {
    const { jobId } = await arkiv.post<{ jobId: string }>(`/shoots/${shootId}/deliveries`, {
      ...{
        name,
        volumeId,
        specs: [web, { ...web, name: 'Small', size: { by: 'long', pixels: 80 } }],
        ...more,
      },
    });
    expect((await arkiv.rest(jobId)).job).toMatchObject({ state: 'done', filesFailed: 0 });
    return jobId;
  };
  const page = (asked = '') => arkiv.get<Page>(`/ledger${asked}`);
  const list = async (asked = '') => {
    const answer = await fetch(`${arkiv.base}/api/ledger/list.csv${asked}`);
    expect(answer.headers.get('content-type')).toContain('text/csv');
    return (await answer.text()).trim().split('\r\n');
  };

  it('says who got which frames, in which forms, and when, by shoot, client and frame', async () => {
    expect(await page()).toEqual({ entries: [], next: null });
    const first = await deliver('Web set');
    await deliver('Best', { line: '≥4★' }).catch(() => undefined);
    await arkiv.mark('stars', 0, 5, ids[1]!);
    await deliver('Best', { line: '≥4★' });
    const { entries } = await page();
    expect(entries).toMatchObject([
      { kind: 'set', name: 'Best', frames: 1, files: 2, again: false, client: 'Lantern Row' },
      { id: first, name: 'Web set', frames: 3, files: 6, shoot: 'Press night' },
    ]);
    expect(entries[0]!.forms).toEqual([
      expect.stringContaining('long side 100 px') as string,
      expect.stringContaining('long side 80 px') as string,
    ]);
    expect((await page(`?frameId=${ids[0]}`)).entries.map(({ name }) => name)).toEqual(['Web set']);
    expect((await page(`?frameId=${ids[4]}`)).entries).toEqual([]);
    expect((await page('?client=Lantern%20Row')).entries).toHaveLength(2);
    expect((await page('?client=Nobody')).entries).toEqual([]);
    expect((await page(`?year=${new Date().getUTCFullYear()}`)).entries).toHaveLength(2);
    expect((await page('?year=1999')).entries).toEqual([]);
    const wentOut = await arkiv.get<{ frameId: string; times: number; name: string }[]>(
      `/shoots/${shootId}/went-out`,
    );
    expect(new Map(wentOut.map(({ frameId, times, name }) => [frameId, `${times} ${name}`]))).toEqual(
      new Map([
        [ids[0], '1 Web set'],
        [ids[1], '2 Best'],
        [ids[2], '1 Web set'],
      ]),
    );
    // A set that is brought up to date went out once more, and what it no longer has went out before.
    await arkiv.mark('verdict', 'keep', 'reject', ids[0]!);
    const { jobId } = await arkiv.post<{ jobId: string }>(`/deliveries/${first}/again`);
    await arkiv.rest(jobId);
    expect((await page(`?shootId=${shootId}`)).entries[0]).toMatchObject({
      name: 'Web set',
      again: true,
      frames: 2,
    });
    expect((await page(`?frameId=${ids[0]}`)).entries.map(({ id }) => id)).toEqual([first]);
  });

  it('is a list of all files, one a line, that a spreadsheet opens', async () => {
    await deliver('=Sum, "quoted"');
    const lines = await list();
    expect(lines).toHaveLength(7);
    expect(lines[0]).toBe('day,client,shoot,went as,name,form,frame,file,bytes,sha-256,arrived at');
    expect(lines[1]).toMatch(
      /^\d{4}-\d\d-\d\d,Lantern Row,Press night,set,"'=Sum, ""quoted""",.*,[0-9a-f]{64},$/,
    );
    expect(await list(`?frameId=${ids[0]}`)).toHaveLength(3);
  });

  it('holds what was posted by hand, which counts as delivered, and can be taken out again', async () => {
    const delivered = async () =>
      (await arkiv.post<{ count: number }>('/find', { line: 'delivered:any' })).count;
    expect(await delivered()).toBe(0);
    const entered = await arkiv.post<{ id: string; frames: number }>('/ledger/postings', {
      ...{ shootId, where: 'My own page', day: '2026-11-02' },
    });
    expect(entered.frames).toBe(3);
    expect((await page()).entries).toMatchObject([
      {
        id: entered.id,
        kind: 'posting',
        name: 'My own page',
        frames: 3,
        forms: [],
        at: Date.UTC(2026, 10, 2, 12),
      },
    ]);
    await until(async () => (await delivered()) === 3);
    // It is no set: nothing lies anywhere, and the shoot's step is still to do.
    expect(await arkiv.get(`/shoots/${shootId}/deliveries`)).toEqual([]);
    expect(await arkiv.get(`/shoots/${shootId}`)).toMatchObject({ deliveries: 0 });
    expect(await list()).toHaveLength(4);
    expect((await arkiv.ask('DELETE', `/ledger/postings/${entered.id}`)).status).toBe(204);
    expect((await page()).entries).toEqual([]);
    await until(async () => (await delivered()) === 0);
    // A set went out: it stays.
    const set = await deliver('Web set');
    expect((await arkiv.ask('DELETE', `/ledger/postings/${set}`)).status).toBe(404);
    expect((await page()).entries).toHaveLength(1);
    for (const wrong of [
      { day: '2026-13-40' },
      { where: '' },
      { line: 'delivered:any' },
      { day: '2026-02-30' },
    ])
      expect(
        (await arkiv.ask('POST', '/ledger/postings', { shootId, where: 'x', day: '2026-11-02', ...wrong }))
          .status,
      ).toBe(400);
  });

  it('goes on page by page, however many went out on one day', async () => {
    for (let i = 0; i < 53; i++)
      await arkiv.post('/ledger/postings', { shootId, where: `page ${i}`, day: '2026-11-02' });
    const first = await page();
    expect(first.entries).toHaveLength(50);
    const second = await page(`?before=${first.next}`);
    expect(second).toMatchObject({ next: null });
    const names = [...first.entries, ...second.entries].map(({ name }) => name);
    expect(new Set(names).size).toBe(53);
  });

  it('counts the year: taken, kept, delivered, month by month', async () => {
    await deliver('Best', { line: '' });
    await arkiv.post('/ledger/postings', { shootId, where: 'A magazine', day: '2024-05-01' });
    const years = new Set(['2026', String(new Date().getUTCFullYear()), '2024']);
    expect(await arkiv.get('/ledger/years')).toEqual([...years].sort().reverse());
    const months = await arkiv.get<object[]>('/ledger/years/2026');
    expect(months).toHaveLength(12);
    expect(months[9]).toEqual({ month: '2026-10', frames: ids.length, keepers: 3, delivered: 3 });
    expect(months[0]).toEqual({ month: '2026-01', frames: 0, keepers: 0, delivered: 0 });
  });
});

import { get } from 'node:http';
import { gunzipSync } from 'node:zlib';
import { Happenings, type DomainEvents } from '../src/events/domainEvents';
import { dataWithCard, removeFolder, startArkiv, type TestArkiv } from './testArkiv';

interface Answer {
  encoding: string | undefined;
  vary: string | undefined;
  body: Buffer;
}

/** One question as it goes over the wire: what `fetch` would unpack stays packed. */
const raw = (url: string, accept: string): Promise<Answer> =>
  new Promise((resolve, reject) => {
    get(url, { headers: { 'accept-encoding': accept } }, (response) => {
      const parts: Buffer[] = [];
      response.on('data', (part: Buffer) => parts.push(part));
      response.on('end', () => {
        const { 'content-encoding': encoding, vary } = response.headers;
        resolve({ encoding, vary, body: Buffer.concat(parts) });
      });
    }).on('error', reject);
  });

describe('a shoot’s frames on their way to a window', () => {
  let arkiv: TestArkiv;
  let data: string;
  let shootId: string;
  const told: DomainEvents['frames'][] = [];

  beforeAll(async () => {
    data = dataWithCard({ until: 'OCK_9972' });
    arkiv = await startArkiv(data);
    arkiv.app.get(Happenings).on('frames', (event) => void told.push(event));
    const started = await arkiv.takeIn();
    ({ shootId } = started);
    await arkiv.rest(started.jobId);
  });
  afterAll(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  it('are told of one by one as they arrive, by their ids', async () => {
    const { id } = await arkiv.frames(shootId);
    const arrived = told.flatMap(({ ids }) => ids ?? []);
    expect([...new Set(arrived)].sort()).toEqual([...id].sort());
    expect(told.every(({ shootId: of }) => of === shootId)).toBe(true);
  });

  it('can be asked for by their ids; those of another shoot, or of none, are not among them', async () => {
    const { id, name } = await arkiv.columns(shootId);
    const some = await arkiv.get<{ count: number; columns: { id: string[]; name: unknown } }>(
      `/shoots/${shootId}/frames?only=${id![1]},${id![0]},none`,
    );
    expect(some.count).toBe(2);
    expect(some.columns.id).toEqual([id![0], id![1]]);
    expect(some.columns.name).toEqual([name![0], name![1]]);
    const none = await arkiv.get<{ count: number }>(`/shoots/${shootId}/frames?only=none`);
    expect(none.count).toBe(0);
  });

  it('are asked for with the others when there are more than an address holds', async () => {
    const many = Array.from({ length: 201 }, (_, i) => `f${i}`).join(',');
    const { status, body } = await arkiv.ask('GET', `/shoots/${shootId}/frames?only=${many}`);
    expect(status).toBe(400);
    expect((body as { code: string }).code).toBe('request.invalid');
  });

  it('are gzipped for whoever takes that, and plain for whoever does not: the same text', async () => {
    const where = `${arkiv.base}/api/shoots/${shootId}/frames`;
    const packed = await raw(where, 'gzip, deflate');
    const plain = await raw(where, 'identity');
    expect([packed.encoding, plain.encoding]).toEqual(['gzip', undefined]);
    expect(packed.vary).toMatch(/accept-encoding/i);
    expect(gunzipSync(packed.body).toString()).toBe(plain.body.toString());
    expect(packed.body.length).toBeLessThan(plain.body.length);
  });

  it('have as many values in each column as there are frames, in order of time', async () => {
    const { columns, count } = await arkiv.get<{ columns: Record<string, unknown[]>; count: number }>(
      `/shoots/${shootId}/frames`,
    );
    expect(count).toBe(5);
    for (const [name, column] of Object.entries(columns))
      expect([name, column.length]).toEqual([name, count]);
    const instants = columns.instant as number[];
    expect(instants).toEqual([...instants].sort((a, b) => a - b));
    expect(columns.label).toEqual(Array(count).fill(null));
  });
});

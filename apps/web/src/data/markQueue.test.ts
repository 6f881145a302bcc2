import type { MarkOperation } from '@arkiv/core';
import { MarkQueue } from './markQueue';

const operation = (id: string): MarkOperation => ({
  id,
  frameId: 'f',
  field: 'stars',
  from: 0,
  to: 1,
  at: 1,
  group: id,
  window: 'w',
});
const ids = (list: readonly MarkOperation[]) => list.map((o) => o.id);

class MemoryStorage {
  values = new Map<string, string>();
  getItem = (key: string) => this.values.get(key) ?? null;
  setItem = (key: string, value: string) => void this.values.set(key, value);
  removeItem = (key: string) => void this.values.delete(key);
}

/** A queue whose archive is known. */
function owned(...given: ConstructorParameters<typeof MarkQueue>): MarkQueue {
  const queue = new MarkQueue(...given);
  queue.belongsTo('A');
  return queue;
}

describe('marks on their way to the server', () => {
  beforeEach(() => jest.useFakeTimers());
  afterEach(() => jest.useRealTimers());

  it('go out in order, and are kept until the server has them', async () => {
    const storage = new MemoryStorage();
    const sent: string[] = [];
    let release: () => void = () => undefined;
    const queue = owned(storage, async (operations) => {
      sent.push(...ids(operations));
      await new Promise<void>((resolve) => (release = resolve));
      return { applied: operations.length, unknown: [] };
    });
    queue.add([operation('a')]);
    queue.add([operation('b')]);
    expect(ids(queue.waiting)).toEqual(['a', 'b']);
    expect(storage.values.get('arkiv.marks.A')).toContain('"a"');
    release();
    await jest.advanceTimersByTimeAsync(1);
    release();
    await jest.advanceTimersByTimeAsync(1);
    expect(sent).toEqual(['a', 'b']);
    expect(queue.waiting).toEqual([]);
    expect([...storage.values.keys()]).toEqual(['arkiv.archive']);
  });

  it('wait while the server is away, say so, and go out when it is back', async () => {
    let away = true;
    const sent: string[] = [];
    const queue = owned(new MemoryStorage(), (operations) => {
      if (away) return Promise.reject(new Error('away'));
      sent.push(...ids(operations));
      return Promise.resolve({ applied: 1, unknown: [] });
    });
    queue.add([operation('a')]);
    await jest.advanceTimersByTimeAsync(100);
    expect(queue.snapshot()).toEqual({ waiting: 1, trouble: 'away' });
    away = false;
    await jest.advanceTimersByTimeAsync(2000);
    expect(sent).toEqual(['a']);
    expect(queue.snapshot()).toEqual({ waiting: 0, trouble: null });
  });

  it('survive the window: the next one sends them', async () => {
    const storage = new MemoryStorage();
    owned(storage, () => Promise.reject(new Error('away'))).add([operation('a'), operation('b')]);
    const sent: string[] = [];
    owned(storage, (operations) => {
      sent.push(...ids(operations));
      return Promise.resolve({ applied: 2, unknown: [] });
    });
    await jest.advanceTimersByTimeAsync(1);
    expect(sent).toEqual(['a', 'b']);
  });

  it('are there in the next window before it is known which archive is served, and go out only then', async () => {
    const storage = new MemoryStorage();
    owned(storage, () => Promise.reject(new Error('away'))).add([operation('a')]);
    const sent: string[] = [];
    const queue = new MarkQueue(storage, (operations) => {
      sent.push(...ids(operations));
      return Promise.resolve({ applied: 1, unknown: [] });
    });
    expect(ids(queue.waiting)).toEqual(['a']);
    await jest.advanceTimersByTimeAsync(10);
    expect(sent).toEqual([]);
    queue.belongsTo('A');
    await jest.advanceTimersByTimeAsync(10);
    expect(sent).toEqual(['a']);
  });

  it('begin empty when what was kept cannot be read', () => {
    const storage = new MemoryStorage();
    storage.setItem('arkiv.marks.A', '{broken');
    expect(owned(storage, () => Promise.reject(new Error('x'))).waiting).toEqual([]);
  });

  it('made before it is known whose they are wait for that, in the browser’s own store', async () => {
    const storage = new MemoryStorage();
    const sent: string[] = [];
    const send = (operations: MarkOperation[], archive: string) => {
      sent.push(...operations.map(({ id }) => `${archive} ${id}`));
      return Promise.resolve({ applied: 1, unknown: [] });
    };
    const queue = new MarkQueue(storage, send);
    queue.add([operation('a')]);
    await jest.advanceTimersByTimeAsync(10);
    expect(sent).toEqual([]);
    expect([...storage.values.keys()]).toEqual(['arkiv.marks']);
    queue.belongsTo('A');
    await jest.advanceTimersByTimeAsync(10);
    expect(sent).toEqual(['A a']);
    expect([...storage.values.keys()]).toEqual(['arkiv.archive']);
  });

  it('of one archive are never sent to another that is served at the same address', async () => {
    const storage = new MemoryStorage();
    owned(storage, () => Promise.reject(new Error('away'))).add([operation('a')]);
    const sent: string[] = [];
    const send = (operations: MarkOperation[], archive: string) => {
      sent.push(...operations.map(({ id }) => `${archive} ${id}`));
      return Promise.resolve({ applied: 1, unknown: [] });
    };
    const queue = new MarkQueue(storage, send);
    queue.belongsTo('B');
    queue.add([operation('b')]);
    await jest.advanceTimersByTimeAsync(10);
    expect(sent).toEqual(['B b']);
    // The first one's are still kept, and go out when it is back.
    queue.belongsTo('A');
    await jest.advanceTimersByTimeAsync(10);
    expect(sent).toEqual(['B b', 'A a']);
  });
});

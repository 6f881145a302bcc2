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

describe('marks on their way to the server', () => {
  beforeEach(() => jest.useFakeTimers());
  afterEach(() => jest.useRealTimers());

  it('go out in order, and are kept until the server has them', async () => {
    const storage = new MemoryStorage();
    const sent: string[] = [];
    let release: () => void = () => undefined;
    const queue = new MarkQueue(storage, async (operations) => {
      sent.push(...ids(operations));
      await new Promise<void>((resolve) => (release = resolve));
      return { applied: operations.length, unknown: [] };
    });
    queue.add([operation('a')]);
    queue.add([operation('b')]);
    expect(ids(queue.waiting)).toEqual(['a', 'b']);
    expect(storage.values.get('arkiv.marks')).toContain('"a"');
    release();
    await jest.advanceTimersByTimeAsync(1);
    release();
    await jest.advanceTimersByTimeAsync(1);
    expect(sent).toEqual(['a', 'b']);
    expect(queue.waiting).toEqual([]);
    expect(storage.values.size).toBe(0);
  });

  it('wait while the server is away, say so, and go out when it is back', async () => {
    let away = true;
    const sent: string[] = [];
    const queue = new MarkQueue(new MemoryStorage(), (operations) => {
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
    new MarkQueue(storage, () => Promise.reject(new Error('away'))).add([operation('a'), operation('b')]);
    const sent: string[] = [];
    new MarkQueue(storage, (operations) => {
      sent.push(...ids(operations));
      return Promise.resolve({ applied: 2, unknown: [] });
    });
    await jest.advanceTimersByTimeAsync(1);
    expect(sent).toEqual(['a', 'b']);
  });

  it('begin empty when what was kept cannot be read', () => {
    const storage = new MemoryStorage();
    storage.setItem('arkiv.marks', '{broken');
    expect(new MarkQueue(storage, () => Promise.reject(new Error('x'))).waiting).toEqual([]);
  });
});

/** @jest-environment node */
import 'fake-indexeddb/auto';
import { forceCloseDatabase, IDBFactory } from 'fake-indexeddb';
import { STUDIO, type MarkOperation } from '@arkiv/core';
import { ApiFailure } from './http';
import { MarkQueue, type QueueParts } from './markQueue';
import { openQueueStore, PlainStore } from './queueStore';

jest.mock('./stream', () => ({ listen: () => () => undefined, heard: () => undefined }));

const operation = (id: string, subject = 'f'): MarkOperation => ({
  ...{ id, subject, kind: 'stars', from: 0, to: 1, at: 1, group: id, window: 'w' },
  ...{ by: STUDIO, pass: null, undoes: null },
});
/** A mark as the version before kept it. */
const earlier = (id: string) => ({
  ...{ id, frameId: 'f', field: 'stars', from: 0, to: 1, at: 1, group: id, window: 'w' },
});
const ids = (list: readonly MarkOperation[]) => list.map((o) => o.id);

class MemoryStorage {
  values = new Map<string, string>();
  full = false;
  get length() {
    return this.values.size;
  }
  key = (i: number) => [...this.values.keys()][i] ?? null;
  getItem = (key: string) => this.values.get(key) ?? null;
  setItem = (key: string, value: string) => {
    if (this.full) throw new DOMException('full', 'QuotaExceededError');
    this.values.set(key, value);
  };
  removeItem = (key: string) => void this.values.delete(key);
}

/** As the browser's: one holder after another. */
class Locks {
  private last: Promise<unknown> = Promise.resolve();
  held = 0;
  most = 0;
  request = (async (_: string, work: () => Promise<unknown>) => {
    const run = this.last.then(async () => {
      this.held += 1;
      this.most = Math.max(this.most, this.held);
      try {
        return await work();
      } finally {
        this.held -= 1;
      }
    });
    this.last = run.catch(() => undefined);
    return run;
  }) as unknown as LockManager['request'];
}

/** Windows of one browser hear each other. */
class Channels {
  readonly all: { postMessage: () => void; onmessage: (() => void) | null }[] = [];
  make() {
    const channel = {
      onmessage: null as (() => void) | null,
      postMessage: () =>
        this.all.forEach((other) => other !== channel && setTimeout(() => other.onmessage?.(), 0)),
    };
    this.all.push(channel);
    return channel as unknown as QueueParts['channel'];
  }
}

const away = new ApiFailure(0, { code: 'internal', message: 'away', next: 'Start it.' });

describe('marks on their way to the server', () => {
  let storage: MemoryStorage;
  let locks: Locks;
  let channels: Channels;
  let sent: string[];
  /** what the server does with a batch */
  let server: (operations: MarkOperation[], archive: string) => string[] | Error;
  const queues: MarkQueue[] = [];

  beforeEach(() => {
    globalThis.indexedDB = new IDBFactory();
    storage = new MemoryStorage();
    locks = new Locks();
    channels = new Channels();
    sent = [];
    server = (operations, archive) => {
      sent.push(...operations.map(({ id }) => `${archive} ${id}`));
      return [];
    };
  });

  // A queue that could not send tries again for ever: in the end everything goes out.
  afterEach(async () => {
    server = () => [];
    for (const queue of queues.splice(0)) {
      queue.retry();
      for (let i = 0; i < 200 && queue.snapshot().trouble !== null; i++)
        await new Promise((resolve) => setTimeout(resolve, 5));
    }
  });

  const make = (change: Partial<QueueParts> = {}): MarkQueue => {
    const queue = new MarkQueue({
      storage,
      locks,
      open: openQueueStore,
      channel: channels.make(),
      send: (operations, archive) => {
        const answer = server(operations, archive);
        return answer instanceof Error
          ? Promise.reject(answer)
          : Promise.resolve({ applied: operations.length - answer.length, unknown: answer });
      },
      ...change,
    });
    queues.push(queue);
    return queue;
  };
  const owned = (change: Partial<QueueParts> = {}, archive = 'A'): MarkQueue => {
    const queue = make(change);
    queue.belongsTo(archive);
    return queue;
  };
  const until = async (come: () => boolean) => {
    for (let i = 0; i < 2000 && !come(); i++) await new Promise((resolve) => setTimeout(resolve, 5));
    expect(come()).toBe(true);
  };
  const inStore = async (archive = 'A') => ids(await (await openQueueStore(archive)).all());

  it('go out in order, and are kept until the server has them', async () => {
    server = () => away;
    const queue = owned();
    queue.add([operation('a')]);
    queue.add([operation('b'), operation('c')]);
    expect(ids(queue.waiting)).toEqual(['a', 'b', 'c']);
    await until(() => queue.snapshot().trouble !== null);
    expect(await inStore()).toEqual(['a', 'b', 'c']);
    server = (operations) => (sent.push(...ids(operations)), []);
    queue.retry();
    await until(() => queue.snapshot().waiting === 0);
    expect(sent).toEqual(['a', 'b', 'c']);
    expect(await inStore()).toEqual([]);
    expect([...storage.values.keys()]).toEqual(['arkiv.archive']);
  });

  it('wait while the server is away, say so, and go out by themselves when it is back', async () => {
    server = () => away;
    const queue = owned();
    queue.add([operation('a')]);
    await until(() => queue.snapshot().trouble !== null);
    expect(queue.snapshot()).toMatchObject({ waiting: 1, trouble: 'away Start it.' });
    server = () => [];
    await until(() => queue.snapshot().waiting === 0);
    expect(queue.snapshot()).toEqual({ waiting: 0, trouble: null, aside: [] });
  });

  it('survive a window that is closed in the moment of the key, before any store has answered', async () => {
    storage.setItem('arkiv.archive', 'A');
    const queue = make({ open: () => new Promise(() => undefined) });
    queue.add([operation('a'), operation('b')]);
    // That window never got further; the next one finds what it wrote down.
    const next = owned();
    await until(() => sent.length === 2 && next.snapshot().waiting === 0);
    expect(sent).toEqual(['A a', 'A b']);
    expect([...storage.values.keys()]).toEqual(['arkiv.archive']);
  });

  it('are there in the next window before it is known which archive is served, and go out only then', async () => {
    server = () => away;
    const first = owned();
    first.add([operation('a')]);
    await until(() => first.snapshot().trouble !== null);
    server = (operations) => (sent.push(...ids(operations)), []);
    const queue = make({ channel: null });
    await queue.ready();
    expect(ids(queue.waiting)).toEqual(['a']);
    queue.belongsTo('A');
    await until(() => sent.includes('a'));
  });

  it('of all windows go out one window at a time, each once', async () => {
    const [one, other] = [owned(), owned()];
    for (let i = 0; i < 20; i++) (i % 2 ? one : other).add([operation(`m${String(i).padStart(2, '0')}`)]);
    await until(() => sent.length >= 20 && one.snapshot().waiting + other.snapshot().waiting === 0);
    expect(locks.most).toBe(1);
    expect(new Set(sent).size).toBe(20);
    expect(sent).toHaveLength(20);
  });

  it('of another window are counted here while they wait', async () => {
    server = () => away;
    const [one, other] = [owned(), owned()];
    one.add([operation('a')]);
    await until(() => other.snapshot().waiting === 1);
    expect(ids(other.waiting)).toEqual(['a']);
  });

  it('go out one window at a time where the browser has no locks', async () => {
    let under = 0;
    let most = 0;
    const slow: QueueParts['send'] = async (operations) => {
      most = Math.max(most, ++under);
      await new Promise((resolve) => setTimeout(resolve, 20));
      sent.push(...ids(operations));
      under -= 1;
      return { applied: operations.length, unknown: [] };
    };
    const [one, other] = [owned({ locks: undefined, send: slow }), owned({ locks: undefined, send: slow })];
    for (let i = 0; i < 6; i++) (i % 2 ? one : other).add([operation(`m${i}`)]);
    await until(() => sent.length >= 6);
    expect(most).toBe(1);
    expect([...sent].sort()).toEqual(['m0', 'm1', 'm2', 'm3', 'm4', 'm5']);
  });

  it('that are refused go aside with the reason, and the rest goes on', async () => {
    const refused = new ApiFailure(400, {
      code: 'marks.invalid',
      message: 'stars cannot be 9.',
      next: 'Choose 0 to 5.',
    });
    server = (operations) => {
      if (operations.some(({ id }) => id === 'm3')) return refused;
      sent.push(...ids(operations));
      return [];
    };
    const queue = owned();
    queue.add(Array.from({ length: 7 }, (_, i) => operation(`m${i}`)));
    await until(() => queue.snapshot().aside.length === 1 && queue.snapshot().waiting === 0);
    expect(sent).toEqual(['m0', 'm1', 'm2', 'm4', 'm5', 'm6']);
    expect(queue.snapshot()).toMatchObject({
      trouble: null,
      aside: [{ operation: { id: 'm3' }, reason: 'stars cannot be 9. Choose 0 to 5.' }],
    });
    await queue.dropAside();
    expect(queue.snapshot().aside).toEqual([]);
  });

  it('of frames that are gone go aside as well: nothing that was marked disappears in silence', async () => {
    server = (operations) =>
      operations.filter(({ subject }) => subject === 'gone').map(({ subject }) => subject);
    const queue = owned();
    queue.add([operation('a'), operation('b', 'gone')]);
    await until(() => queue.snapshot().aside.length === 1);
    expect(queue.snapshot().aside[0]).toMatchObject({
      operation: { id: 'b' },
      reason: 'Its frame is not in this archive any more.',
    });
    expect(queue.snapshot().waiting).toBe(0);
  });

  it.each([
    [401, 'access.needed'],
    [409, 'archive.other'],
    [503, 'internal'],
  ])('are not set aside for an answer that is not about them (%s, %s)', async (status, code) => {
    server = () => new ApiFailure(status, { code: code as never, message: 'no', next: 'later' });
    const queue = owned();
    queue.add([operation('a')]);
    await until(() => queue.snapshot().trouble !== null);
    expect(queue.snapshot()).toMatchObject({ waiting: 1, aside: [] });
  });

  it('know no quota: a full plain storage loses none', async () => {
    server = () => away;
    const queue = owned();
    await queue.ready();
    storage.full = true;
    queue.add(Array.from({ length: 3000 }, (_, i) => operation(`m${i}`)));
    await until(() => queue.snapshot().trouble !== null);
    expect((await inStore()).length).toBe(3000);
  });

  it('are kept in plain storage where the browser has no database', async () => {
    server = () => away;
    const none = { open: () => Promise.reject(new Error('no database')) };
    const queue = owned(none);
    queue.add([operation('a')]);
    await until(() => queue.snapshot().trouble !== null);
    server = (operations) => (sent.push(...ids(operations)), []);
    owned(none);
    await until(() => sent.includes('a'));
  });

  it('are sent again where a connection hangs, and hold up no other window', async () => {
    let asked = 0;
    const hangs: QueueParts['send'] = (operations, _, until) => {
      asked += 1;
      if (asked > 1) return Promise.resolve({ applied: (sent.push(...ids(operations)), 1), unknown: [] });
      return new Promise((_, reject) => until.addEventListener('abort', () => reject(until.reason as Error)));
    };
    const queue = owned({ send: hangs, answer: 20 });
    queue.add([operation('a')]);
    await until(() => queue.snapshot().trouble !== null);
    expect(queue.snapshot().trouble).toBe(
      'Arkiv’s server does not answer. Nothing that was marked is lost; it is sent again.',
    );
    const other = owned();
    await until(() => queue.waiting.length === 0 && other.waiting.length === 0);
    expect(sent.map((one) => one.replace('A ', ''))).toEqual(['a']);
  });

  it('go out although the browser closes its database under them, and are kept in a new one', async () => {
    const opened: IDBDatabase[] = [];
    const { open } = IDBFactory.prototype;
    const spy = jest.spyOn(IDBFactory.prototype, 'open').mockImplementation(function (
      this: IDBFactory,
      ...asked
    ) {
      const request = open.apply(this, asked);
      request.addEventListener('success', () => opened.push(request.result));
      return request;
    });
    const queue = owned();
    await queue.ready();
    server = () => away;
    queue.add([operation('a')]);
    await until(() => queue.snapshot().trouble !== null);
    // Site data are cleared, or the browser's storage breaks: what lay there is gone with it.
    opened.splice(0).forEach((database) => forceCloseDatabase(database as never));
    globalThis.indexedDB = new IDBFactory();
    queue.add([operation('b')]);
    await until(() => opened.length > 0);
    await queue.ready();
    expect(ids(queue.waiting)).toEqual(['a', 'b']);
    await until(() => queue.snapshot().waiting === 2);
    expect(await inStore()).toEqual(['a', 'b']);
    server = (operations) => (sent.push(...ids(operations)), []);
    queue.retry();
    await until(() => queue.waiting.length === 0);
    expect(sent).toEqual(['a', 'b']);
    expect(queue.snapshot().trouble).toBeNull();
    spy.mockRestore();
  });

  it('are known at every moment, while the store is slow to say that they are in it too', async () => {
    let added = false;
    let answer: () => void = () => undefined;
    const slow = new Promise<void>((resolve) => (answer = resolve));
    class SlowStore extends PlainStore {
      override add(operations: readonly MarkOperation[]): Promise<void> {
        added ||= operations.length > 0;
        return super.add(operations);
      }
      override all(): Promise<MarkOperation[]> {
        return (added ? slow : Promise.resolve()).then(() => super.all());
      }
    }
    const queue = owned({ open: () => Promise.resolve(new SlowStore(storage, 'slow')) });
    await queue.ready();
    server = () => away;
    queue.add([operation('a')]);
    await until(() => added);
    for (let i = 0; i < 20; i++) await new Promise((resolve) => setImmediate(resolve));
    expect(ids(queue.waiting)).toEqual(['a']);
    answer();
    await until(() => queue.snapshot().trouble !== null);
    expect(ids(queue.waiting)).toEqual(['a']);
  });

  it('go out although the browser’s database does not answer, and go into it when it does at last', async () => {
    let answer: () => void = () => undefined;
    const late = new Promise<void>((resolve) => (answer = resolve));
    server = () => away;
    const queue = owned({
      open: (archive, ended) => late.then(() => openQueueStore(archive, ended)),
      patience: 5,
    });
    queue.add([operation('a')]);
    await until(() => queue.snapshot().trouble !== null);
    answer();
    await until(() => storage.getItem('arkiv.marks.A') === null);
    queue.add([operation('b')]);
    await queue.ready();
    await until(() => ids(queue.waiting).length === 2);
    server = (operations) => (sent.push(...ids(operations)), []);
    queue.retry();
    await until(() => queue.waiting.length === 0);
    expect([...new Set(sent)]).toEqual(['a', 'b']);
  });

  it('of an earlier version are taken over, and what cannot be read begins empty', async () => {
    storage.setItem('arkiv.archive', 'A');
    storage.setItem('arkiv.marks.A', JSON.stringify([earlier('a'), operation('b')]));
    // In the form of today, wherever they were kept.
    const forms: string[] = [];
    const takes = server;
    server = (operations, archive) => {
      forms.push(...operations.map(({ subject, kind, by }) => [subject, kind, by].join()));
      return takes(operations, archive);
    };
    storage.setItem('arkiv.fresh.A.X', '{broken');
    owned();
    await until(() => sent.length === 2);
    expect(sent).toEqual(['A a', 'A b']);
    expect(forms.slice(0, 2)).toEqual(['f,stars,', 'f,stars,']);
  });

  it('made before it is known whose they are wait for that, in the browser’s own store', async () => {
    const queue = make();
    queue.add([operation('a')]);
    await queue.ready();
    expect(sent).toEqual([]);
    expect([...storage.values.keys()].filter((key) => key.startsWith('arkiv.fresh..'))).toHaveLength(1);
    queue.belongsTo('A');
    await until(() => sent.length === 1 && queue.snapshot().waiting === 0);
    expect(sent).toEqual(['A a']);
    expect([...storage.values.keys()]).toEqual(['arkiv.archive']);
  });

  it('of one archive are never sent to another that is served at the same address', async () => {
    server = () => away;
    const first = owned();
    first.add([operation('a')]);
    await until(() => first.snapshot().trouble !== null);
    server = (operations, archive) => {
      sent.push(...operations.map(({ id }) => `${archive} ${id}`));
      return archive === 'A' && sent.length < 2 ? away : [];
    };
    first.belongsTo('B');
    first.add([operation('b')]);
    await until(() => sent.includes('B b'));
    expect(sent).not.toContain('B a');
    expect(await inStore('A')).toEqual(['a']);
    // The first one's are still kept, and go out when it is back.
    first.belongsTo('A');
    await until(() => sent.includes('A a'));
    expect(sent.filter((text) => text.endsWith(' b'))).toEqual(['B b']);
  });
});

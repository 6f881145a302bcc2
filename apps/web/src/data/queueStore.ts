import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import { STUDIO, type MarkField, type MarkOperation } from '@arkiv/core';

/** Operations that the server refused, with its words. */
export interface Aside {
  operation: MarkOperation;
  reason: string;
}

/** Where marks wait for the server: one store for each archive, shared by all windows of a browser. */
export interface QueueStore {
  /** oldest first */
  all(): Promise<MarkOperation[]>;
  /** behind those that are there; one that is there already is not put in again */
  add(operations: readonly MarkOperation[]): Promise<void>;
  remove(ids: readonly string[]): Promise<void>;
  asides(): Promise<Aside[]>;
  /** out of the queue and to the refused ones, in one step */
  setAside(operations: readonly MarkOperation[], reason: string): Promise<void>;
  dropAsides(): Promise<void>;
  /** Takes or keeps the right to send until a time; false while another window has it. */
  lease(owner: string, now: number, until: number): Promise<boolean>;
}

interface Schema extends DBSchema {
  marks: { key: number; value: { operation: MarkOperation; id: string }; indexes: { id: string } };
  aside: { key: string; value: Aside & { id: string } };
  lease: { key: string; value: { owner: string; until: number } };
}

const VERSION = 1;
const SENDER = 'sender';

/**
 * The browser's own database. Rejects where it has none, or refuses it (some private windows do). `ended`: the browser has closed it,
 * because its data were cleared or its storage broke; nothing more can be asked of it.
 */
export async function openQueueStore(archive: string, ended?: () => void): Promise<QueueStore> {
  const database = await openDB<Schema>(`arkiv-${archive}`, VERSION, {
    upgrade(made) {
      made.createObjectStore('marks', { autoIncrement: true }).createIndex('id', 'id', { unique: true });
      made.createObjectStore('aside', { keyPath: 'id' });
      made.createObjectStore('lease');
    },
    terminated: ended,
  });
  return new DatabaseStore(database);
}

class DatabaseStore implements QueueStore {
  constructor(private readonly database: IDBPDatabase<Schema>) {}

  async all(): Promise<MarkOperation[]> {
    return (await this.database.getAll('marks')).map(({ operation }) => asOperation(operation));
  }

  async add(operations: readonly MarkOperation[]): Promise<void> {
    // Strict: the answer comes when the operations are on the disk.
    const work = this.database.transaction('marks', 'readwrite', { durability: 'strict' });
    for (const operation of operations) {
      const there = await work.store.index('id').getKey(operation.id);
      if (there === undefined) await work.store.add({ operation, id: operation.id });
    }
    await work.done;
  }

  async remove(ids: readonly string[]): Promise<void> {
    const work = this.database.transaction('marks', 'readwrite');
    for (const id of ids) {
      const key = await work.store.index('id').getKey(id);
      if (key !== undefined) await work.store.delete(key);
    }
    await work.done;
  }

  async asides(): Promise<Aside[]> {
    return (await this.database.getAll('aside')).map(({ operation, reason }) => ({
      operation: asOperation(operation),
      reason,
    }));
  }

  async setAside(operations: readonly MarkOperation[], reason: string): Promise<void> {
    const work = this.database.transaction(['marks', 'aside'], 'readwrite');
    const marks = work.objectStore('marks');
    for (const operation of operations) {
      await work.objectStore('aside').put({ operation, reason, id: operation.id });
      const key = await marks.index('id').getKey(operation.id);
      if (key !== undefined) await marks.delete(key);
    }
    await work.done;
  }

  async dropAsides(): Promise<void> {
    await this.database.clear('aside');
  }

  async lease(owner: string, now: number, until: number): Promise<boolean> {
    const work = this.database.transaction('lease', 'readwrite');
    const held = await work.store.get(SENDER);
    const free = held === undefined || held.owner === owner || held.until <= now;
    if (free) await work.store.put({ owner, until }, SENDER);
    await work.done;
    return free;
  }
}

/** Where the browser has no database: as much as its plain storage takes, and the rest in memory. */
export class PlainStore implements QueueStore {
  private marks: MarkOperation[];
  private refused: Aside[] = [];

  constructor(
    private readonly storage: Pick<Storage, 'getItem' | 'setItem' | 'removeItem'>,
    private readonly key: string,
  ) {
    this.marks = readList(storage.getItem(key));
  }

  all(): Promise<MarkOperation[]> {
    return Promise.resolve(this.marks);
  }

  add(operations: readonly MarkOperation[]): Promise<void> {
    const there = new Set(this.marks.map(({ id }) => id));
    this.marks = [...this.marks, ...operations.filter(({ id }) => !there.has(id))];
    return this.keep();
  }

  remove(ids: readonly string[]): Promise<void> {
    const gone = new Set(ids);
    this.marks = this.marks.filter(({ id }) => !gone.has(id));
    return this.keep();
  }

  asides(): Promise<Aside[]> {
    return Promise.resolve(this.refused);
  }

  setAside(operations: readonly MarkOperation[], reason: string): Promise<void> {
    this.refused = [...this.refused, ...operations.map((operation) => ({ operation, reason }))];
    return this.remove(operations.map(({ id }) => id));
  }

  dropAsides(): Promise<void> {
    this.refused = [];
    return Promise.resolve();
  }

  lease(): Promise<boolean> {
    // Windows do not see each other's marks here: each sends its own.
    return Promise.resolve(true);
  }

  private keep(): Promise<void> {
    try {
      if (this.marks.length === 0) this.storage.removeItem(this.key);
      else this.storage.setItem(this.key, JSON.stringify(this.marks));
    } catch {
      // The storage is full: this window still has them.
    }
    return Promise.resolve();
  }
}

/** A mark as earlier versions kept it. */
interface EarlierMark extends Pick<MarkOperation, 'id' | 'from' | 'to' | 'at' | 'group' | 'window'> {
  frameId: string;
  field: MarkField;
}
type Kept = MarkOperation | EarlierMark;

/** What an earlier version left in the browser goes out in the form of today. */
function asOperation(kept: Kept): MarkOperation {
  if (!('frameId' in kept)) return kept;
  const { frameId: subject, field: kind, ...its } = kept;
  return { ...its, subject, kind, by: STUDIO, pass: null, undoes: null };
}

export function readList(text: string | null): MarkOperation[] {
  try {
    const kept: unknown = JSON.parse(text ?? '[]');
    return Array.isArray(kept) ? (kept as Kept[]).map(asOperation) : [];
  } catch {
    return [];
  }
}

import type { MarkOperation } from '@arkiv/core';
import { ulid } from 'ulid';
import { ApiFailure, postUntil, type Api } from './http';
import { openQueueStore, PlainStore, readList, type Aside, type QueueStore } from './queueStore';

/** Marks of earlier versions, by archive; those that had no archive yet. */
const EARLIER = 'arkiv.marks';
/** Which archive was served here last. */
const OWNER = 'arkiv.archive';
/** Marks of one window on their way into the store: written at once, before anything else, and gone when they are in it. */
const FRESH = 'arkiv.fresh';
/** As many as the server takes at once. */
const BATCH = 2000;
/** Milliseconds until the next try when the server cannot be reached; doubled up to the second figure. */
const RETRY = [500, 8000] as const;
/** Milliseconds for which a window has the right to send where the browser has no locks; a batch takes well under one. */
const LEASE = 10_000;
/**
 * Milliseconds after which a batch is sent again: the largest takes half a second, ten times that on a busy machine. A connection that hangs
 * would hold up the marks of all windows for minutes. What has arrived after all is known by its ids.
 */
const ANSWER = 20_000;
/** Milliseconds in which the browser's database opens where it opens at all: it takes tens of them, a second on a busy machine. */
const PATIENCE = 5_000;
/** What the server says of a whole batch that is not its own: nothing of it is refused, it waits for its archive. */
const NOT_THEIRS = ['archive.other', 'access.needed', 'request.foreign'];

export interface QueueState {
  waiting: number;
  /** why nothing goes out, or null */
  trouble: string | null;
  /** what the server refused, with its reasons */
  aside: readonly Aside[];
}

type Stored = Pick<Storage, 'getItem' | 'setItem' | 'removeItem' | 'key' | 'length'>;

export interface QueueParts {
  storage: Stored;
  /** `ended`: the store is closed by the browser, and takes nothing more */
  open: (archive: string, ended: () => void) => Promise<QueueStore>;
  /** milliseconds after which marks do without the store until it answers, and after which a batch is sent again */
  patience?: number;
  answer?: number;
  send: (operations: MarkOperation[], archive: string, until: AbortSignal) => Promise<Api['AppliedMarksDto']>;
  /** the browser's locks; undefined where it has none, as over plain HTTP beyond loopback */
  locks: Pick<LockManager, 'request'> | undefined;
  /** tells the other windows that the store has changed, and hears it from them */
  channel: Pick<BroadcastChannel, 'postMessage' | 'onmessage'> | null;
}

/** What a browser has of them. */
export const browserParts = (): QueueParts => ({
  storage: window.localStorage,
  open: openQueueStore,
  send: (operations, archive, until) => postUntil(until, '/marks', { operations, archive }),
  locks: navigator.locks,
  channel: typeof BroadcastChannel === 'undefined' ? null : new BroadcastChannel('arkiv.marks'),
});

/**
 * Marks on their way to the server, in order, shared by all windows of a browser. Each is kept in the browser until the
 * server has said that it is durable: closing the window or losing the server loses nothing. What the server refuses goes
 * aside with its reason, and the rest goes on.
 */
export class MarkQueue {
  private readonly window = ulid();
  /** of this window, not yet in the store */
  private fresh: MarkOperation[] = [];
  /** in the store, of all windows */
  private stored: readonly MarkOperation[] = [];
  private aside: readonly Aside[] = [];
  private store: QueueStore | null = null;
  /** the archive that the marks are kept for: the one that was served here last, till it is known which one is */
  private owner: string | null;
  /** the archive that is served here; null: not known yet, and nothing goes out */
  private archive: string | null = null;
  private sending = false;
  private timer: ReturnType<typeof setTimeout> | null = null;
  private wait: number = RETRY[0];
  private trouble: string | null = null;
  private opening: Promise<void>;
  private storing: Promise<void> = Promise.resolve();
  private readonly listeners = new Set<() => void>();
  private state: QueueState = { waiting: 0, trouble: null, aside: [] };

  constructor(private readonly parts: QueueParts) {
    this.owner = this.parts.storage.getItem(OWNER);
    if (this.parts.channel) this.parts.channel.onmessage = () => void this.reload().then(() => this.flush());
    this.opening = this.attach();
  }

  /**
   * Says which archive is served here; from then on marks go out. Two archives may be served at one address, one after
   * the other: neither gets the other's marks.
   */
  belongsTo(archive: string): void {
    if (this.archive === archive) return;
    this.archive = archive;
    if (this.owner !== archive) {
      // Those of the archive that was served here before stay kept for it; those of nobody yet are this one's.
      const nobodys = this.owner === null ? this.fresh : [];
      if (this.owner !== null) this.fresh = [];
      const earlier = this.freshKey;
      this.owner = archive;
      // Until its own store is open there is none: the other archive's marks are not this one's.
      this.store = null;
      this.stored = [];
      this.aside = [];
      this.storage.setItem(OWNER, archive);
      this.fresh = nobodys;
      this.keepFresh();
      if (nobodys.length > 0) this.storage.removeItem(earlier);
      this.opening = this.opening.then(() => this.attach());
    }
    void this.opening.then(() => this.flush());
  }

  /** Returns when what earlier windows left is known: then {@link waiting} is whole. */
  ready(): Promise<void> {
    return this.opening;
  }

  /** Operations not yet known to be durable, oldest first. */
  get waiting(): readonly MarkOperation[] {
    if (this.fresh.length === 0) return this.stored;
    const there = new Set(this.stored.map(({ id }) => id));
    return [...this.stored, ...this.fresh.filter(({ id }) => !there.has(id))];
  }

  add(operations: readonly MarkOperation[]): void {
    if (operations.length === 0) return;
    this.fresh = [...this.fresh, ...operations];
    this.keepFresh();
    this.say();
    this.settle();
  }

  /** Tries at once, instead of when the next try is due. */
  retry(): void {
    this.wait = RETRY[0];
    void this.flush();
  }

  /** Lets go of what the server refused. */
  async dropAside(): Promise<void> {
    await this.store?.dropAsides();
    await this.changed();
  }

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  snapshot = (): QueueState => this.state;

  private get storage(): Stored {
    return this.parts.storage;
  }

  private get freshKey(): string {
    return `${FRESH}.${this.owner ?? ''}.${this.window}`;
  }

  /** Opens the owner's store, and brings in what earlier windows and versions left beside it. */
  private async attach(): Promise<void> {
    const { owner } = this;
    const lost = this.lost(owner ?? '');
    if (owner === null) {
      this.fresh = [...this.read([...lost, EARLIER]), ...this.fresh];
      this.keepFresh();
      this.forget([...lost, EARLIER]);
      return this.say();
    }
    const plain = `${EARLIER}.${owner}`;
    let store: QueueStore;
    try {
      store = await this.openInTime(owner);
      await store.add(this.read([plain, ...lost]));
      this.forget([plain, ...lost]);
    } catch {
      store = new PlainStore(this.storage, plain);
      await store.add(this.read(lost));
      this.forget(lost);
    }
    if (this.owner !== owner) return;
    this.store = store;
    await this.reload();
    this.settle();
  }

  /** The store; rejects where it does not answer for long, and is opened once more when it has. */
  private async openInTime(owner: string): Promise<QueueStore> {
    const opened = this.parts.open(owner, () => this.openAnew());
    let waited: ReturnType<typeof setTimeout> | undefined;
    const late = new Promise<never>((_, reject) => {
      waited = setTimeout(() => {
        reject(new Error('The browser’s database does not answer.'));
        opened.then(
          () => this.openAnew(),
          () => undefined,
        );
      }, this.parts.patience ?? PATIENCE);
    });
    return Promise.race([opened, late]).finally(() => clearTimeout(waited));
  }

  /** Goes on with a store that is opened now; what this window knows of the one before goes into it. */
  private openAnew(): void {
    this.fresh = [...this.waiting];
    this.stored = [];
    this.store = null;
    this.keepFresh();
    this.opening = this.opening.then(() => this.attach());
    void this.opening.then(() => this.flush());
  }

  /** Where windows that are gone wrote down what they did not bring into an archive's store, the oldest window first. */
  private lost(owner: string): string[] {
    const keys = Array.from({ length: this.storage.length }, (_, i) => this.storage.key(i) ?? '');
    return keys.filter((key) => key.startsWith(`${FRESH}.${owner}.`) && key !== this.freshKey).sort();
  }

  private read(keys: readonly string[]): MarkOperation[] {
    return keys.flatMap((key) => readList(this.storage.getItem(key)));
  }

  private forget(keys: readonly string[]): void {
    keys.forEach((key) => this.storage.removeItem(key));
  }

  private keepFresh(): void {
    try {
      if (this.fresh.length === 0) this.storage.removeItem(this.freshKey);
      else this.storage.setItem(this.freshKey, JSON.stringify(this.fresh));
    } catch {
      // The plain storage is full: the store proper takes them in a moment.
    }
  }

  /** Brings this window's fresh marks into the store, in order, and sends. */
  private settle(): void {
    this.storing = this.storing.then(async () => {
      const { store, owner } = this;
      const batch = this.fresh;
      if (!store || batch.length === 0) return;
      try {
        await store.add(batch);
      } catch (error) {
        this.trouble = `The browser cannot keep more marks: ${(error as Error).message}`;
        return this.say();
      }
      if (this.owner !== owner) return;
      // Until the store has said that they are there this window knows them: at no moment nobody does.
      await this.changed();
      // Another store, or another archive's: what is this window's goes into that one.
      if (this.store !== store) return;
      const gone = new Set(batch.map(({ id }) => id));
      this.fresh = this.fresh.filter(({ id }) => !gone.has(id));
      this.keepFresh();
      void this.flush();
    });
  }

  private async changed(): Promise<void> {
    await this.reload();
    this.parts.channel?.postMessage('changed');
  }

  private async reload(): Promise<void> {
    const { store } = this;
    if (!store) return;
    const [stored, aside] = [await store.all(), await store.asides()];
    if (this.store !== store) return;
    this.stored = stored;
    // The same while there are none: whoever shows them has nothing to draw anew.
    if (aside.length > 0 || this.aside.length > 0) this.aside = aside;
    this.say();
  }

  private async flush(): Promise<void> {
    const { archive, store } = this;
    if (this.sending || archive === null || archive !== this.owner || !store || this.stored.length === 0)
      return;
    this.sending = true;
    if (this.timer) clearTimeout(this.timer);
    let later = false;
    try {
      await this.alone(store, () => this.sendAll(store, archive));
      this.wait = RETRY[0];
      this.trouble = null;
    } catch (error) {
      this.trouble =
        error instanceof ApiFailure ? `${error.body.message} ${error.body.next}` : (error as Error).message;
      later = true;
    }
    this.sending = false;
    await this.reload();
    if (later || this.stored.length > 0) {
      this.timer = setTimeout(() => void this.flush(), this.wait);
      this.wait = Math.min(this.wait * 2, RETRY[1]);
    } else this.say();
  }

  /** One window at a time sends, so that marks arrive in their order. */
  private async alone(store: QueueStore, work: () => Promise<void>): Promise<void> {
    const { locks } = this.parts;
    if (locks) return locks.request(`arkiv.send.${this.owner}`, work);
    if (await store.lease(this.window, Date.now(), Date.now() + LEASE)) await work();
  }

  private async sendAll(store: QueueStore, archive: string): Promise<void> {
    for (;;) {
      const batch = (await store.all()).slice(0, BATCH);
      if (batch.length === 0 || this.archive !== archive) return;
      if (!this.parts.locks && !(await store.lease(this.window, Date.now(), Date.now() + LEASE))) return;
      await this.sendSome(store, batch, archive);
      await this.changed();
    }
  }

  /** Sends a batch; where it is refused, its halves: what is wrong with one operation is its own. */
  private async sendSome(store: QueueStore, batch: MarkOperation[], archive: string): Promise<void> {
    const until = AbortSignal.timeout(this.parts.answer ?? ANSWER);
    try {
      const { unknown } = await this.parts.send(batch, archive, until);
      this.trouble = null;
      const gone = new Set(unknown);
      const lost = batch.filter(({ subject }) => gone.has(subject));
      if (lost.length > 0) await store.setAside(lost, 'Its frame is not in this archive any more.');
      await store.remove(batch.map(({ id }) => id));
    } catch (error) {
      if (until.aborted)
        throw new ApiFailure(0, {
          code: 'internal',
          message: 'Arkiv’s server does not answer.',
          next: 'Nothing that was marked is lost; it is sent again.',
        });
      const refused =
        error instanceof ApiFailure &&
        error.status >= 400 &&
        error.status < 500 &&
        !NOT_THEIRS.includes(error.body.code);
      if (!refused) throw error;
      if (batch.length === 1) return store.setAside(batch, `${error.body.message} ${error.body.next}`);
      const middle = batch.length >> 1;
      await this.sendSome(store, batch.slice(0, middle), archive);
      await this.sendSome(store, batch.slice(middle), archive);
    }
  }

  private say(): void {
    this.state = { waiting: this.waiting.length, trouble: this.trouble, aside: this.aside };
    this.listeners.forEach((listener) => listener());
  }
}

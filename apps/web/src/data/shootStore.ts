import {
  applyMark,
  History,
  invertGroup,
  markFrames,
  STUDIO,
  type Group,
  type MarkField,
  type MarkOperation,
  type MarkValue,
  type Marks,
} from '@arkiv/core';
import { ulid } from 'ulid';
import { framesOf, marksOfFrame, type LoadedFrame } from './frames';
import { get, post, type Api } from './http';
import { keepPlaces, keptPlaces, type Place } from './keptPlaces';
import { browserParts, MarkQueue } from './markQueue';
import { listen } from './stream';

/** This window, in the journal of marks; a window that was made from another one is one of its own. */
const WINDOW = ulid();
export const markQueue = new MarkQueue(browserParts());

export interface ShootState {
  frames: readonly LoadedFrame[];
  byId: ReadonlyMap<string, LoadedFrame>;
  loaded: boolean;
  failure: Error | null;
  /** counts the loadings: the order of frames changes only with one */
  loads: number;
  canUndo: boolean;
  canRedo: boolean;
}

const EMPTY: ShootState = {
  frames: [],
  byId: new Map(),
  loaded: false,
  failure: null,
  loads: 0,
  canUndo: false,
  canRedo: false,
};

/** Times of a loading's own length that pass between two: ten thousand frames take half a second, so five seconds. */
const LOAD_SHARE = 9;

/** Ids of told operations that are remembered: more than any window has on its way at once (a whole shoot, marked). */
const HEARD = 20_000;

/** What an undo or redo did. */
export interface Step {
  /** frames that it changed */
  ids: string[];
  /** marks that somebody changed since: they stayed */
  skipped: number;
  /** of the changed frames those that are in another shoot by now */
  elsewhere: number;
  /** where the marks had been made */
  place: Place | null;
}

/**
 * One shoot in this window: its frames, loaded whole, its marks, shown at once, and their history. What the server says
 * comes in the journal's order and is the ground; the marks of this browser that it has not said yet lie over it. So
 * every window ends with what the journal ends with, whatever came in between.
 */
export class ShootStore {
  private state: ShootState = EMPTY;
  private history = new History<MarkOperation>(STUDIO);
  /** what the history is made of, in the journal's order as far as it is known here */
  private decided: MarkOperation[] = [];
  /** number before which the journal has more; undefined: it was not asked yet; null: all of it is here */
  private before: number | null | undefined = undefined;
  private readingBack: Promise<void> | null = null;
  /** where each group of the history was made in this window, by the group's id */
  private readonly places: Map<string, Place>;
  /** each frame's marks by the server's word */
  private readonly ground = new Map<string, Marks>();
  /** what lies over them, by operation: on its way, or with the server and not heard of yet */
  private over = new Map<string, MarkOperation>();
  /** operations that the server told of while they were still in the queue */
  private heard = new Set<string>();
  private readonly listeners = new Set<() => void>();
  private loading: Promise<void> | null = null;
  private stepping: Promise<unknown> = Promise.resolve();
  private again = false;
  /** a loading is to come for frames that arrived */
  private soon = false;
  /** when the last loading ended, and how long it took */
  private loadedAt = 0;
  private loadMillis = 0;
  /** what the server told of while a loading was under way: the answer may be older */
  private meanwhile: MarkOperation[] = [];

  constructor(private readonly shootId: string) {
    this.places = keptPlaces(shootId);
    window.addEventListener('pagehide', () => keepPlaces(shootId, this.places));
    listen<{ shootId: string; operations: MarkOperation[] }>('marks', ({ shootId: id, operations }) => {
      if (id === this.shootId) this.told(operations);
    });
    listen<{ shootId: string }>('frames', ({ shootId: id }) => {
      if (id === this.shootId) this.loadSoon();
    });
    listen('reset', () => void this.load());
    markQueue.subscribe(() => this.queueChanged());
    void this.load();
  }

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  snapshot = (): ShootState => this.state;

  /** Sets a mark on frames, as one step of the history, made at a place. Returns the operations made. */
  mark(
    ids: readonly string[],
    field: MarkField,
    to: MarkValue,
    place: Place | null = null,
  ): readonly MarkOperation[] {
    const frames = ids.flatMap((id) => {
      const frame = this.state.byId.get(id);
      return frame ? [{ id, marks: marksOfFrame(frame) }] : [];
    });
    const operations = markFrames(frames, field, to, this.stamp());
    this.madeAt(operations, place);
    this.commit(operations);
    return operations;
  }

  /** Takes the last step back, in whatever window it was made; null: there is none. Rejects when the server is needed. */
  undo(): Promise<Step | null> {
    return this.step(() => this.history.lastDone);
  }

  redo(): Promise<Step | null> {
    return this.step(() => this.history.lastUndone);
  }

  /** One step after the other: the next begins where the last one left the history. */
  private step(last: () => Group<MarkOperation> | null): Promise<Step | null> {
    const work = this.stepping.then(async () => {
      // The oldest group that is known may have begun before: it is taken back whole.
      const isWhole = (group: Group<MarkOperation> | null) =>
        this.before === null || (group !== null && group.id !== this.decided[0]?.group);
      while (!isWhole(last()) && (last() === null || this.before !== undefined)) await this.readBack();
      const group = last();
      if (!group) return null;
      const elsewhere = await this.elsewhere(group.operations);
      const { operations, skipped } = this.invert(group.operations, elsewhere);
      const place = this.places.get(group.id) ?? null;
      if (operations.length === 0) this.history.giveUp(group.id);
      this.madeAt(operations, place);
      this.commit(operations);
      const ids = operations.map((o) => o.subject);
      return { ids, skipped, elsewhere: ids.filter((id) => elsewhere.has(id)).length, place };
    });
    this.stepping = work.catch(() => undefined);
    return work;
  }

  /** Reads one page of the journal before what is known of it. */
  private readBack(): Promise<void> {
    this.readingBack ??= this.fetchBack().finally(() => (this.readingBack = null));
    return this.readingBack;
  }

  private async fetchBack(): Promise<void> {
    const from = this.before === undefined ? '' : `?before=${this.before}`;
    const page = await get<Api['HistoryDto']>(`/shoots/${this.shootId}/history${from}`);
    const there = new Set(page.operations.map(({ id }) => id));
    const since = this.decided.filter(({ id }) => !there.has(id));
    this.decided = [];
    this.history = new History(STUDIO);
    this.before = page.before;
    this.take([...(page.operations as MarkOperation[]), ...since]);
    this.set({});
  }

  /** What earlier windows of this browser left in the queue comes after what the journal has. */
  private takeWaiting(): void {
    this.take(markQueue.waiting.filter(({ subject }) => this.state.byId.has(subject)));
    this.set({});
  }

  private take(operations: readonly MarkOperation[]): void {
    this.decided.push(...this.history.take(operations));
  }

  /** The marks of frames that were marked here and are in another shoot now: moving changed none of them. */
  private async elsewhere(operations: readonly MarkOperation[]): Promise<ReadonlyMap<string, Marks>> {
    const ids = [...new Set(operations.map((o) => o.subject))].filter((id) => !this.state.byId.has(id));
    if (ids.length === 0) return new Map();
    const { frames } = await post<Api['MarksNowDto']>('/marks/now', { frameIds: ids });
    return new Map(frames.map((frame) => [frame.id, marksOfFrame(frame as Marks)]));
  }

  private madeAt(operations: readonly MarkOperation[], place: Place | null): void {
    const group = operations[0]?.group;
    if (group !== undefined && place) this.places.set(group, place);
  }

  private invert(group: readonly MarkOperation[], elsewhere: ReadonlyMap<string, Marks>) {
    const current = (id: string, kind: MarkField) => {
      const frame = this.state.byId.get(id);
      return (frame ? marksOfFrame(frame) : elsewhere.get(id))?.[kind];
    };
    return invertGroup(group, current, this.stamp());
  }

  private stamp() {
    return { newId: () => ulid(), at: Date.now(), window: WINDOW };
  }

  /** On screen first, then into the queue. */
  private commit(operations: readonly MarkOperation[]): void {
    for (const operation of operations) this.over.set(operation.id, operation);
    this.take(operations);
    this.show(operations);
    markQueue.add(operations);
  }

  /** The server tells of marks, this window's own among them, in the order in which they count. */
  private told(operations: readonly MarkOperation[]): void {
    if (this.loading) this.meanwhile.push(...operations);
    this.take(operations);
    this.onGround(operations);
    this.show(operations);
  }

  private onGround(operations: readonly MarkOperation[]): void {
    const waiting = new Set(markQueue.waiting.map(({ id }) => id));
    for (const operation of operations) {
      const marks = this.ground.get(operation.subject);
      if (marks) this.ground.set(operation.subject, applyMark(marks, operation));
      this.over.delete(operation.id);
      this.heard.add(operation.id);
      // What the server has answered for lies under what it says now, even if it never told of it (sent twice).
      for (const [id, { subject, kind }] of this.over)
        if (subject === operation.subject && kind === operation.kind && !waiting.has(id))
          this.over.delete(id);
    }
    for (const id of this.heard) {
      if (this.heard.size <= HEARD) break;
      this.heard.delete(id);
    }
  }

  /** The queue of all this browser's windows: what is new in it lies over, what was refused does no longer. */
  private queueChanged(): void {
    const { waiting } = markQueue;
    const touched = waiting.filter(({ id }) => !this.over.has(id) && !this.heard.has(id));
    for (const operation of touched) this.over.set(operation.id, operation);
    for (const { operation } of markQueue.snapshot().aside)
      if (this.over.delete(operation.id)) touched.push(operation);
    this.show(touched);
  }

  /** Draws the frames of some operations anew, from the ground and what lies over it. */
  private show(touched: readonly MarkOperation[]): void {
    const ids = new Set(touched.map(({ subject }) => subject).filter((id) => this.state.byId.has(id)));
    if (ids.size === 0) return;
    const marks = new Map([...ids].map((id) => [id, this.ground.get(id)!]));
    for (const operation of this.over.values()) {
      const before = marks.get(operation.subject);
      if (before) marks.set(operation.subject, applyMark(before, operation));
    }
    this.set({ frames: this.state.frames.map((f) => (ids.has(f.id) ? { ...f, ...marks.get(f.id)! } : f)) });
  }

  /** Frames that arrive while a card is copied come many a second: a whole shoot is loaded a tenth of the time at most. */
  private loadSoon(): void {
    if (this.soon) return;
    this.soon = true;
    void (this.loading ?? Promise.resolve()).then(() => {
      const rest = this.loadedAt + LOAD_SHARE * this.loadMillis - Date.now();
      setTimeout(
        () => {
          this.soon = false;
          void this.load();
        },
        Math.max(0, rest),
      );
    });
  }

  private load(): Promise<void> {
    if (this.loading) {
      this.again = true;
      return this.loading;
    }
    this.loading = this.fetchFrames().finally(() => {
      this.loading = null;
      if (this.again) {
        this.again = false;
        void this.load();
      }
    });
    return this.loading;
  }

  private async fetchFrames(): Promise<void> {
    this.meanwhile = [];
    const begun = Date.now();
    // What left the queue before the question was asked is in the answer.
    const waiting = new Set(markQueue.waiting.map(({ id }) => id));
    const answered = [...this.over.keys()].filter((id) => !waiting.has(id));
    try {
      const frames = framesOf(await get<Api['FrameColumnsDto']>(`/shoots/${this.shootId}/frames`));
      await markQueue.ready();
      this.ground.clear();
      for (const frame of frames) this.ground.set(frame.id, marksOfFrame(frame));
      for (const id of answered) this.over.delete(id);
      for (const operation of markQueue.waiting)
        if (!this.heard.has(operation.id)) this.over.set(operation.id, operation);
      this.set({ frames, loaded: true, failure: null, loads: this.state.loads + 1 });
      // What was decided before, so that it can be taken back; when the server is away, it is asked with the key.
      if (this.before === undefined)
        this.readBack().then(
          () => this.takeWaiting(),
          () => undefined,
        );
      const meanwhile = this.meanwhile.splice(0);
      this.onGround(meanwhile);
      this.show([...meanwhile, ...this.over.values()]);
    } catch (error) {
      this.set({ failure: error as Error });
    }
    this.loadedAt = Date.now();
    this.loadMillis = this.loadedAt - begun;
  }

  private set(change: Partial<ShootState>): void {
    const next = {
      ...this.state,
      ...change,
      canUndo: this.history.lastDone !== null || typeof this.before === 'number',
      canRedo: this.history.lastUndone !== null,
    };
    this.state = change.frames ? { ...next, byId: new Map(change.frames.map((f) => [f.id, f])) } : next;
    this.listeners.forEach((listener) => listener());
  }
}

const stores = new Map<string, ShootStore>();

/** The store of a shoot; it lives as long as the window, so undo reaches back across screens. */
export function shootStore(id: string): ShootStore {
  const store = stores.get(id) ?? new ShootStore(id);
  stores.set(id, store);
  return store;
}

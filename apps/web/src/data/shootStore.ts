import {
  applyMark,
  AWAY,
  invertGroup,
  markEach,
  measuredFacts,
  markOf,
  marksIn,
  type MarkKind,
  type MarkOperation,
  type MarkValue,
  type Marks,
} from '@arkiv/core';
import { ulid } from 'ulid';
import { FrameOrder, withArrived } from './frameOrder';
import { finishFacts, type LoadedFrame } from './frames';
import { post } from './http';
import type { Place } from './keptPlaces';
import { sourceOf, type FrameSource } from './frameSource';
import { browserParts, MarkQueue } from './markQueue';
import { OverMarks } from './overMarks';
import { ShootHistory } from './shootHistory';
import { listen } from './stream';

/** This window, in the journal of marks; a window that was made from another one is one of its own. */
const WINDOW = ulid();
export const markQueue = new MarkQueue(browserParts());

export interface ShootState {
  /** in the shoot's order; a mark puts another frame in the same place */
  frames: readonly LoadedFrame[];
  /** another one whenever frames came, went or moved */
  order: FrameOrder;
  byId: { get(id: string): LoadedFrame | undefined; has(id: string): boolean };
  /** counts what changed the frames */
  version: number;
  /** counts what was found out of frames that are here */
  measured: number;
  /** places of the frames that marks changed since a version; null: too long ago, or the order has changed since */
  changedSince(version: number): readonly number[] | null;
  loaded: boolean;
  failure: Error | null;
  canUndo: boolean;
  canRedo: boolean;
}

const NOTHING = new FrameOrder([]);
const EMPTY: ShootState = {
  frames: [],
  order: NOTHING,
  byId: { get: () => undefined, has: () => false },
  version: 0,
  measured: 0,
  changedSince: () => null,
  loaded: false,
  failure: null,
  canUndo: false,
  canRedo: false,
};

/** Changes that are remembered by their places: more than can come between two drawings of a screen. */
const REMEMBERED = 200;

/** Frames asked for by their ids at once; more than so many are cheaper asked for with all the others. */
const ASKED_FOR = 200;

/** Times of a loading's own length that pass between two: ten thousand frames take half a second, so five seconds. */
const LOAD_SHARE = 9;
/**
 * Milliseconds that pass at most: a busy server answers slowly, and frames that are here must not be looked for. Some
 * frames cost it nothing, a whole shoot does.
 */
const LONGEST = { some: 500, all: 5000 } as const;

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
  private readonly history: ShootHistory;
  /** each frame's marks by the server's word */
  private readonly ground = new Map<string, Marks>();
  /** what lies over them, by operation: on its way, or with the server and not heard of yet */
  private readonly over = new OverMarks();
  /** operations that the server told of while they were still in the queue */
  private heard = new Set<string>();
  private readonly listeners = new Set<() => void>();
  private loading: Promise<void> | null = null;
  private stepping: Promise<unknown> = Promise.resolve();
  private again = false;
  /** a loading is to come for frames that arrived */
  private soon = false;
  /** frames that came or changed since the last loading; null: more than are named one by one */
  private arriving: Set<string> | null = new Set();
  /** places of frames that marks changed, by version; none before the last change of the order */
  private changes: { version: number; places: readonly number[] }[] = [];
  private orderedAt = 0;
  private readonly stops: (() => void)[];
  /** when the last loading ended, and how long it took */
  private loadedAt = 0;
  private loadMillis = 0;
  /** what the server told of while a loading was under way: the answer may be older */
  private meanwhile: MarkOperation[] = [];

  /** ids of frames whose pictures lie on drives that are away */
  private away: ReadonlySet<string> = new Set();

  /** the pass in which marks are made; null: none */
  pass: string | null = null;

  constructor(private readonly source: FrameSource) {
    this.history = new ShootHistory(source, () => this.set({}));
    const { keep } = this.history;
    window.addEventListener('pagehide', keep);
    this.stops = [
      () => window.removeEventListener('pagehide', keep),
      listen<{ shootId: string; operations: MarkOperation[] }>('marks', ({ shootId: id, operations }) => {
        if (source.concerns(id)) this.told(operations);
      }),
      listen<{ shootId: string; ids?: string[] | null }>('frames', ({ shootId: id, ids }) => {
        if (source.concerns(id)) this.arrived(ids ?? null);
      }),
      listen<{ shootId: string; measures: [string, string][] }>('measured', ({ shootId: id, measures }) => {
        if (source.concerns(id))
          this.learn(measures.map(([of, its]) => [of, { measures: its, ...measuredFacts(its) }]));
      }),
      listen<{ shootId: string; frames: [string, number | null, number | null, number | null][] }>(
        'compared',
        ({ shootId: id, frames }) => {
          if (source.concerns(id)) this.learn(frames.map(([of, close, dx, dy]) => [of, { close, dx, dy }]));
        },
      ),
      listen('volumes', () => void this.askAway()),
      listen('reset', () => void this.load()),
      markQueue.subscribe(() => this.queueChanged()),
    ];
    void this.load();
  }

  /** Hears nothing more. What was marked stands in the queue or in the journal; another store of the shoot begins there. */
  end(): void {
    this.history.keep();
    for (const stop of this.stops.splice(0)) stop();
  }

  /** Whether any part of a screen looks at it. */
  get isUsed(): boolean {
    return this.listeners.size > 0;
  }

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  snapshot = (): ShootState => this.state;

  /** Sets a mark on frames, as one step of the history, made at a place. Returns the operations made. */
  mark(
    ids: readonly string[],
    field: MarkKind,
    to: MarkValue,
    place: Place | null = null,
  ): readonly MarkOperation[] {
    return this.markEach(
      ids.map((id) => ({ id, field, to })),
      place,
    );
  }

  /** Several marks, of several kinds, as one step of the history. */
  markEach(
    changes: readonly { id: string; field: MarkKind; to: MarkValue }[],
    place: Place | null = null,
  ): readonly MarkOperation[] {
    const known = changes.flatMap((change) => {
      const frame = this.state.byId.get(change.id);
      return frame ? [{ ...change, marks: marksIn(frame) }] : [];
    });
    const operations = markEach(known, this.stamp());
    this.history.madeAt(operations, place);
    this.commit(operations);
    return operations;
  }

  /** Takes the last step back, in whatever window it was made; null: there is none. Rejects when the server is needed. */
  undo(): Promise<Step | null> {
    return this.step('lastDone');
  }

  redo(): Promise<Step | null> {
    return this.step('lastUndone');
  }

  /** One step after the other: the next begins where the last one left the history. */
  private step(which: 'lastDone' | 'lastUndone'): Promise<Step | null> {
    const work = this.stepping.then(async () => {
      const group = await this.history.last(which);
      if (!group) return null;
      // What was decided last may be about frames that nobody sees here.
      if (!this.source.takesBack(group.operations, this.state.byId)) return null;
      const elsewhere = await this.elsewhere(group.operations);
      const { operations, skipped } = this.invert(group.operations, elsewhere);
      const place = this.history.placeOf(group.id);
      if (operations.length === 0) this.history.giveUp(group.id);
      this.history.madeAt(operations, place);
      this.commit(operations);
      const ids = operations.map((o) => o.subject);
      return { ids, skipped, elsewhere: ids.filter((id) => elsewhere.has(id)).length, place };
    });
    this.stepping = work.catch(() => undefined);
    return work;
  }

  /** What earlier windows of this browser left in the queue comes after what the journal has. */
  private takeWaiting(): void {
    this.history.take(markQueue.waiting.filter(({ subject }) => this.state.byId.has(subject)));
    this.set({});
  }

  /** The marks of frames that were marked here and are in another shoot now: moving changed none of them. */
  private async elsewhere(operations: readonly MarkOperation[]): Promise<ReadonlyMap<string, Marks>> {
    const ids = [...new Set(operations.map((o) => o.subject))].filter((id) => !this.state.byId.has(id));
    if (ids.length === 0) return new Map();
    const { frames } = await post('/marks/now', { frameIds: ids });
    return new Map(frames.map((frame) => [frame.id, marksIn(frame as Marks)]));
  }

  private invert(group: readonly MarkOperation[], elsewhere: ReadonlyMap<string, Marks>) {
    const current = (id: string, kind: MarkKind) => {
      const frame = this.state.byId.get(id);
      const marks = frame ? marksIn(frame) : elsewhere.get(id);
      return marks && markOf(marks, kind);
    };
    return invertGroup(group, current, this.stamp());
  }

  private stamp() {
    return { newId: () => ulid(), at: Date.now(), window: WINDOW, pass: this.pass };
  }

  /** On screen first, then into the queue. */
  private commit(operations: readonly MarkOperation[]): void {
    for (const operation of operations) this.over.add(operation);
    this.history.take(operations);
    this.show(operations);
    markQueue.add(operations);
  }

  /** The server tells of marks, this window's own among them, in the order in which they count. */
  private told(operations: readonly MarkOperation[]): void {
    if (this.loading) this.meanwhile.push(...operations);
    this.history.take(operations);
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
      for (const { id, kind } of this.over.of(operation.subject))
        if (kind === operation.kind && !waiting.has(id)) this.over.delete(id);
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
    for (const operation of touched) this.over.add(operation);
    for (const { operation } of markQueue.snapshot().aside)
      if (this.over.delete(operation.id)) touched.push(operation);
    this.show(touched);
  }

  /** Draws the frames of some operations anew, from the ground and what lies over it. */
  private show(touched: readonly MarkOperation[]): void {
    const { order, frames: shown } = this.state;
    let frames: LoadedFrame[] | null = null;
    const places: number[] = [];
    for (const id of new Set(touched.map(({ subject }) => subject))) {
      const place = order.placeOf(id);
      if (place < 0) continue;
      const frame = shown[place]!;
      const marks = this.over.over(id, this.ground.get(id)!);
      if ((Object.keys(marks) as (keyof Marks)[]).every((mark) => marks[mark] === frame[mark])) continue;
      frames ??= shown.slice();
      const look = marks.finish === frame.finish ? {} : finishFacts(frame, marks.finish);
      frames[place] = { ...frame, ...marks, ...look };
      places.push(place);
    }
    if (!frames) return this.set({});
    this.set({ frames, version: this.remember(places) });
  }

  /** Says at frames what was found out of them. */
  private learn(found: readonly (readonly [string, Partial<LoadedFrame>])[]): void {
    const { order, frames: shown } = this.state;
    const frames = shown.slice();
    const places: number[] = [];
    for (const [id, facts] of found) {
      const place = order.placeOf(id);
      if (place < 0) continue;
      frames[place] = { ...frames[place]!, ...facts };
      places.push(place);
    }
    if (places.length === 0) return;
    const version = this.remember(places);
    this.set({ frames, version, measured: this.state.measured + 1 });
  }

  /** Remembers which places have changed, under the next version. */
  private remember(places: readonly number[]): number {
    const version = this.state.version + 1;
    this.changes.push({ version, places });
    if (this.changes.length > REMEMBERED) this.changes.shift();
    return version;
  }

  /** Which frames lie on drives that are away: asked when drives came or went, and with all frames. */
  private async askAway(): Promise<void> {
    // While the server cannot be asked, what was known stays.
    const ids = await this.source.away().catch(() => null);
    if (ids === null) return;
    this.away = new Set(ids);
    this.learn(
      this.state.frames.flatMap(({ id, away = null }) => {
        const now = this.awayFact(id);
        return away === now ? [] : [[id, { away: now }] as const];
      }),
    );
  }

  private awayFact = (id: string): string | null => (this.away.has(id) ? AWAY : null);

  private changedSince = (version: number): readonly number[] | null => {
    if (version < this.orderedAt) return null;
    if (version >= this.state.version) return [];
    const [first] = this.changes;
    if (!first || first.version > version + 1) return null;
    const since = this.changes.filter((change) => change.version > version);
    return since.length === 1 ? since[0]!.places : [...new Set(since.flatMap(({ places }) => places))];
  };

  private arrived(told: readonly string[] | null): void {
    const ids = this.source.asked(told);
    if (ids?.length === 0) return;
    if (ids === null) this.arriving = null;
    else for (const id of ids) this.arriving?.add(id);
    this.loadSoon();
  }

  /** Frames that arrive while a card is copied come many a second: they are asked for a tenth of the time at most. */
  private loadSoon(): void {
    if (this.soon) return;
    this.soon = true;
    void (this.loading ?? Promise.resolve()).then(() => {
      const pause = Math.min(LOAD_SHARE * this.loadMillis, this.few ? LONGEST.some : LONGEST.all);
      setTimeout(
        () => {
          this.soon = false;
          void this.load(this.few);
        },
        Math.max(0, this.loadedAt + pause - Date.now()),
      );
    });
  }

  /** The frames that came, where so few did that they are asked for alone. */
  private get few(): ReadonlySet<string> | null {
    const { arriving } = this;
    return arriving !== null && arriving.size <= ASKED_FOR && this.state.loaded ? arriving : null;
  }

  /** Loads all frames, or some of them. */
  private load(some: ReadonlySet<string> | null = null): Promise<void> {
    if (this.loading) {
      this.again = true;
      return this.loading;
    }
    this.arriving = new Set();
    this.loading = this.fetchFrames(some).finally(() => {
      this.loading = null;
      if (this.again) {
        this.again = false;
        void this.load();
      }
    });
    return this.loading;
  }

  private async fetchFrames(wanted: ReadonlySet<string> | null): Promise<void> {
    // Of frames that are added page by page those that are here by now: more may come meanwhile.
    const some = wanted ?? this.source.named();
    this.meanwhile = [];
    const begun = Date.now();
    // What left the queue before the question was asked is in the answer.
    const waiting = new Set(markQueue.waiting.map(({ id }) => id));
    const answered = this.over.all
      .filter(({ id, subject }) => !waiting.has(id) && (some === null || some.has(subject)))
      .map(({ id }) => id);
    try {
      const coming = this.source.frames(some);
      if (!wanted) void this.askAway();
      const loaded = await coming;
      await markQueue.ready();
      for (const id of answered) this.over.delete(id);
      this.bring(loaded, some);
      // What was decided before, so that it can be taken back; when the server is away, it is asked with the key.
      if (!this.history.wasRead)
        this.history.readBack().then(
          () => this.takeWaiting(),
          () => undefined,
        );
      const meanwhile = this.meanwhile.splice(0);
      this.onGround(meanwhile);
      this.show([...meanwhile, ...this.over.all]);
    } catch (error) {
      if (some) this.arriving = null;
      this.set({ failure: error as Error });
    }
    this.loadedAt = Date.now();
    this.loadMillis = this.loadedAt - begun;
  }

  /** Takes frames in that were loaded: all there are, or some, of which those that did not come are here no more. */
  private bring(loaded: readonly LoadedFrame[], some: ReadonlySet<string> | null): void {
    for (const id of some ?? this.ground.keys()) this.ground.delete(id);
    for (const frame of loaded) {
      this.ground.set(frame.id, marksIn(frame));
      frame.away = this.awayFact(frame.id);
    }
    for (const operation of markQueue.waiting) if (!this.heard.has(operation.id)) this.over.add(operation);
    // Marks that lie over frames which stay are in them already.
    const frames = some ? withArrived(this.state.frames, some, loaded) : loaded;
    this.orderedAt = this.state.version + 1;
    this.changes = [];
    const order = new FrameOrder(frames.map(({ id }) => id));
    this.set({ frames, order, version: this.orderedAt, loaded: true, failure: null });
  }

  /** Takes in frames that came beside its own loading: a page of what was found. */
  add(loaded: readonly LoadedFrame[]): void {
    this.source.add(loaded.map(({ id }) => id));
    this.bring(loaded, new Set(loaded.map(({ id }) => id)));
    this.show(this.over.all);
  }

  private set(change: Partial<ShootState>): void {
    const { canUndo, canRedo } = this.history;
    const same = canUndo === this.state.canUndo && canRedo === this.state.canRedo;
    if (same && Object.keys(change).length === 0) return;
    const next = { ...this.state, ...change, canUndo, canRedo, changedSince: this.changedSince };
    const { order, frames } = next;
    next.byId = { get: (id) => frames[order.placeOf(id)], has: (id) => order.has(id) };
    this.state = next;
    this.listeners.forEach((listener) => listener());
  }
}

const stores = new Map<string, ShootStore>();

/** Stores kept of shoots that no screen shows: gone back to, they stand at once. */
const KEPT = 2;

/** The store of a shoot, or of what was found (see `sourceOf`). What is looked at lives on; of the others the ones that were left last. */
export function shootStore(id: string): ShootStore {
  const store = stores.get(id) ?? new ShootStore(sourceOf(id));
  // The one that was asked for last stands last.
  stores.delete(id);
  stores.set(id, store);
  const idle = [...stores].filter(([other, { isUsed }]) => other !== id && !isUsed);
  for (const [other, left] of idle.slice(0, Math.max(0, idle.length - KEPT))) {
    left.end();
    stores.delete(other);
  }
  return store;
}

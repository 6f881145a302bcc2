import {
  applyMark,
  EMPTY_HISTORY,
  invertGroup,
  markFrames,
  record,
  redone,
  undone,
  type History,
  type MarkField,
  type MarkOperation,
  type MarkValue,
} from '@arkiv/core';
import { ulid } from 'ulid';
import { framesOf, marksOfFrame, type LoadedFrame } from './frames';
import { get, type Api } from './http';
import { browserParts, MarkQueue } from './markQueue';
import { listen } from './stream';

/** This window, in the journal of marks. */
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

/** One shoot in this window: its frames, loaded whole, its marks, shown at once, and their history. */
export class ShootStore {
  private state: ShootState = EMPTY;
  private history: History = EMPTY_HISTORY;
  private readonly listeners = new Set<() => void>();
  private loading: Promise<void> | null = null;
  private again = false;
  /** a loading is to come for frames that arrived */
  private soon = false;
  /** when the last loading ended, and how long it took */
  private loadedAt = 0;
  private loadMillis = 0;
  /** what was applied while a loading was under way: it may be older than they are */
  private meanwhile: MarkOperation[] = [];

  constructor(private readonly shootId: string) {
    listen<{ shootId: string; operations: MarkOperation[] }>('marks', ({ shootId: id, operations }) => {
      if (id === this.shootId) this.apply(operations.filter((o) => o.window !== WINDOW));
    });
    listen<{ shootId: string }>('frames', ({ shootId: id }) => {
      if (id === this.shootId) this.loadSoon();
    });
    listen('reset', () => void this.load());
    void this.load();
  }

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  snapshot = (): ShootState => this.state;

  /** Sets a mark on frames, as one step of the history. Returns the operations made. */
  mark(ids: readonly string[], field: MarkField, to: MarkValue): readonly MarkOperation[] {
    const frames = ids.flatMap((id) => {
      const frame = this.state.byId.get(id);
      return frame ? [{ id, marks: marksOfFrame(frame) }] : [];
    });
    const operations = markFrames(frames, field, to, this.stamp());
    this.history = record(this.history, operations);
    this.commit(operations);
    return operations;
  }

  /** Takes the last step back. Returns the frames it changed and how many others had changed since. */
  undo(): { ids: string[]; skipped: number } | null {
    const last = this.history.done.at(-1);
    if (!last) return null;
    const { operations, skipped } = this.invert(last);
    this.history = undone(this.history, operations);
    this.commit(operations);
    return { ids: operations.map((o) => o.frameId), skipped };
  }

  redo(): { ids: string[]; skipped: number } | null {
    const last = this.history.undone.at(-1);
    if (!last) return null;
    const { operations, skipped } = this.invert(last);
    this.history = redone(this.history, operations);
    this.commit(operations);
    return { ids: operations.map((o) => o.frameId), skipped };
  }

  private invert(group: readonly MarkOperation[]) {
    const current = (id: string) => {
      const frame = this.state.byId.get(id);
      return frame && marksOfFrame(frame);
    };
    return invertGroup(group, current, this.stamp());
  }

  private stamp() {
    return { newId: () => ulid(), at: Date.now(), window: WINDOW };
  }

  /** On screen first, then into the queue. */
  private commit(operations: readonly MarkOperation[]): void {
    this.apply(operations);
    markQueue.add(operations);
  }

  private apply(operations: readonly MarkOperation[]): void {
    if (this.loading) this.meanwhile.push(...operations);
    const changed = new Map<string, LoadedFrame>();
    for (const operation of operations) {
      const frame = changed.get(operation.frameId) ?? this.state.byId.get(operation.frameId);
      if (frame) changed.set(frame.id, { ...frame, ...applyMark(marksOfFrame(frame), operation) });
    }
    const frames =
      changed.size > 0 ? this.state.frames.map((f) => changed.get(f.id) ?? f) : this.state.frames;
    this.set({ frames });
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
    try {
      const columns = await get<Api['FrameColumnsDto']>(`/shoots/${this.shootId}/frames`);
      await markQueue.ready();
      this.set({ frames: framesOf(columns), loaded: true, failure: null, loads: this.state.loads + 1 });
      // What the server has not confirmed yet goes on top of what it sent.
      this.apply([...markQueue.waiting, ...this.meanwhile.splice(0)]);
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
      canUndo: this.history.done.length > 0,
      canRedo: this.history.undone.length > 0,
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

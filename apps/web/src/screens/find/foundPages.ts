import type { FrameColumns, LoadedFrame } from '../../data/frames';
import { foundFrames } from '../../data/frameSource';
import { get } from '../../data/http';
import type { ShootStore } from '../../data/shootStore';

/** Frames of one page: what the first answer brings too. */
export const PAGE = 200;

/** The frames of one result as they are needed: pages are asked for when the sheet comes to them. */
export class FoundPages {
  /** ids of the frames that are known, by their places */
  readonly ids = new Map<number, string>();
  /** the same by their ids */
  readonly places = new Map<string, number>();
  /** by place: how many of its take were found, where one stands for each */
  readonly hits = new Map<number, number>();
  private readonly asked = new Set<number>();
  /** another one whenever frames came */
  private state: object = {};
  private readonly listeners = new Set<() => void>();

  constructor(
    readonly token: string,
    readonly count: number,
    private readonly store: ShootStore,
    first: FrameColumns,
    private readonly failed: (error: Error) => void,
  ) {
    this.asked.add(0);
    this.take(first);
  }

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  snapshot = (): object => this.state;

  /** The frame at a place; undefined while it is on its way, which it is from now on. */
  at(i: number): LoadedFrame | undefined {
    const id = this.ids.get(i);
    if (id !== undefined) return this.store.snapshot().byId.get(id);
    void this.need(i);
    return undefined;
  }

  /** Has the frame at a place there. */
  async need(i: number): Promise<void> {
    const page = Math.floor(i / PAGE);
    if (this.asked.has(page) || i < 0 || i >= this.count) return;
    this.asked.add(page);
    try {
      const from = page * PAGE;
      this.take(
        (await get(`/find/${this.token}/frames?from=${from}&count=${PAGE}`)) as unknown as FrameColumns,
      );
    } catch (error) {
      this.asked.delete(page);
      this.failed(error as Error);
    }
  }

  private take(columns: FrameColumns): void {
    const { nth = [], hits = [] } = columns.columns;
    const frames = foundFrames(columns);
    frames.forEach(({ id }, i) => {
      this.ids.set(Number(nth[i]), id);
      this.places.set(id, Number(nth[i]));
      if (hits[i]) this.hits.set(Number(nth[i]), Number(hits[i]));
    });
    if (frames.length > 0) this.store.add(frames);
    this.state = {};
    this.listeners.forEach((listener) => listener());
  }
}

import { History, shootFactOf, STUDIO, type Group, type MarkOperation } from '@arkiv/core';
import type { FrameSource } from './frameSource';
import { get } from './http';
import { keepPlaces, keptPlaces, type Place } from './keptPlaces';

/**
 * What was decided in a shoot, as far as it is known in this window: the newest from the first page of the journal on, older
 * pages when they are gone back to. With it, where each step was made in this browser.
 */
export class ShootHistory {
  private history = new History<MarkOperation>(STUDIO);
  /** what the history is made of, in the journal's order as far as it is known here */
  private decided: MarkOperation[] = [];
  /** number before which the journal has more; undefined: it was not asked yet; null: all of it is here */
  private before: number | null | undefined = undefined;
  private reading: Promise<void> | null = null;
  /** where each group was made, by its id */
  private readonly places: Map<string, Place>;

  /** `changed` is called when a page of the journal came. */
  constructor(
    private readonly source: Pick<FrameSource, 'id' | 'history'>,
    private readonly changed: () => void,
  ) {
    this.places = keptPlaces(source.id);
  }

  /** Keeps the places for the next window. */
  keep = (): void => keepPlaces(this.source.id, this.places);

  get wasRead(): boolean {
    return this.before !== undefined;
  }

  get canUndo(): boolean {
    return this.history.lastDone !== null || typeof this.before === 'number';
  }

  get canRedo(): boolean {
    return this.history.lastUndone !== null;
  }

  take(operations: readonly MarkOperation[]): void {
    // What is said of the shoot as a whole is taken back in its history, not by the key that takes marks back.
    const marks = operations.filter(({ kind }) => shootFactOf(kind) === null);
    for (const operation of this.history.take(marks)) this.decided.push(operation);
  }

  /** The step that would be taken back, or done again, whole; null: there is none. Rejects when the server is needed. */
  async last(which: 'lastDone' | 'lastUndone'): Promise<Group<MarkOperation> | null> {
    // The oldest group that is known may have begun before: it is taken back whole.
    const isWhole = (group: Group<MarkOperation> | null) =>
      this.before === null || (group !== null && group.id !== this.decided[0]?.group);
    const found = () => this.history[which];
    while (!isWhole(found()) && (found() === null || this.before !== undefined)) await this.readBack();
    return found();
  }

  /** Nothing of a group can be taken back any more. */
  giveUp(group: string): void {
    this.history.giveUp(group);
  }

  madeAt(operations: readonly MarkOperation[], place: Place | null): void {
    const group = operations[0]?.group;
    if (group !== undefined && place) this.places.set(group, place);
  }

  placeOf(group: string): Place | null {
    return this.places.get(group) ?? null;
  }

  /** Reads one page of the journal before what is known of it. */
  readBack(): Promise<void> {
    this.reading ??= this.fetchBack().finally(() => (this.reading = null));
    return this.reading;
  }

  private async fetchBack(): Promise<void> {
    const { history } = this.source;
    const page = await get(this.before === undefined ? history : `${history}?before=${this.before}`);
    const there = new Set(page.operations.map(({ id }) => id));
    const since = this.decided.filter(({ id }) => !there.has(id));
    this.decided = [];
    this.history = new History(STUDIO);
    this.before = page.before;
    this.take([...(page.operations as MarkOperation[]), ...since]);
    this.changed();
  }
}

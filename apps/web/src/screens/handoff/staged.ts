import { stageAt, type Stage } from '@arkiv/core';
import type { Order } from '../../parts/chosen';
import type { SheetList } from '../../parts/sheetRows';

interface Keeper {
  id: string;
  stage: string | null;
}

/** Keepers under the headings of their stages, each in the order of the shoot. Stages that none is at have their heading too. */
export class Staged implements Order {
  readonly ids: readonly string[];
  /** how many are at each stage, be they folded away or not */
  readonly counts: readonly number[];
  private readonly places: ReadonlyMap<string, number>;
  readonly list: SheetList;

  constructor(
    keepers: readonly Keeper[],
    private readonly stages: readonly Pick<Stage, 'id' | 'name'>[],
    folded: ReadonlySet<string>,
  ) {
    const at = stages.map((): string[] => []);
    for (const { id, stage } of keepers) at[stageAt(stage, stages)]!.push(id);
    this.counts = at.map((its) => its.length);
    const shown = at.map((its, i) => (folded.has(stages[i]!.id) ? [] : its));
    this.ids = shown.flat();
    this.places = new Map(this.ids.map((id, place) => [id, place]));
    let from = 0;
    const sections = stages.map(({ id, name }, i) => {
      const count = shown[i]!.length;
      const section = { heading: name, from, count, ...(folded.has(id) && { folded: at[i]!.length }) };
      from += count;
      return section;
    });
    this.list = {
      count: this.ids.length,
      key: (i) => this.ids[i],
      indexOf: (id) => this.placeOf(id),
      sections,
    };
  }

  get length(): number {
    return this.ids.length;
  }

  id(place: number): string | undefined {
    return this.ids[place];
  }

  placeOf(id: string): number {
    return this.places.get(id) ?? -1;
  }

  /** The stage under whose heading a place stands. */
  stageOf(place: number): Pick<Stage, 'id' | 'name'> | undefined {
    const i = this.list.sections.findIndex(({ from, count }) => place >= from && place < from + count);
    return this.stages[i];
  }

  /** Where one goes on when frames leave their stage: the next one there that stays, or the one before. */
  after(leaving: ReadonlySet<string>): string | null {
    const places = [...leaving].map((id) => this.placeOf(id)).filter((place) => place >= 0);
    if (places.length === 0) return null;
    const last = Math.max(...places);
    const here = this.stageOf(last)?.id;
    const stays = (place: number): boolean =>
      this.stageOf(place)?.id === here && !leaving.has(this.ids[place]!);
    for (let place = last + 1; place < this.length && this.stageOf(place)?.id === here; place++)
      if (stays(place)) return this.ids[place]!;
    for (let place = last - 1; place >= 0; place--) if (stays(place)) return this.ids[place]!;
    return this.ids[last + 1] ?? null;
  }
}

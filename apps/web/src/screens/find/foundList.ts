import type { Api } from '../../data/http';
import { mediumDay, monthOf } from '../../data/format';
import type { SheetList, SheetSection } from '../../parts/sheetRows';
import type { FindHeading } from '@arkiv/core';

type Group = Api['FoundGroupDto'];

/** A heading as it is read. */
export function headingWords(heading: FindHeading, { key, title, date }: Group): string {
  switch (heading) {
    case 'none':
      return '';
    case 'shoot':
      return [title ?? 'a shoot that is gone', ...(date ? [mediumDay(date)] : [])].join(' · ');
    case 'arrival':
      return key === null
        ? 'no arrival known'
        : [title || 'a card', ...(date ? [mediumDay(date)] : [])].join(' · ');
    case 'year':
      return key ?? 'no capture time';
    case 'month':
      return key === null ? 'no capture time' : monthOf(`${key}-01`);
    case 'stars':
      return key === '0' ? 'no stars' : `${key}★`;
    case 'keyword':
      return key ?? 'no keyword';
    case 'album':
      return title ?? 'an album that is gone';
  }
}

/** What tells a heading from all others. */
export const groupKey = ({ key }: Group): string => key ?? '';

/** Found frames as a sheet's entries, of which only some are known: those that are on their way have keys of their places. */
export class FoundList implements SheetList {
  readonly sections: readonly SheetSection[];

  constructor(
    readonly count: number,
    groups: readonly Group[],
    heading: FindHeading,
    folded: ReadonlySet<string>,
    private readonly known: { ids: ReadonlyMap<number, string>; places: ReadonlyMap<string, number> },
  ) {
    this.sections = groups.map((group) => {
      const words = headingWords(heading, group);
      const { from, count: its } = group;
      return folded.has(groupKey(group))
        ? { heading: words, from, count: 0, folded: its }
        : { heading: words, from, count: its };
    });
  }

  key(i: number): string | undefined {
    return i < 0 || i >= this.count ? undefined : (this.known.ids.get(i) ?? `#${i}`);
  }

  indexOf(key: string): number {
    if (key.startsWith('#')) return Number(key.slice(1));
    return this.known.places.get(key) ?? -1;
  }

  /** The place so many entries on, over what is folded away; the first or the last where there are no more. */
  step(from: number, by: number): number {
    const open = this.sections.filter(({ count }) => count > 0);
    if (open.length === 0) return from;
    // Places among what is open, and back.
    let before = 0;
    let at = -1;
    for (const section of open) {
      if (at < 0 && from < section.from) at = before;
      if (from >= section.from && from < section.from + section.count) at = before + from - section.from;
      before += section.count;
    }
    if (at < 0) at = before - 1;
    let wanted = Math.max(0, Math.min(before - 1, at + by));
    for (const section of open) {
      if (wanted < section.count) return section.from + wanted;
      wanted -= section.count;
    }
    return from;
  }
}

export interface SheetEntry {
  key: string;
  /** heading over the first entry of each group */
  heading: string;
}

/** Entries that stand together under one heading; an empty one is not shown. */
export interface SheetSection {
  heading: string;
  /** index of its first entry */
  from: number;
  count: number;
  /** entries that are folded away under its heading: it stands for them */
  folded?: number;
}

/** The entries of a sheet, of which only those in view are asked for. */
export interface SheetList {
  count: number;
  key(i: number): string | undefined;
  indexOf(key: string): number;
  sections: readonly SheetSection[];
}

/** A list of entries that are all there. */
export function sheetList(entries: readonly SheetEntry[]): SheetList {
  const sections: SheetSection[] = [];
  const places = new Map<string, number>();
  entries.forEach(({ key, heading }, i) => {
    places.set(key, i);
    const last = sections.at(-1);
    if (last?.heading === heading) last.count += 1;
    else sections.push({ heading, from: i, count: 1 });
  });
  return {
    count: entries.length,
    key: (i) => entries[i]?.key,
    indexOf: (key) => places.get(key) ?? -1,
    sections,
  };
}

export type SheetRow =
  { heading: string; count: number; folded: boolean; section: number } | { from: number; to: number };

/** Rows of a sheet, by section: a heading where the group changes, then as many entries as fit side by side. */
export class SheetRows {
  readonly count: number;
  /** number of each section's first row */
  private readonly firsts: number[] = [];

  constructor(
    private readonly sections: readonly SheetSection[],
    readonly across: number,
  ) {
    let rows = 0;
    for (const section of sections) {
      this.firsts.push(rows);
      rows += headed(section) + Math.ceil(section.count / across);
    }
    this.count = rows;
  }

  row(r: number): SheetRow {
    const s = lastUpTo(this.firsts, r);
    const section = this.sections[s]!;
    const inside = r - this.firsts[s]! - headed(section);
    if (inside < 0) {
      const { heading, count, folded } = section;
      return { heading, count: folded ?? count, folded: folded !== undefined, section: s };
    }
    const from = section.from + inside * this.across;
    return { from, to: Math.min(from + this.across, section.from + section.count) };
  }

  isHeading(r: number): boolean {
    const s = lastUpTo(this.firsts, r);
    return s >= 0 && this.firsts[s] === r && headed(this.sections[s]!) === 1;
  }

  /** The row in which an entry stands. */
  rowOf(i: number): number {
    const s = lastUpTo(this.starts, i);
    const section = this.sections[s];
    if (!section || i >= section.from + section.count) return -1;
    return this.firsts[s]! + headed(section) + Math.floor((i - section.from) / this.across);
  }

  /** Pixels above a row, with the heights of both kinds. */
  top(r: number, heading: number, height: number): number {
    const s = lastUpTo(this.firsts, r);
    let headings = 0;
    for (let i = 0; i < s; i++) headings += headed(this.sections[i]!);
    if (s >= 0 && r > this.firsts[s]!) headings += headed(this.sections[s]!);
    return headings * heading + (r - headings) * height;
  }

  /** Entries whose cells a rectangle touches, in their order; in pixels of the whole sheet. */
  within(
    rect: { left: number; top: number; right: number; bottom: number },
    heading: number,
    cell: { width: number; height: number; gap: number },
  ): number[] {
    const step = cell.height + cell.gap;
    const found: number[] = [];
    for (let r = this.rowAt(rect.top, heading, step); r < this.count; r++) {
      const top = this.top(r, heading, step);
      if (top > rect.bottom) break;
      const row = this.row(r);
      if (!('from' in row) || top + cell.height < rect.top) continue;
      for (let i = row.from; i < row.to; i++) {
        const left = (i - row.from) * (cell.width + cell.gap);
        if (left <= rect.right && left + cell.width >= rect.left) found.push(i);
      }
    }
    return found;
  }

  /** The last row that begins at or above so many pixels; the first if none does. */
  private rowAt(pixels: number, heading: number, height: number): number {
    let [low, high] = [0, this.count];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (this.top(middle, heading, height) <= pixels) low = middle + 1;
      else high = middle;
    }
    return Math.max(0, low - 1);
  }

  /** The first entry whose row begins at or below so many pixels; null: there is none. */
  firstAt(pixels: number, heading: number, height: number): number | null {
    let [low, high] = [0, this.count];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (this.top(middle, heading, height) < pixels) low = middle + 1;
      else high = middle;
    }
    for (let r = low; r < this.count; r++) {
      const row = this.row(r);
      if ('from' in row) return row.from;
    }
    return null;
  }

  private get starts(): number[] {
    return this.sections.map(({ from }) => from);
  }
}

const headed = ({ heading }: SheetSection): 0 | 1 => (heading === '' ? 0 : 1);

/** Index of the last of ascending numbers that is not above another; -1: there is none. */
function lastUpTo(numbers: readonly number[], wanted: number): number {
  let [low, high] = [0, numbers.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (numbers[middle]! <= wanted) low = middle + 1;
    else high = middle;
  }
  return low - 1;
}

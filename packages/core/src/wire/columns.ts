/** A value of a table, as JSON carries it. */
export type Cell = string | number | boolean | null;

/**
 * One column on its way to a window: its values; or the one value of all rows; or the words that occur and each row's
 * place among them. Which one is the writer's choice: whoever reads takes any.
 */
export type PackedColumn = Cell[] | { all: Cell } | { words: Cell[]; at: number[] };

/**
 * Words that a column may have to be sent as such. With more of them each row's number is as long as what it stands for,
 * and looking them up costs more than it saves: bodies, lenses, apertures and times of exposure stay well below.
 */
const MOST_WORDS = 1024;

/** Takes one column's values, one by one, and packs them. */
export class ColumnPacker {
  private values: Cell[] | null = null;
  private readonly words = new Map<Cell, number>();
  private readonly at: number[] = [];

  add(value: Cell): void {
    if (this.values) return void this.values.push(value);
    const known = this.words.get(value);
    if (known !== undefined) return void this.at.push(known);
    if (this.words.size < MOST_WORDS) {
      this.at.push(this.words.size);
      this.words.set(value, this.words.size);
      return;
    }
    const words = [...this.words.keys()];
    this.values = this.at.map((i) => words[i]!);
    this.values.push(value);
    this.words.clear();
  }

  packed(): PackedColumn {
    if (this.values) return this.values;
    const words = [...this.words.keys()];
    if (words.length === 1) return { all: words[0]! };
    // Words of which most occur once are sent as they stand.
    return words.length * 2 > this.at.length ? this.at.map((i) => words[i]!) : { words, at: this.at };
  }
}

/** One row's value of a packed column. */
export function cellOf(column: PackedColumn, row: number): Cell {
  if (Array.isArray(column)) return column[row] ?? null;
  if ('all' in column) return column.all;
  return column.words[column.at[row]!] ?? null;
}

/** The values of a packed column. */
export const unpackColumn = (column: PackedColumn, count: number): Cell[] =>
  Array.from({ length: count }, (_, row) => cellOf(column, row));

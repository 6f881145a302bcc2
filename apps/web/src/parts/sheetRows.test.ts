import fc from 'fast-check';
import { sheetList, SheetRows } from './sheetRows';

const entriesOf = (headings: readonly string[]) => headings.map((heading, i) => ({ key: `k${i}`, heading }));
const rowsOf = (headings: readonly string[], across: number) =>
  new SheetRows(sheetList(entriesOf(headings)).sections, across);
const all = (rows: SheetRows) => Array.from({ length: rows.count }, (_, r) => rows.row(r));

describe('rows of a contact sheet', () => {
  it('break at headings and hold every frame once', () => {
    expect(all(rowsOf(['x', 'x', 'x', 'y', 'y'], 2))).toEqual([
      { heading: 'x', count: 3, folded: false, section: 0 },
      { from: 0, to: 2 },
      { from: 2, to: 3 },
      { heading: 'y', count: 2, folded: false, section: 1 },
      { from: 3, to: 5 },
    ]);
  });

  it('keep the heading of what is folded away, with how many it stands for', () => {
    const rows = new SheetRows(
      [
        { heading: 'x', from: 0, count: 0, folded: 3 },
        { heading: 'y', from: 3, count: 2 },
      ],
      2,
    );
    expect(all(rows)).toEqual([
      { heading: 'x', count: 3, folded: true, section: 0 },
      { heading: 'y', count: 2, folded: false, section: 1 },
      { from: 3, to: 5 },
    ]);
    expect([rows.rowOf(1), rows.rowOf(3)]).toEqual([-1, 2]);
  });

  it('show no empty heading, and are none without frames', () => {
    expect(all(rowsOf(['', '', ''], 2))).toEqual([
      { from: 0, to: 2 },
      { from: 2, to: 3 },
    ]);
    expect(rowsOf([], 5).count).toBe(0);
    expect(rowsOf([], 5).rowOf(0)).toBe(-1);
  });

  it('find any frame’s row, its height from the top, and the first frame below one, however they are grouped', () => {
    const headings = fc.array(fc.constantFrom('', 'x', 'y'), { minLength: 1, maxLength: 40 });
    fc.assert(
      fc.property(headings, fc.integer({ min: 1, max: 7 }), fc.nat(400), (given, across, pixels) => {
        const rows = rowsOf(given, across);
        let top = 0;
        let first: number | null = null;
        all(rows).forEach((row, r) => {
          expect(rows.top(r, 4, 10)).toBe(top);
          expect(rows.isHeading(r)).toBe('heading' in row);
          if ('from' in row) {
            for (let i = row.from; i < row.to; i++) expect(rows.rowOf(i)).toBe(r);
            if (first === null && top >= pixels) first = row.from;
          }
          top += 'heading' in row ? 4 : 10;
        });
        expect(rows.firstAt(pixels, 4, 10)).toBe(first);
      }),
    );
  });
});

describe('a list of entries', () => {
  it('knows each one’s place and what stands together', () => {
    const list = sheetList(entriesOf(['x', 'x', 'y']));
    expect(list.sections).toEqual([
      { heading: 'x', from: 0, count: 2 },
      { heading: 'y', from: 2, count: 1 },
    ]);
    expect([list.indexOf('k2'), list.indexOf('zz'), list.key(1), list.key(9)]).toEqual([
      2,
      -1,
      'k1',
      undefined,
    ]);
  });
});

describe('a rectangle over the sheet', () => {
  // Two groups of five and three entries, three side by side; a cell is 100 by 80, with 10 between, a heading 40 high.
  const rows = new SheetRows(
    [
      { heading: 'one', from: 0, count: 5 },
      { heading: 'two', from: 5, count: 3 },
    ],
    3,
  );
  const within = (left: number, top: number, right: number, bottom: number) =>
    rows.within({ left, top, right, bottom }, 40, { width: 100, height: 80, gap: 10 });

  it('touches the cells that it lies over, in their order, and no heading', () => {
    expect(within(10, 50, 20, 60)).toEqual([0]);
    expect(within(90, 50, 150, 150)).toEqual([0, 1, 3, 4]);
    expect(within(0, 0, 400, 30)).toEqual([]);
    expect(within(0, 0, 400, 1000)).toEqual([0, 1, 2, 3, 4, 5, 6, 7]);
    // Between two cells lies none.
    expect(within(102, 50, 108, 60)).toEqual([]);
  });
});

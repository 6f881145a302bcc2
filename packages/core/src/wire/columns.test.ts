import fc from 'fast-check';
import { cellOf, ColumnPacker, unpackColumn, type Cell, type PackedColumn } from './columns';

const pack = (values: readonly Cell[]): PackedColumn => {
  const packer = new ColumnPacker();
  values.forEach((value) => packer.add(value));
  return packer.packed();
};

describe('columns on their way to a window', () => {
  it('come back as they were, whatever they hold, through JSON', () => {
    const cell = fc.oneof(
      fc.constantFrom<Cell>(null, 0, '', '0', 'keep', true, false),
      fc.string(),
      fc.integer(),
    );
    fc.assert(
      fc.property(fc.array(cell, { maxLength: 60 }), (values) => {
        const sent = JSON.parse(JSON.stringify(pack(values))) as PackedColumn;
        expect(unpackColumn(sent, values.length)).toEqual(values);
        values.forEach((value, row) => expect(cellOf(sent, row)).toBe(value));
      }),
      { numRuns: 300 },
    );
  });

  it('say once what all rows have, and by number what many share', () => {
    expect(pack(['keep', 'keep', 'keep'])).toEqual({ all: 'keep' });
    expect(pack(['keep', 'reject', 'keep', 'keep'])).toEqual({ words: ['keep', 'reject'], at: [0, 1, 0, 0] });
    expect(pack(['a', 'b', 'c'])).toEqual(['a', 'b', 'c']);
  });

  it('go over to plain values when there are more words than are worth a number', () => {
    const values = Array.from({ length: 5000 }, (_, i) => `frame ${i % 3000}`);
    expect(pack(values)).toEqual(values);
    const few = Array.from({ length: 5000 }, (_, i) => `lens ${i % 900}`);
    expect(pack(few)).toHaveProperty('words.length', 900);
    expect(unpackColumn(pack(few), 5000)).toEqual(few);
  });

  it('are none for no rows', () => {
    expect(unpackColumn(pack([]), 0)).toEqual([]);
  });
});

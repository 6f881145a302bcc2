import { DEFAULT_STAGES } from '@arkiv/core';
import { SheetRows } from '../../parts/sheetRows';
import { Staged } from './staged';

const keepers = [
  ...[
    ['a', null],
    ['b', 'ready'],
    ['c', null],
    ['d', 'editing'],
    ['e', 'to-edit'],
  ].map(([id, stage]) => ({ id: id!, stage: stage! })),
];
const staged = (...folded: string[]) => new Staged(keepers, DEFAULT_STAGES, new Set(folded));

describe('keepers by stage', () => {
  it('stand under the headings of their stages, which add up to them', () => {
    const its = staged();
    expect(its.ids).toEqual(['a', 'c', 'e', 'd', 'b']);
    expect(its.counts).toEqual([3, 1, 0, 1]);
    expect(its.list.sections.map(({ heading, count }) => `${heading} ${count}`)).toEqual([
      ...['to edit 3', 'being edited 1', 'nearly done 0', 'ready 1'],
    ]);
    expect([0, 3, 4].map((place) => its.stageOf(place)?.id)).toEqual(['to-edit', 'editing', 'ready']);
    // A heading under which nothing stands has its row all the same.
    const rows = new SheetRows(its.list.sections, 2);
    expect(rows.count).toBe(4 + 2 + 1 + 1);
    expect(its.ids.map((_, i) => rows.rowOf(i))).toEqual([1, 1, 2, 4, 7]);
    expect(rows.row(5)).toMatchObject({ heading: 'nearly done', count: 0 });
  });

  it('are folded away under their heading, which goes on saying how many they are', () => {
    const its = staged('to-edit', 'nearly');
    expect(its.ids).toEqual(['d', 'b']);
    expect(its.counts).toEqual([3, 1, 0, 1]);
    expect(its.list.sections[0]).toMatchObject({ count: 0, folded: 3 });
  });

  it('go on at the next one of the stage that some leave, or the one before', () => {
    const its = staged();
    expect(its.after(new Set(['a']))).toBe('c');
    expect(its.after(new Set(['a', 'c']))).toBe('e');
    expect(its.after(new Set(['e']))).toBe('c');
    // Where the stage is left by all, at what stands behind it.
    expect(its.after(new Set(['a', 'c', 'e']))).toBe('d');
    expect(its.after(new Set(['b']))).toBeNull();
    expect(its.after(new Set(['gone']))).toBeNull();
  });
});

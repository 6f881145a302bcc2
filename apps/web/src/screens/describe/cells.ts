import {
  DESCRIPTION_FIELDS,
  fieldOf,
  keywordsIn,
  writeField,
  writeWords,
  type DescriptionField,
  type FrameChange,
} from '@arkiv/core';
import Papa from 'papaparse';
import { clockOf, numberOf, type LoadedFrame } from '../../data/frames';

/** What a column of the table holds. */
export type ColumnOf = DescriptionField | 'keywords' | 'persons' | 'picture' | 'name' | 'time';

export interface DescribeColumn {
  of: ColumnOf;
  label: string;
  width: number;
  /** texts of several lines are edited in a box */
  long?: true;
}

const text = (of: DescriptionField, width: number, long?: true): DescribeColumn => ({
  ...{ of, label: DESCRIPTION_FIELDS[of], width },
  ...(long && { long }),
});

/** In the order in which they are filled. */
export const COLUMNS: readonly DescribeColumn[] = [
  { of: 'picture', label: 'Picture', width: 76 },
  { of: 'name', label: 'Frame', width: 84 },
  { of: 'time', label: 'Time', width: 84 },
  text('caption', 340, true),
  { of: 'persons', label: 'Persons shown', width: 170 },
  { of: 'keywords', label: 'Keywords', width: 230 },
  text('headline', 210),
  text('title', 170),
  text('sublocation', 150),
  text('city', 120),
  text('region', 120),
  text('country', 120),
  text('countryCode', 70),
  text('instructions', 200, true),
  text('creator', 150),
  text('credit', 150),
  text('rights', 210),
  text('usageTerms', 200, true),
  text('email', 160),
  text('phone', 130),
  text('website', 160),
];

/** The first column that can be written into; those before it say which frame it is. */
export const FIRST_WRITTEN = 3;

/** What a cell says. */
export function cellText(frame: LoadedFrame, of: ColumnOf): string {
  if (of === 'picture') return '';
  if (of === 'name') return numberOf(frame.name);
  if (of === 'time') return clockOf(frame).slice(0, 8);
  if (of === 'keywords' || of === 'persons') return keywordsIn(frame[of]).join(', ');
  return fieldOf(frame, of) ?? '';
}

/** What writing into a cell changes. */
export function writeCell(frame: LoadedFrame, of: ColumnOf, typed: string): FrameChange[] {
  const its = { id: frame.id, marks: frame };
  if (of === 'picture' || of === 'name' || of === 'time') return [];
  if (of === 'keywords' || of === 'persons') return writeWords(its, of, typed);
  return writeField([its], of, typed, 'replace');
}

/** Cells from one corner to the other, both included. */
export interface Range {
  top: number;
  bottom: number;
  left: number;
  right: number;
}
export interface CellAt {
  row: number;
  column: number;
}
export const rangeOf = (a: CellAt, b: CellAt): Range => ({
  top: Math.min(a.row, b.row),
  bottom: Math.max(a.row, b.row),
  left: Math.min(a.column, b.column),
  right: Math.max(a.column, b.column),
});
export const inRange = ({ top, bottom, left, right }: Range, { row, column }: CellAt): boolean =>
  row >= top && row <= bottom && column >= left && column <= right;

type FrameAt = (row: number) => LoadedFrame | undefined;

/** What a range says, as spreadsheets hand cells on: columns parted by tabs, rows by line ends. */
export function copied(range: Range, frameAt: FrameAt): string {
  const rows: string[][] = [];
  for (let row = range.top; row <= range.bottom; row++) {
    const frame = frameAt(row);
    if (frame) rows.push(COLUMNS.slice(range.left, range.right + 1).map(({ of }) => cellText(frame, of)));
  }
  return Papa.unparse(rows, { delimiter: '\t', newline: '\n' });
}

/**
 * What pasting cells of a spreadsheet changes: they come in from the corner on, downwards and to the right. One cell
 * fills the whole range.
 */
export function pasted(clipboard: string, range: Range, frameAt: FrameAt): FrameChange[] {
  const { data } = Papa.parse<string[]>(clipboard.replace(/\r?\n$/, ''), { delimiter: '\t' });
  const one = data.length === 1 && data[0]!.length === 1;
  const [bottom, right] = one
    ? [range.bottom, range.right]
    : [range.top + data.length - 1, range.left + Math.max(0, ...data.map((row) => row.length)) - 1];
  const changes: FrameChange[] = [];
  for (let row = range.top; row <= bottom; row++) {
    const frame = frameAt(row);
    if (!frame) break;
    for (let column = range.left; column <= right && column < COLUMNS.length; column++) {
      const typed = one ? data[0]![0] : data[row - range.top]?.[column - range.left];
      if (typed !== undefined) changes.push(...writeCell(frame, COLUMNS[column]!.of, typed));
    }
  }
  return changes;
}

/** What filling down changes: the first row of a range into all below it; of one row, what stands above it. */
export function filledDown(range: Range, frameAt: FrameAt): FrameChange[] {
  const from = range.top === range.bottom ? range.top - 1 : range.top;
  const source = frameAt(from);
  if (!source) return [];
  const changes: FrameChange[] = [];
  for (let row = from + 1; row <= range.bottom; row++) {
    const frame = frameAt(row);
    if (!frame) break;
    for (const { of } of COLUMNS.slice(range.left, range.right + 1))
      changes.push(...writeCell(frame, of, cellText(source, of)));
  }
  return changes;
}

/** What emptying a range changes. */
export function emptied(range: Range, frameAt: FrameAt): FrameChange[] {
  const changes: FrameChange[] = [];
  for (let row = range.top; row <= range.bottom; row++) {
    const frame = frameAt(row);
    if (frame)
      for (const { of } of COLUMNS.slice(range.left, range.right + 1))
        changes.push(...writeCell(frame, of, ''));
  }
  return changes;
}

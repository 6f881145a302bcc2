import { applyMark, keptTexts, type FrameChange, type Marks } from '@arkiv/core';
import { NO_FRAME, type LoadedFrame } from '../../data/frames';
import {
  cellText,
  COLUMNS,
  copied,
  emptied,
  filledDown,
  inRange,
  pasted,
  rangeOf,
  writeCell,
  type ColumnOf,
} from './cells';

const column = (of: ColumnOf) => COLUMNS.findIndex((one) => one.of === of);
const frames: LoadedFrame[] = [
  { ...NO_FRAME, id: 'a', name: 'x_0001', caption: 'Two\nlines', keywords: 'heron\nfish' },
  { ...NO_FRAME, id: 'b', name: 'x_0002', persons: 'Ana Pinto', texts: keptTexts({ headline: 'Says “no”' }) },
  { ...NO_FRAME, id: 'c', name: 'x_0003' },
];
const frameAt = (row: number) => frames[row];
const after = (changes: readonly FrameChange[]): LoadedFrame[] =>
  frames.map((frame) => ({
    ...frame,
    ...changes
      .filter(({ id }) => id === frame.id)
      .reduce<Marks>((marks, { field, to }) => applyMark(marks, { kind: field, to }), marksOf(frame)),
  }));
const marksOf = ({
  verdict,
  stars,
  label,
  note,
  stage,
  take,
  piles,
  albums,
  caption,
  keywords,
  persons,
  texts,
  finish,
}: Marks): Marks => ({
  ...{ verdict, stars, label, note, stage, take, piles, albums, caption, keywords, persons, texts, finish },
});
const range = (top: number, from: ColumnOf, bottom: number, to: ColumnOf) =>
  rangeOf({ row: top, column: column(from) }, { row: bottom, column: column(to) });

describe('the table of what is said', () => {
  it('says in a cell what a frame says', () => {
    expect(cellText(frames[0]!, 'keywords')).toBe('heron, fish');
    expect(cellText(frames[1]!, 'headline')).toBe('Says “no”');
    expect([cellText(frames[0]!, 'name'), cellText(frames[0]!, 'time')]).toEqual(['0001', 'no time']);
  });

  it('writes into the cell alone, and never into what says which frame it is', () => {
    expect(writeCell(frames[0]!, 'keywords', 'fish, ebb')).toEqual([
      { id: 'a', field: 'keyword heron', to: false },
      { id: 'a', field: 'keyword ebb', to: true },
    ]);
    expect(writeCell(frames[0]!, 'caption', 'Two\r\nlines ')).toEqual([]);
    for (const fixed of ['picture', 'name', 'time'] as const)
      expect(writeCell(frames[0]!, fixed, 'x')).toEqual([]);
  });

  it('hands cells to a spreadsheet and takes them back as they were, lines and quotes included', () => {
    const text = copied(range(0, 'caption', 1, 'headline'), frameAt);
    expect(text.split('\t')).toHaveLength(7);
    // From the first two frames into the last two.
    const [, second, third] = after(pasted(text, range(1, 'caption', 1, 'caption'), frameAt));
    expect([second!.caption, second!.keywords]).toEqual(['Two\nlines', 'heron\nfish']);
    expect([third!.persons, third!.texts]).toEqual(['Ana Pinto', keptTexts({ headline: 'Says “no”' })]);
  });

  it('pastes what a spreadsheet gives, column by column, and no further than the frames and columns go', () => {
    const clipboard = 'Ebb\t7 Ana\tpier, sea\r\nFlood\t\t\r\n"A ""gull"""\r\nmore\r\n';
    const now = after(pasted(clipboard, range(0, 'caption', 0, 'caption'), frameAt));
    expect(now.map(({ caption }) => caption)).toEqual(['Ebb', 'Flood', 'A "gull"']);
    expect(now.map(({ persons }) => persons)).toEqual(['7 Ana', '', '']);
    expect(now.map(({ keywords }) => keywords)).toEqual(['pier\nsea', '', '']);
    expect(pasted('a\tb\tc', range(2, 'website', 2, 'website'), frameAt)).toHaveLength(1);
  });

  it('fills the whole range with one pasted cell', () => {
    const now = after(pasted('Hafen', range(0, 'city', 2, 'city'), frameAt));
    expect(now.map((frame) => cellText(frame, 'city'))).toEqual(['Hafen', 'Hafen', 'Hafen']);
  });

  it('fills down from the first row of a range, or from the one above', () => {
    const now = after(filledDown(range(0, 'caption', 2, 'keywords'), frameAt));
    expect(now.map(({ keywords }) => keywords)).toEqual(Array(3).fill('heron\nfish'));
    expect(now.map(({ persons }) => persons)).toEqual(['', '', '']);
    expect(after(filledDown(range(2, 'persons', 2, 'persons'), frameAt))[2]!.persons).toBe('Ana Pinto');
    expect(filledDown(range(0, 'persons', 0, 'persons'), frameAt)).toEqual([]);
  });

  it('empties a range, and knows what is in it', () => {
    const now = after(emptied(range(0, 'caption', 1, 'headline'), frameAt));
    expect(now.slice(0, 2).map(marksOf)).toEqual([marksOf(NO_FRAME), marksOf(NO_FRAME)]);
    const of = range(2, 'city', 0, 'caption');
    expect(inRange(of, { row: 1, column: column('persons') })).toBe(true);
    expect(inRange(of, { row: 3, column: column('persons') })).toBe(false);
  });
});

import { parse } from 'papaparse';
import type { Verdict } from '../marks/marks';
import { keywordsIn, joinedKeywords } from '../description/keywords';
import { saidIn } from '../description/texts';
import { albumNameOf, LONGEST_NAME, type NamedFrame, type WrittenAlbum } from './albumText';

/** What a line of a list says of its frame beside its name; what it does not say is missing. */
export interface ListedMarks {
  verdict?: Verdict;
  /** 0…5 */
  stars?: number;
  /** as the list words it */
  label?: string;
  /** to be added to those that a frame has */
  keywords?: string[];
  caption?: string;
}

export interface ListedFrame {
  frame: NamedFrame;
  /** names of the albums that it is put into; empty: that of the list */
  albums: string[];
  marks: ListedMarks;
}

/** A table of frames as other programs export it. */
export interface FrameTable {
  frames: ListedFrame[];
  /** what of it is not taken over, in words: columns, and values that mean nothing here */
  left: string[];
}

/** The albums of a table: by the names that its lines give, or one by the name of its file. Frames stand in them in the table's order. */
export function albumsOfTable({ frames }: FrameTable, fileName: string): WrittenAlbum[] {
  const albums = new Map<string, WrittenAlbum>();
  for (const { frame, albums: names } of frames)
    for (const name of names.length > 0 ? names : [albumNameOf(fileName)]) {
      const album = albums.get(name) ?? {
        ...{ name: name.slice(0, LONGEST_NAME), rule: null, lead: null, frames: [], albums: [] },
      };
      album.frames.push(frame);
      albums.set(name, album);
    }
  return [...albums.values()];
}

/** What columns are called, in lower case without blanks, lines and points. */
const COLUMNS = {
  path: ['path', 'fullpath', 'filepath', 'sourcefile', 'absolutepath'],
  folder: ['folder', 'directory', 'foldername'],
  name: ['file', 'filename', 'name', 'image', 'photo', 'picture', 'imagename'],
  album: ['album', 'albums', 'collection', 'collections', 'set', 'sets'],
  stars: ['stars', 'rating'],
  label: ['label', 'color', 'colour', 'colorlabel', 'colourlabel'],
  verdict: ['verdict', 'flag', 'pick', 'picked', 'pickstatus'],
  keywords: ['keywords', 'keyword', 'tags', 'subject'],
  caption: ['caption', 'description', 'captionabstract'],
} as const satisfies Record<string, readonly string[]>;
type Column = keyof typeof COLUMNS;

const KEEP = ['keep', 'pick', 'picked', 'flagged', 'yes', 'true', '1', 'selected'];
const REJECT = ['reject', 'rejected', '-1'];
const NEITHER = ['', '0', 'no', 'false', 'none', 'undecided', 'unflagged'];

/**
 * Frames out of lines of cells under a head that names a file (CSV, RFC 4180, or parted by tabs or semicolons). Null: there is no such
 * head, and the text is something else. Several albums or keywords stand in one cell, parted by semicolons, lines or bars; commas part
 * keywords too.
 */
export function frameTable(text: string): FrameTable | null {
  const { data, errors } = parse<string[]>(text.replace(/^\uFEFF/, ''), { skipEmptyLines: 'greedy' });
  const [head = [], ...rows] = data;
  const columns = head.map(columnOf);
  if (head.length < 2 || !(columns.includes('name') || columns.includes('path'))) return null;
  const left = new Map<string, number>();
  const leave = (what: string): void => void left.set(what, (left.get(what) ?? 0) + 1);
  const frames: ListedFrame[] = [];
  for (const [i, row] of rows.entries()) {
    const cell = (column: Column): string => row[columns.indexOf(column)]?.trim() ?? '';
    const path = cell('path') || [cell('folder'), cell('name')].filter(Boolean).join('/');
    const parts = path.split(/[/\\]/).filter((part) => part !== '');
    if (parts.length === 0) {
      leave(`line ${i + 2}: it names no file`);
      continue;
    }
    frames.push({
      frame: { name: parts.at(-1)!, folder: parts.slice(0, -1).join('/') },
      albums: several(cell('album'), /[;|\n]/),
      marks: marksIn(cell, leave),
    });
  }
  const lines = [...left].map(([what, times]) => (times > 1 ? `${what} (${times} times)` : what));
  const others = head.filter((name, i) => columns[i] === null && name.trim() !== '');
  const unread = errors
    .filter(({ type }) => type === 'Quotes')
    .map(({ row = 0, message }) => `line ${row + 1}: ${message}`);
  return { frames, left: [...others.map((name) => `column “${name.trim()}”`), ...lines, ...unread] };
}

function marksIn(cell: (column: Column) => string, leave: (what: string) => void): ListedMarks {
  const marks: ListedMarks = {};
  const stars = cell('stars');
  const count = /^\*+$|^★+$/.test(stars) ? stars.length : Number(stars);
  if (stars !== '' && Number.isInteger(count) && count >= 0 && count <= 5) marks.stars = count;
  else if (count === -1) marks.verdict = 'reject';
  else if (stars !== '') leave(`stars “${stars}”`);
  const verdict = cell('verdict').toLowerCase();
  if (KEEP.includes(verdict)) marks.verdict = 'keep';
  else if (REJECT.includes(verdict)) marks.verdict = 'reject';
  else if (!NEITHER.includes(verdict)) leave(`flag “${cell('verdict')}”`);
  const label = cell('label');
  if (label !== '' && label.toLowerCase() !== 'none') marks.label = label;
  const keywords = keywordsIn(joinedKeywords(several(cell('keywords'), /[;,|\n]/)));
  if (keywords.length > 0) marks.keywords = keywords;
  const caption = saidIn(cell('caption'));
  if (caption !== null) marks.caption = caption;
  return marks;
}

const columnOf = (name: string): Column | null => {
  const bare = name.toLowerCase().replace(/[\s_.-]/g, '');
  return (
    (Object.keys(COLUMNS) as Column[]).find((column) =>
      (COLUMNS[column] as readonly string[]).includes(bare),
    ) ?? null
  );
};

const several = (cell: string, by: RegExp): string[] => [
  ...new Set(
    cell
      .split(by)
      .map((part) => part.trim())
      .filter((part) => part !== ''),
  ),
];

import { Box } from '@mui/material';
import { useVirtualizer } from '@tanstack/react-virtual';
import {
  useCallback,
  useEffect,
  useId,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
  type ReactNode,
  type RefObject,
} from 'react';
import { CAPTION, INK } from '../theme/theme';

export interface SheetEntry {
  key: string;
  /** heading over the first entry of each group */
  heading: string;
}

export type SheetRow = { heading: string; count: number } | { entries: number[] };

/** Rows of a sheet: a heading where the group changes, then as many cells as fit. */
export function sheetRows(entries: readonly SheetEntry[], across: number): SheetRow[] {
  const rows: SheetRow[] = [];
  const counts = new Map<string, number>();
  for (const entry of entries) counts.set(entry.heading, (counts.get(entry.heading) ?? 0) + 1);
  let heading: string | null = null;
  let row: number[] = [];
  entries.forEach((entry, i) => {
    if (entry.heading !== heading) {
      row = [];
      heading = entry.heading;
      if (heading) rows.push({ heading, count: counts.get(heading) ?? 0 });
    }
    if (row.length === 0) rows.push({ entries: row });
    row.push(i);
    if (row.length === across) row = [];
  });
  return rows;
}

interface Props {
  entries: readonly SheetEntry[];
  /** pixels of a cell's width; its height follows */
  cell: number;
  /** the entry that must stay in view */
  current: number;
  label: string;
  /** changes when the current entry is to be brought into view though it stays the same, as with a new filter */
  follow?: unknown;
  /** `id` is the cell's own, by which the sheet names the current one */
  render: (index: number, width: number, height: number, id: string) => ReactNode;
  /** says how many cells stand side by side, and how many rows on one screen, for moving up and down */
  onLayout?: (layout: SheetLayout) => void;
}

export interface SheetLayout {
  across: number;
  rows: number;
}

/** Pixels of a heading's row. */
const HEADING = 40;
/** Pixels between cells. */
export const GAP = 6;
/** Pixels around a picture in its cell: as many as the ring needs. */
export const MARGIN = 7;
/** A cell's picture part is 3 : 2 like most sensors, and its caption line below. */
export const CAPTION_HEIGHT = 25;

/** A sheet of any number of frames; only the rows in view exist. */
export function ContactSheet({ entries, cell, current, label, follow, render, onLayout }: Props) {
  const scroller = useRef<HTMLDivElement>(null);
  const list = useId();
  const [room, setRoom] = useState({ width: 0, height: 0 });
  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => entry && setRoom(entry.contentRect));
    if (scroller.current) observer.observe(scroller.current);
    return () => observer.disconnect();
  }, []);
  const { width } = room;
  const across = Math.max(1, Math.floor((width + GAP) / (cell + GAP)));
  const fitted = width > 0 ? Math.floor((width - GAP * (across - 1)) / across) : cell;
  const height = Math.round(((fitted - 2 * MARGIN) * 2) / 3) + 2 * MARGIN + CAPTION_HEIGHT;
  const rows = useMemo(() => sheetRows(entries, across), [entries, across]);
  const screenful = Math.max(1, Math.floor(room.height / (height + GAP)));
  useEffect(() => onLayout?.({ across, rows: screenful }), [across, screenful, onLayout]);
  const size = useCallback((i: number) => ('heading' in rows[i]! ? HEADING : height + GAP), [rows, height]);
  // The library's object changes under one identity; React's compiler is not in use here.
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: size,
    overscan: 4,
  });
  useEffect(() => virtual.measure(), [virtual, height, across]);
  useStay(scroller, entries, rows, size);
  const currentKey = entries[current]?.key;
  const newest = useRef({ rows, current });
  useEffect(() => {
    newest.current = { rows, current };
  });
  // Only a step goes there, or what changes the whole sheet; frames that arrive, or that somebody marks, do not.
  useEffect(() => {
    const { rows: now, current: at } = newest.current;
    const row = now.findIndex((r) => 'entries' in r && r.entries.includes(at));
    if (row < 0) return;
    virtual.scrollToIndex(row, { align: 'auto' });
    // A group's heading comes into view with its first row.
    if (row > 0 && 'heading' in now[row - 1]!) virtual.scrollToIndex(row - 1, { align: 'auto' });
  }, [currentKey, across, fitted, follow, virtual]);
  const cellId = (i: number) => `${list}-${i}`;
  const drawn = virtual.getVirtualItems().some(({ index }) => {
    const row = rows[index]!;
    return 'entries' in row && row.entries.includes(current);
  });
  return (
    // A list that scrolls must be reachable by keys.
    <Box
      ref={scroller}
      role="listbox"
      aria-label={label}
      aria-multiselectable
      aria-activedescendant={drawn ? cellId(current) : undefined}
      tabIndex={0}
      sx={{
        height: '100%',
        overflowX: 'hidden',
        overflowY: 'auto',
        scrollbarGutter: 'stable',
        // The current cell's line says where the focus is.
        outline: currentKey === undefined ? undefined : 'none !important',
      }}
    >
      {/* A take's line runs on past the last cell of a row, and is cut there. */}
      <Box sx={{ height: virtual.getTotalSize(), position: 'relative', overflowX: 'clip' }}>
        {virtual.getVirtualItems().map((item) => {
          const row = rows[item.index]!;
          return (
            <Box
              key={item.key}
              role="presentation"
              sx={{
                position: 'absolute',
                insetInline: 0,
                top: 0,
                height: item.size,
                transform: `translateY(${item.start}px)`,
                display: 'flex',
                gap: `${GAP}px`,
              }}
            >
              {'heading' in row ? (
                <Box sx={{ ...CAPTION, alignSelf: 'flex-end', pb: 0.75, color: INK.soft, fontSize: 14 }}>
                  {row.heading}{' '}
                  <Box component="span" sx={{ color: INK.faint }}>
                    · {row.count}
                  </Box>
                </Box>
              ) : (
                row.entries.map((i) => (
                  <Box key={entries[i]!.key} role="presentation" sx={{ width: fitted, height }}>
                    {render(i, fitted, height - CAPTION_HEIGHT, cellId(i))}
                  </Box>
                ))
              )}
            </Box>
          );
        })}
      </Box>
    </Box>
  );
}

/** Keeps what is looked at where it is while frames come and go above it. */
function useStay(
  scroller: RefObject<HTMLDivElement | null>,
  entries: readonly SheetEntry[],
  rows: readonly SheetRow[],
  size: (row: number) => number,
): void {
  const seen = useRef<{ key: string; below: number } | null>(null);
  const starts = useMemo(() => {
    let start = 0;
    return rows.map((_, i) => (start += size(i)) - size(i));
  }, [rows, size]);
  useLayoutEffect(() => {
    const box = scroller.current;
    if (!box) return;
    const kept = seen.current;
    if (kept) {
      const row = rows.findIndex((r) => 'entries' in r && entries[r.entries[0]!]!.key === kept.key);
      if (row >= 0) box.scrollTop = starts[row]! - kept.below;
    }
    const look = () => {
      const row = rows.findIndex((r, i) => 'entries' in r && starts[i]! + size(i) > box.scrollTop);
      const first = rows[row];
      seen.current =
        first && 'entries' in first
          ? { key: entries[first.entries[0]!]!.key, below: starts[row]! - box.scrollTop }
          : null;
    };
    look();
    box.addEventListener('scroll', look, { passive: true });
    return () => box.removeEventListener('scroll', look);
  }, [scroller, entries, rows, starts, size]);
}

import { Box } from '@mui/material';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useCallback, useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
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
  render: (index: number, width: number, height: number) => ReactNode;
  /** says how many cells stand side by side, for moving up and down */
  onAcross?: (across: number) => void;
}

/** Pixels between cells. */
export const GAP = 6;
/** A cell's picture part is 3 : 2 like most sensors, and its caption line below. */
export const CAPTION_HEIGHT = 25;

/** A sheet of any number of frames; only the rows in view exist. */
export function ContactSheet({ entries, cell, current, label, render, onAcross }: Props) {
  const scroller = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(0);
  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => setWidth(entry?.contentRect.width ?? 0));
    if (scroller.current) observer.observe(scroller.current);
    return () => observer.disconnect();
  }, []);
  const across = Math.max(1, Math.floor((width + GAP) / (cell + GAP)));
  const fitted = width > 0 ? Math.floor((width - GAP * (across - 1)) / across) : cell;
  const height = Math.round((fitted * 2) / 3) + CAPTION_HEIGHT;
  const rows = useMemo(() => sheetRows(entries, across), [entries, across]);
  useEffect(() => onAcross?.(across), [across, onAcross]);
  const size = useCallback((i: number) => ('heading' in rows[i]! ? 40 : height + GAP), [rows, height]);
  // The library's object changes under one identity; React's compiler is not in use here.
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: size,
    overscan: 4,
  });
  useEffect(() => virtual.measure(), [virtual, height, across]);
  useEffect(() => {
    const row = rows.findIndex((r) => 'entries' in r && r.entries.includes(current));
    if (row < 0) return;
    virtual.scrollToIndex(row, { align: 'auto' });
    // A group's heading comes into view with its first row.
    if (row > 0 && 'heading' in rows[row - 1]!) virtual.scrollToIndex(row - 1, { align: 'auto' });
  }, [current, rows, virtual]);
  return (
    // A list that scrolls must be reachable by keys.
    <Box
      ref={scroller}
      role="listbox"
      aria-label={label}
      aria-multiselectable
      tabIndex={0}
      sx={{ height: '100%', overflow: 'auto', scrollbarGutter: 'stable' }}
    >
      <Box sx={{ height: virtual.getTotalSize(), position: 'relative' }}>
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
                    {render(i, fitted, height - CAPTION_HEIGHT)}
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

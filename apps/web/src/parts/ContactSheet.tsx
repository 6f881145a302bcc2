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
import { SheetRows, type SheetList } from './sheetRows';
import { DRAGGED } from './dragged';
import { useLasso, type Rect } from './useLasso';

interface Props {
  list: SheetList;
  /** pixels of a cell's width; its height follows */
  cell: number;
  /** the entry that must stay in view */
  current: number;
  label: string;
  /** changes when the current entry is to be brought into view though it stays the same, as with a new filter */
  follow?: unknown;
  /** `id` is the cell's own, by which the sheet names the current one */
  render: (index: number, width: number, height: number, id: string) => ReactNode;
  /** entries that a mouse has drawn a rectangle over; `add`: besides those that are chosen already */
  onLasso?: (indices: readonly number[], held: { add: boolean }) => void;
  /** Ctrl and the wheel, or two fingers, ask for larger or smaller cells */
  onSize?: (by: 1 | -1) => void;
  /** a heading is pressed, by its section: what stands under it is to be folded away, or shown */
  onHeading?: (section: number) => void;
  /** frames that were taken by the mouse are let go over a heading, by its section */
  onHeadingDrop?: (section: number) => void;
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
export function ContactSheet(props: Props) {
  const { list, cell, current, label, follow, render, onLayout, onLasso, onSize } = props;
  const { onHeading, onHeadingDrop } = props;
  const scroller = useRef<HTMLDivElement>(null);
  const sheetId = useId();
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
  const rows = useMemo(() => new SheetRows(list.sections, across), [list, across]);
  const screenful = Math.max(1, Math.floor(room.height / (height + GAP)));
  useEffect(() => onLayout?.({ across, rows: screenful }), [across, screenful, onLayout]);
  const size = useCallback((i: number) => (rows.isHeading(i) ? HEADING : height + GAP), [rows, height]);
  // The library's object changes under one identity; React's compiler is not in use here.
  const virtual = useVirtualizer({
    count: rows.count,
    getScrollElement: () => scroller.current,
    estimateSize: size,
    overscan: 2,
  });
  // Before anything is drawn: rows of two heights may have changed places.
  useLayoutEffect(() => virtual.measure(), [virtual, height, rows]);
  useStay(scroller, list, rows, height + GAP, follow);
  const currentKey = list.key(current);
  const newest = useRef({ rows, current, height, seen: room.height });
  useEffect(() => {
    newest.current = { rows, current, height, seen: room.height };
  });
  // Only a step goes there, or what changes the whole sheet; frames that arrive, or that somebody marks, do not.
  useEffect(() => {
    const { rows: now, current: at, height: its, seen } = newest.current;
    const row = now.rowOf(at);
    if (row < 0) return;
    // A group's heading comes into view with its first row.
    const first = row > 0 && now.isHeading(row - 1) ? row - 1 : row;
    const [top, end] = [now.top(first, HEADING, its + GAP), now.top(row, HEADING, its + GAP) + its];
    const from = virtual.scrollOffset ?? 0;
    // Where it is in view already, the browser is asked nothing: an answer costs a layout with each key.
    if (top >= from && end <= from + seen) return;
    virtual.scrollToIndex(row, { align: 'auto' });
    if (first < row) virtual.scrollToIndex(first, { align: 'auto' });
  }, [currentKey, across, fitted, follow, virtual]);
  useSizing(scroller, onSize);
  const lasso = useLasso(
    scroller,
    onLasso &&
      ((rect, held) => onLasso(rows.within(rect, HEADING, { width: fitted, height, gap: GAP }), held)),
  );
  const cellId = (i: number) => `${sheetId}-${i}`;
  const currentRow = rows.rowOf(current);
  const drawn = virtual.getVirtualItems().some(({ index }) => index === currentRow);
  return (
    // A list that scrolls must be reachable by keys.
    <Box
      ref={scroller}
      role="listbox"
      aria-label={label}
      aria-multiselectable
      aria-activedescendant={drawn ? cellId(current) : undefined}
      tabIndex={0}
      {...lasso.hands}
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
        {lasso.rect && <Drawn rect={lasso.rect} />}
        {virtual.getVirtualItems().map((item) => {
          const row = rows.row(item.index);
          return (
            <div
              key={item.key}
              role="presentation"
              style={{
                position: 'absolute',
                insetInline: 0,
                top: 0,
                height: item.size,
                transform: `translateY(${item.start}px)`,
                // A layout of its own: a change in one row asks nothing of the others.
                contain: 'layout style size',
                display: 'flex',
                gap: GAP,
              }}
            >
              {'heading' in row ? (
                <Heading {...row} onPress={onHeading} onDrop={onHeadingDrop} />
              ) : (
                indicesOf(row).map((i) => (
                  <div key={list.key(i)} role="presentation" style={{ width: fitted, height }}>
                    {render(i, fitted, height - CAPTION_HEIGHT, cellId(i))}
                  </div>
                ))
              )}
            </div>
          );
        })}
      </Box>
    </Box>
  );
}

function Heading({
  heading,
  count,
  folded,
  section,
  onPress,
  onDrop,
}: {
  heading: string;
  count: number;
  folded: boolean;
  section: number;
  onPress?: (section: number) => void;
  onDrop?: (section: number) => void;
}) {
  const [over, setOver] = useState(false);
  const words = (
    <>
      {heading}{' '}
      <Box component="span" sx={{ color: 'var(--faint)' }}>
        · {count}
      </Box>
    </>
  );
  const looks = { ...CAPTION, alignSelf: 'flex-end', pb: 0.75, color: 'var(--soft)', fontSize: 14 };
  if (!onPress) return <Box sx={looks}>{words}</Box>;
  return (
    <Box
      // Within a list only its entries are controls: keys fold by the screen's own key.
      data-heading
      onClick={() => onPress(section)}
      onDragOver={(event) => {
        if (!onDrop || !event.dataTransfer.types.includes(DRAGGED)) return;
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        setOver(false);
        if (!onDrop || !event.dataTransfer.types.includes(DRAGGED)) return;
        event.preventDefault();
        onDrop(section);
      }}
      sx={{
        ...{ ...looks, flex: 1, cursor: 'pointer', '&:hover': { color: 'var(--full)' } },
        ...(over && { color: 'var(--full)', boxShadow: 'inset 0 -2px 0 var(--full)' }),
      }}
    >
      <Box component="span" aria-hidden sx={{ display: 'inline-block', width: 18, color: 'var(--faint)' }}>
        {folded ? '▸' : '▾'}
      </Box>
      {words}
    </Box>
  );
}

function Drawn({ rect: { left, top, right, bottom } }: { rect: Rect }) {
  return (
    <div
      aria-hidden
      style={{
        position: 'absolute',
        zIndex: 1,
        left,
        top,
        width: right - left,
        height: bottom - top,
        border: `1px solid ${INK.full}`,
        background: 'rgba(255,255,255,.07)',
        pointerEvents: 'none',
      }}
    />
  );
}

/** How far two fingers go apart, or a wheel turns, for one size more. */
const SPREAD = 1.25;

/** Ctrl and the wheel, a pinch on a pad, which browsers tell as the same, and two fingers on glass. */
function useSizing(
  scroller: RefObject<HTMLDivElement | null>,
  onSize: ((by: 1 | -1) => void) | undefined,
): void {
  useEffect(() => {
    const box = scroller.current;
    if (!box || !onSize) return;
    let turned = 0;
    let apart: number | null = null;
    const wheel = (event: WheelEvent) => {
      if (!event.ctrlKey && !event.metaKey) return;
      event.preventDefault();
      // A wheel's notch is a hundred and more at once, a pad's pinch many small ones.
      turned += event.deltaY;
      if (Math.abs(turned) < 40) return;
      onSize(turned < 0 ? 1 : -1);
      turned = 0;
    };
    const distance = ([a, b]: TouchList | readonly Touch[]) =>
      Math.hypot(a!.clientX - b!.clientX, a!.clientY - b!.clientY);
    const touch = (event: TouchEvent) => {
      if (event.touches.length !== 2) return void (apart = null);
      event.preventDefault();
      const now = distance([event.touches[0]!, event.touches[1]!]);
      apart ??= now;
      if (now / apart > SPREAD || apart / now > SPREAD) {
        onSize(now > apart ? 1 : -1);
        apart = now;
      }
    };
    box.addEventListener('wheel', wheel, { passive: false });
    box.addEventListener('touchmove', touch, { passive: false });
    box.addEventListener('touchend', touch);
    return () => {
      box.removeEventListener('wheel', wheel);
      box.removeEventListener('touchmove', touch);
      box.removeEventListener('touchend', touch);
    };
  }, [scroller, onSize]);
}

const indicesOf = ({ from, to }: { from: number; to: number }): number[] =>
  Array.from({ length: to - from }, (_, i) => from + i);

/**
 * Keeps what is looked at where it is while frames come and go above it: what they add or take is scrolled by, from
 * wherever the hand has scrolled meanwhile.
 */
function useStay(
  scroller: RefObject<HTMLDivElement | null>,
  list: SheetList,
  rows: SheetRows,
  height: number,
  follow: unknown,
): void {
  const before = useRef<{ list: SheetList; rows: SheetRows; height: number; follow: unknown } | null>(null);
  useLayoutEffect(() => {
    const was = before.current;
    before.current = { list, rows, height, follow };
    const box = scroller.current;
    if (!box || !was || was.list === list) return;
    // Another size of cells, another width or filter is another sheet: there the current frame is brought into view.
    if (was.height !== height || was.rows.across !== rows.across || was.follow !== follow) return;
    const anchor = was.rows.firstAt(box.scrollTop, HEADING, height);
    const key = anchor === null ? undefined : was.list.key(anchor);
    const now = key === undefined ? -1 : list.indexOf(key);
    if (anchor === null || now < 0) return;
    const top = (in_: SheetRows, i: number) => in_.top(in_.rowOf(i), HEADING, height);
    const moved = top(rows, now) - top(was.rows, anchor);
    if (moved !== 0) box.scrollTop += moved;
  }, [scroller, list, rows, height, follow]);
}

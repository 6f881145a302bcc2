import {
  createColumnHelper,
  createSortedRowModel,
  rowSortingFeature,
  sortFn_alphanumeric,
  tableFeatures,
  useTable,
} from '@tanstack/react-table';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useCallback, useEffect, useId, useMemo, useRef, useState, type KeyboardEvent } from 'react';
import type { FrameChange } from '@arkiv/core';
import { thumbUrl, type LoadedFrame } from '../../data/frames';
import {
  cellText,
  COLUMNS,
  copied,
  emptied,
  filledDown,
  FIRST_WRITTEN,
  inRange,
  pasted,
  rangeOf,
  writeCell,
  type CellAt,
  type ColumnOf,
} from './cells';
import styles from './DescribeTable.module.css';
import type { Describe } from './useDescribe';

/** Pixels of a row: a thumbnail, and two lines of a caption. */
const ROW = 46;
const HEAD = 32;

const features = tableFeatures({
  rowSortingFeature,
  sortedRowModel: createSortedRowModel(),
  sortFns: { alphanumeric: sortFn_alphanumeric },
});

interface Row {
  id: string;
  /** the frame as it is now */
  frame: () => LoadedFrame | undefined;
}

const helper = createColumnHelper<typeof features, Row>();
const columns = helper.columns(
  COLUMNS.map(({ of, label }) =>
    helper.accessor(
      (row) => {
        const frame = row.frame();
        // Where the clock says the same, the order of time is that of the shoot.
        return frame ? (of === 'time' ? (frame.time ?? '') : cellText(frame, of)) : '';
      },
      { id: of, header: label, sortFn: 'alphanumeric', enableSorting: of !== 'picture' },
    ),
  ),
);

/** Pixels before each column, for those that stay where they are while the rest scrolls. */
const LEFT = COLUMNS.map((_, i) => COLUMNS.slice(0, i).reduce((sum, { width }) => sum + width, 0));
const WIDTH = COLUMNS.reduce((sum, { width }) => sum + width, 0);
const FIXED = LEFT[FIRST_WRITTEN]!;

/** What is said of many frames, in rows and columns: written, filled down, and pasted as in a spreadsheet. */
export function DescribeTable({ describe }: { describe: Describe }) {
  const { shoot, shown, write, pick, chooseThese } = describe;
  const scroller = useRef<HTMLDivElement>(null);
  const gridId = useId();
  const byId = useRef(shoot.byId);
  byId.current = shoot.byId;
  // The rows stay in their order while they are written: they are sorted when it is asked for, and when others are shown.
  const data = useMemo<Row[]>(
    () => shown.ids.map((id) => ({ id, frame: () => byId.current.get(id) })),
    [shown],
  );
  const table = useTable({ features, columns, data, getRowId: ({ id }) => id });
  const { rows } = table.getRowModel();
  const frameAt = useCallback((row: number) => rows[row]?.original.frame(), [rows]);
  const [at, setAt] = useState<CellAt>(() => ({ row: Math.max(0, describe.at), column: FIRST_WRITTEN }));
  const [anchor, setAnchor] = useState<CellAt>(at);
  const [edit, setEdit] = useState<{ text: string } | null>(null);
  const range = rangeOf(anchor, at);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    scrollPaddingStart: HEAD,
    paddingStart: 0,
    overscan: 6,
  });
  useEffect(() => scroller.current?.focus(), []);
  const go = (to: CellAt, extend = false) => {
    const next = {
      row: Math.max(0, Math.min(rows.length - 1, to.row)),
      column: Math.max(FIRST_WRITTEN, Math.min(COLUMNS.length - 1, to.column)),
    };
    setAt(next);
    if (!extend) setAnchor(next);
    virtual.scrollToIndex(next.row, { align: 'auto' });
    const box = scroller.current;
    const [from, end] = [LEFT[next.column]!, LEFT[next.column]! + COLUMNS[next.column]!.width];
    if (box && from - box.scrollLeft < FIXED) box.scrollLeft = from - FIXED;
    else if (box && end - box.scrollLeft > box.clientWidth) box.scrollLeft = end - box.clientWidth;
    choose(next, extend ? anchor : next);
  };
  /** The rows of a range are the frames that are meant, by templates and in the other views too. */
  const choose = (to: CellAt, from: CellAt) => {
    const { top, bottom } = rangeOf(from, to);
    if (top < bottom) return chooseThese(rows.slice(top, bottom + 1).map(({ id }) => id));
    const place = shown.placeOf(rows[to.row]?.id ?? '');
    if (place >= 0) pick(place, 'only');
  };
  const say = (changes: readonly FrameChange[], words: string) => write(changes, words);
  const end = (text: string | null, to?: CellAt) => {
    const frame = frameAt(at.row);
    setEdit(null);
    if (text !== null && frame)
      say(writeCell(frame, COLUMNS[at.column]!.of, text), `${COLUMNS[at.column]!.label} written`);
    if (to) go(to);
    scroller.current?.focus();
  };
  const onKeyDown = (event: KeyboardEvent) => {
    // The field that is written in, and a heading that was come to, keep their keys.
    if (event.target !== scroller.current) return;
    const command = event.ctrlKey || event.metaKey;
    const page = Math.max(1, Math.floor((scroller.current.clientHeight - HEAD) / ROW) - 1);
    const moves: Record<string, CellAt> = {
      ArrowRight: { row: at.row, column: command ? COLUMNS.length : at.column + 1 },
      ArrowLeft: { row: at.row, column: command ? 0 : at.column - 1 },
      ArrowDown: { row: command ? rows.length : at.row + 1, column: at.column },
      ArrowUp: { row: command ? 0 : at.row - 1, column: at.column },
      PageDown: { row: at.row + page, column: at.column },
      PageUp: { row: at.row - page, column: at.column },
      Home: { row: command ? 0 : at.row, column: 0 },
      End: { row: command ? rows.length : at.row, column: COLUMNS.length },
    };
    const move = moves[event.key];
    if (move) go(move, event.shiftKey);
    else if (event.key === 'Tab' && !command) {
      const on = at.column + (event.shiftKey ? -1 : 1);
      // From the last cell of a row the focus goes on as everywhere.
      if (on < FIRST_WRITTEN || on >= COLUMNS.length) return;
      go({ row: at.row, column: on });
    } else if ((event.key === 'Enter' || event.key === 'F2') && !command) {
      const frame = frameAt(at.row);
      if (frame) setEdit({ text: cellText(frame, COLUMNS[at.column]!.of) });
    } else if (event.key === 'Delete' || event.key === 'Backspace') say(emptied(range, frameAt), 'Taken off');
    else if (command && event.key.toLowerCase() === 'd') say(filledDown(range, frameAt), 'Filled down');
    else if (command && event.key.toLowerCase() === 'a') {
      const [from, to] = [
        { row: 0, column: at.column },
        { row: rows.length - 1, column: at.column },
      ];
      setAnchor(from);
      setAt(to);
      choose(to, from);
    } else if (event.key.length === 1 && !command && !event.altKey && !event.nativeEvent.isComposing)
      setEdit({ text: event.key });
    else return;
    event.preventDefault();
  };
  return (
    <div
      ref={scroller}
      className={styles.grid}
      role="grid"
      aria-label="What is said of each frame"
      aria-rowcount={rows.length + 1}
      aria-colcount={COLUMNS.length}
      aria-multiselectable
      aria-activedescendant={`${gridId}-${at.row}-${at.column}`}
      tabIndex={0}
      onKeyDown={onKeyDown}
      onCopy={(event) => {
        if (event.target instanceof HTMLTextAreaElement) return;
        event.preventDefault();
        event.clipboardData.setData('text/plain', copied(range, frameAt));
      }}
      onPaste={(event) => {
        if (event.target instanceof HTMLTextAreaElement) return;
        event.preventDefault();
        say(pasted(event.clipboardData.getData('text/plain'), range, frameAt), 'Pasted');
      }}
    >
      <div className={styles.head} role="row" style={{ width: WIDTH, height: HEAD }}>
        {table.getHeaderGroups()[0]!.headers.map((header, i) => {
          const { width, of } = COLUMNS[i]!;
          const sorted = header.column.getIsSorted();
          return (
            <div
              key={header.id}
              role="columnheader"
              aria-sort={sorted === 'asc' ? 'ascending' : sorted === 'desc' ? 'descending' : undefined}
              data-fixed={i < FIRST_WRITTEN || undefined}
              style={{ width, left: i < FIRST_WRITTEN ? LEFT[i] : undefined }}
            >
              {of !== 'picture' && (
                <button type="button" onClick={header.column.getToggleSortingHandler()}>
                  {COLUMNS[i]!.label}
                  {sorted === 'asc' ? ' ↑' : sorted === 'desc' ? ' ↓' : ''}
                </button>
              )}
            </div>
          );
        })}
      </div>
      <div role="presentation" style={{ height: virtual.getTotalSize(), width: WIDTH, position: 'relative' }}>
        {virtual.getVirtualItems().map(({ index, start }) => {
          const frame = frameAt(index);
          if (!frame) return null;
          const edited = edit && at.row === index;
          return (
            <div
              key={frame.id}
              role="row"
              aria-rowindex={index + 2}
              className={styles.row}
              data-edited={edited || undefined}
              style={{ height: ROW, width: WIDTH, transform: `translateY(${start}px)` }}
            >
              {COLUMNS.map(({ of, width, long }, column) => {
                const here = at.row === index && at.column === column;
                return (
                  <div
                    key={of}
                    id={`${gridId}-${index}-${column}`}
                    role="gridcell"
                    aria-selected={inRange(range, { row: index, column })}
                    className={styles.cell}
                    data-fixed={column < FIRST_WRITTEN || undefined}
                    data-picture={of === 'picture' || undefined}
                    data-at={here || undefined}
                    data-in={inRange(range, { row: index, column }) || undefined}
                    style={{ width, left: column < FIRST_WRITTEN ? LEFT[column] : undefined }}
                    onMouseDown={(event) => {
                      if (event.target instanceof HTMLTextAreaElement) return;
                      event.preventDefault();
                      scroller.current?.focus();
                      go({ row: index, column }, event.shiftKey);
                    }}
                    onMouseEnter={(event) => {
                      if (event.buttons === 1 && !edit) go({ row: index, column }, true);
                    }}
                    onDoubleClick={() => column >= FIRST_WRITTEN && setEdit({ text: cellText(frame, of) })}
                  >
                    {here && edit ? (
                      <CellEdit
                        label={COLUMNS[column]!.label}
                        text={edit.text}
                        long={long === true}
                        onEnd={(text, by) =>
                          end(text, by && { row: index + by.row, column: column + by.column })
                        }
                      />
                    ) : (
                      <Shown frame={frame} of={of} />
                    )}
                  </div>
                );
              })}
            </div>
          );
        })}
      </div>
    </div>
  );
}

function Shown({ frame, of }: { frame: LoadedFrame; of: ColumnOf }) {
  if (of !== 'picture') return cellText(frame, of);
  const src = thumbUrl(frame);
  return src ? <img src={src} alt="" decoding="async" draggable={false} /> : null;
}

/** A cell that is written: Enter goes down, Tab goes on, Escape leaves it as it was. */
function CellEdit({
  label,
  text,
  long,
  onEnd,
}: {
  label: string;
  text: string;
  long: boolean;
  /** `null`: nothing is written; `by`: where the hand goes */
  onEnd: (text: string | null, by?: CellAt) => void;
}) {
  const field = useRef<HTMLTextAreaElement>(null);
  const over = useRef(false);
  useEffect(() => {
    const box = field.current!;
    box.focus();
    box.setSelectionRange(box.value.length, box.value.length);
  }, []);
  const finish = (...end: Parameters<typeof onEnd>) => {
    if (over.current) return;
    over.current = true;
    onEnd(...end);
  };
  return (
    <textarea
      ref={field}
      aria-label={label}
      className={styles.edit}
      data-long={long || undefined}
      defaultValue={text}
      spellCheck
      onBlur={(event) => finish(event.target.value)}
      onKeyDown={(event) => {
        if (event.nativeEvent.isComposing) return;
        const { value } = event.currentTarget;
        if (event.key === 'Escape') finish(null);
        // In a text of several lines Shift or Alt make one.
        else if (event.key === 'Enter' && !(long && (event.shiftKey || event.altKey)))
          finish(value, { row: event.shiftKey ? -1 : 1, column: 0 });
        else if (event.key === 'Tab') finish(value, { row: 0, column: event.shiftKey ? -1 : 1 });
        else return;
        event.preventDefault();
        event.stopPropagation();
      }}
    />
  );
}

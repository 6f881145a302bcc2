import { Box } from '@mui/material';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useId, useRef, type KeyboardEvent } from 'react';
import { GROUND, INK } from '../../theme/theme';
import type { TreeRow } from './treeRows';

const ROW = 28;

interface Props {
  rows: readonly TreeRow[];
  chosen: string | null;
  onChoose: (id: string) => void;
  onFold: (id: string, open: boolean) => void;
}

/** The vocabulary as a tree that is walked by arrows; of fifty thousand terms only those in view exist. */
export function TermTree({ rows, chosen, onChoose, onFold }: Props) {
  const scroller = useRef<HTMLDivElement>(null);
  const treeId = useId();
  const at = rows.findIndex(({ id }) => id === chosen);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 8,
  });
  useEffect(() => {
    if (at >= 0) virtual.scrollToIndex(at, { align: 'auto' });
    // Only another choice goes there.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [chosen]);
  const go = (to: number) => {
    const row = rows[Math.max(0, Math.min(rows.length - 1, to))];
    if (row) onChoose(row.id);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const row = rows[at];
    const page = Math.max(1, Math.floor((scroller.current?.clientHeight ?? ROW) / ROW) - 1);
    const to: Record<string, number> = {
      ...{ ArrowDown: at + 1, ArrowUp: at - 1, PageDown: at + page, PageUp: at - page },
      ...{ Home: 0, End: rows.length - 1 },
    };
    if (to[event.key] !== undefined) go(to[event.key]!);
    else if (event.key === 'ArrowRight' && row?.below === 'folded') onFold(row.id, true);
    else if (event.key === 'ArrowRight' && row?.below === 'open') go(at + 1);
    else if (event.key === 'ArrowLeft' && row?.below === 'open') onFold(row.id, false);
    else if (event.key === 'ArrowLeft' && row) {
      const up = rows.slice(0, at).findLastIndex(({ depth }) => depth < row.depth);
      if (up >= 0) go(up);
    } else return;
    event.preventDefault();
  };
  return (
    <Box
      ref={scroller}
      role="tree"
      aria-label="Terms"
      tabIndex={0}
      aria-activedescendant={at >= 0 ? `${treeId}-${at}` : undefined}
      onKeyDown={onKeyDown}
      sx={{
        ...{ overflow: 'auto', minHeight: 0, border: `1px solid ${GROUND.line}`, bgcolor: GROUND.deep },
        '&:focus-visible': { outline: 'none', borderColor: INK.full },
      }}
    >
      <Box role="presentation" sx={{ height: virtual.getTotalSize(), position: 'relative' }}>
        {virtual.getVirtualItems().map(({ index, start }) => {
          const { id, word, depth, below, aside } = rows[index]!;
          const here = index === at;
          return (
            <Box
              key={id}
              id={`${treeId}-${index}`}
              role="treeitem"
              aria-level={depth + 1}
              aria-selected={here}
              {...(below !== 'none' && { 'aria-expanded': below === 'open' })}
              onClick={() => onChoose(id)}
              onDoubleClick={() => below !== 'none' && onFold(id, below !== 'open')}
              sx={{
                ...{ position: 'absolute', top: 0, insetInline: 0, height: ROW, px: 1, cursor: 'default' },
                ...{
                  display: 'flex',
                  alignItems: 'center',
                  gap: 0.75,
                  whiteSpace: 'nowrap',
                  overflow: 'hidden',
                },
                ...(here && { bgcolor: GROUND.line }),
                '&:hover': { bgcolor: here ? GROUND.line : GROUND.raised },
              }}
              style={{ transform: `translateY(${start}px)`, paddingLeft: 8 + depth * 20 }}
            >
              <Box
                component="span"
                aria-hidden
                onClick={(event) => {
                  if (below === 'none') return;
                  event.stopPropagation();
                  onFold(id, below !== 'open');
                }}
                sx={{ width: 14, flex: 'none', color: INK.soft, textAlign: 'center' }}
              >
                {below === 'none' ? '' : below === 'open' ? '▾' : '▸'}
              </Box>
              <span>{word}</span>
              <Box
                component="span"
                sx={{ color: INK.soft, fontSize: 12.5, overflow: 'hidden', textOverflow: 'ellipsis' }}
              >
                {aside}
              </Box>
            </Box>
          );
        })}
      </Box>
    </Box>
  );
}

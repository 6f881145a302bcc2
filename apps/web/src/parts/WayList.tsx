import { Box, Typography } from '@mui/material';
import { shownName } from '@arkiv/core';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useRef } from 'react';
import { many } from '../data/format';
import { CAPTION, GROUND, INK, NOTE, STRIKE_TEXT } from '../theme/theme';

/** Height of one from → to pair. */
const ROW = 38;

interface Props {
  ways: readonly { from: string; to: string }[];
  /** what stands in the way; nothing happens before all are gone */
  problems?: readonly string[];
  /** what should be known before */
  warnings?: readonly string[];
  /** what is to be done before there is anything to show */
  todo?: string;
  onHover?: (path: string | null) => void;
}

/** Where each file goes, from → to, in as many rows as there are files. */
export function WayList({ ways, problems = [], warnings = [], todo, onHover }: Props) {
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: ways.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 8,
  });
  const [problem, ...more] = problems;
  const [warning, ...others] = warnings;
  return (
    <Box
      sx={{
        flex: 1,
        minHeight: 90,
        display: 'flex',
        flexDirection: 'column',
        borderTop: `1px solid ${GROUND.line}`,
      }}
    >
      <Box sx={{ px: 2.5, pt: 1, display: 'flex' }}>
        <Typography variant="h2" sx={{ flex: 1 }}>
          Where each file goes
        </Typography>
        <Box sx={{ color: INK.faint }}>{many(ways.length, 'file')}</Box>
      </Box>
      {problem && (
        <Box role="alert" sx={{ px: 2.5, pt: 0.5, color: STRIKE_TEXT, overflow: 'auto', maxHeight: 84 }}>
          {problem}
          {more.length > 0 && ` And ${many(more.length, 'more problem')}.`}
        </Box>
      )}
      {todo && <Box sx={{ ...CAPTION, px: 2.5, pt: 0.5, color: INK.soft }}>{todo}</Box>}
      {!problem && warning && (
        <Box role="note" sx={{ ...CAPTION, px: 2.5, pt: 0.5, color: NOTE, overflow: 'auto', maxHeight: 84 }}>
          {warning}
          {others.length > 0 && ` And ${many(others.length, 'more note')}.`}
        </Box>
      )}
      <Box
        ref={scroller}
        tabIndex={0}
        aria-label="Where each file goes"
        role="list"
        sx={{ flex: 1, overflow: 'auto', px: 2.5, py: 1 }}
      >
        <Box role="presentation" sx={{ height: virtual.getTotalSize(), position: 'relative' }}>
          {virtual.getVirtualItems().map((row) => {
            const item = ways[row.index]!;
            return (
              <Box
                key={item.from}
                role="listitem"
                onMouseEnter={() => onHover?.(item.from)}
                onMouseLeave={() => onHover?.(null)}
                sx={{
                  ...CAPTION,
                  position: 'absolute',
                  insetInline: 0,
                  height: ROW,
                  transform: `translateY(${row.start}px)`,
                  fontSize: 12.5,
                  lineHeight: 1.35,
                  whiteSpace: 'nowrap',
                  '&:hover': { bgcolor: GROUND.base },
                }}
              >
                <Box sx={{ color: INK.soft, overflow: 'hidden', textOverflow: 'ellipsis' }}>
                  {shownName(item.from)}
                </Box>
                <Box
                  sx={{ overflow: 'hidden', textOverflow: 'ellipsis', direction: 'rtl', textAlign: 'left' }}
                >
                  <bdi>→ {shownName(item.to)}</bdi>
                </Box>
              </Box>
            );
          })}
        </Box>
      </Box>
    </Box>
  );
}

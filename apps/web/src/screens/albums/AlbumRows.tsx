import { Box, Button } from '@mui/material';
import { useEffect, useId, useRef, useState, type DragEvent, type KeyboardEvent } from 'react';
import { many } from '../../data/format';
import type { Api } from '../../data/http';
import { LeadStrip } from '../../parts/LeadStrip';
import { CAPTION, GROUND, INK } from '../../theme/theme';
import type { AlbumMove, AlbumRow } from './albumMoves';

interface Props {
  rows: readonly AlbumRow[];
  holds: ReadonlyMap<string, Api['HeldAlbumDto']>;
  /** id of the one that one stands at */
  chosen: string;
  onChoose: (id: string) => void;
  onOpen: (id: string) => void;
  onFold: (id: string, open: boolean) => void;
  onMove: (id: string, where: AlbumMove) => void;
  onChange: (album: AlbumRow['album']) => void;
  /** another one is to stand in it */
  onWithin: (id: string) => void;
  onAway: (id: string) => void;
}

const DRAGGED = 'application/x-arkiv-album';
type Part = 'before' | 'into' | 'after';

/** Where over a line a hand is: its upper quarter means before it, its lower one behind it. */
function partOf(event: DragEvent): Part {
  const { top, height } = event.currentTarget.getBoundingClientRect();
  const share = (event.clientY - top) / height;
  return share < 0.25 ? 'before' : share > 0.75 ? 'after' : 'into';
}

/** The albums, walked by arrows, opened by Enter or a click on the name, moved by keys or by hand. */
export function AlbumRows(props: Props) {
  const { rows, holds, chosen, onChoose, onOpen, onFold, onMove, onChange, onWithin, onAway } = props;
  const treeId = useId();
  const box = useRef<HTMLDivElement>(null);
  const [over, setOver] = useState<{ id: string; part: Part } | null>(null);
  const dragged = useRef<string | null>(null);
  const at = Math.max(
    0,
    rows.findIndex(({ album }) => album.id === chosen),
  );
  useEffect(() => {
    box.current?.querySelector(`[data-at="${at}"]`)?.scrollIntoView({ block: 'nearest' });
  }, [at]);
  useEffect(() => box.current?.focus({ preventScroll: true }), []);
  const go = (to: number) => {
    const row = rows[Math.max(0, Math.min(rows.length - 1, to))];
    if (row) onChoose(row.album.id);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.target !== box.current) return;
    const row = rows[at]!;
    const { id } = row.album;
    const { key } = event;
    if (event.ctrlKey || event.metaKey) {
      const moves: Record<string, AlbumMove> = {
        ...{ ArrowUp: 'up', ArrowDown: 'down', ArrowRight: 'in', ArrowLeft: 'out' },
      };
      const where = moves[key];
      if (!where) return;
      onMove(id, where);
    } else if (key === 'ArrowDown') go(at + 1);
    else if (key === 'ArrowUp') go(at - 1);
    else if (key === 'Home') go(0);
    else if (key === 'End') go(rows.length - 1);
    else if (key === 'ArrowRight' && row.below === 'folded') onFold(id, true);
    else if (key === 'ArrowRight' && row.below === 'open') go(at + 1);
    else if (key === 'ArrowLeft' && row.below === 'open') onFold(id, false);
    else if (key === 'ArrowLeft') {
      const up = rows.slice(0, at).findLastIndex(({ depth }) => depth < row.depth);
      if (up >= 0) go(up);
    } else if (key === 'Enter') onOpen(id);
    else if (key === 'F2') onChange(row.album);
    else if (key === 'Delete') onAway(id);
    else return;
    event.preventDefault();
  };
  const { album, depth } = rows[at]!;
  const deeds: [words: string, keys: string, deed: () => void, can?: boolean][] = [
    ['Open', 'Enter', () => onOpen(album.id)],
    [album.rule === null ? 'Rename …' : 'Name and rule …', 'F2', () => onChange(album)],
    ['Album in it …', '', () => onWithin(album.id)],
    ['Up', 'Ctrl ↑', () => onMove(album.id, 'up')],
    ['Down', 'Ctrl ↓', () => onMove(album.id, 'down')],
    ['Into the one above', 'Ctrl →', () => onMove(album.id, 'in')],
    ['Out', 'Ctrl ←', () => onMove(album.id, 'out'), depth > 0],
    ['Take away', 'Delete', () => onAway(album.id)],
  ];
  return (
    <>
      <Box
        ref={box}
        role="tree"
        aria-label="Albums"
        tabIndex={0}
        aria-activedescendant={`${treeId}-${at}`}
        onKeyDown={onKeyDown}
        sx={{
          border: `1px solid ${GROUND.line}`,
          '&:focus-visible': { outline: 'none', borderColor: INK.full },
        }}
      >
        {rows.map((row, i) => {
          const { id, name, rule } = row.album;
          const its = holds.get(id);
          const here = i === at;
          const part = over?.id === id ? over.part : null;
          return (
            <Box
              key={id}
              id={`${treeId}-${i}`}
              data-at={i}
              role="treeitem"
              aria-level={row.depth + 1}
              aria-selected={here}
              {...(row.below !== 'none' && { 'aria-expanded': row.below === 'open' })}
              draggable
              onDragStart={(event) => {
                dragged.current = id;
                event.dataTransfer.setData(DRAGGED, id);
              }}
              onDragEnd={() => setOver(null)}
              onDragOver={(event) => {
                if (!event.dataTransfer.types.includes(DRAGGED)) return;
                event.preventDefault();
                const next = partOf(event);
                if (over?.id !== id || over.part !== next) setOver({ id, part: next });
              }}
              onDrop={(event) => {
                event.preventDefault();
                setOver(null);
                if (dragged.current) onMove(dragged.current, { over: id, part: partOf(event) });
              }}
              onClick={() => onChoose(id)}
              onDoubleClick={() => onOpen(id)}
              sx={{
                ...{ display: 'flex', alignItems: 'center', gap: 1.5, py: 0.75, pr: 2, minWidth: 0 },
                ...{ contentVisibility: 'auto', containIntrinsicSize: 'auto 60px' },
                borderBottom: `1px solid ${GROUND.raised}`,
                bgcolor: here ? GROUND.line : part === 'into' ? GROUND.raised : undefined,
                boxShadow:
                  part === 'before'
                    ? `inset 0 2px 0 ${INK.full}`
                    : part === 'after'
                      ? `inset 0 -2px 0 ${INK.full}`
                      : undefined,
              }}
              style={{ paddingLeft: 10 + row.depth * 26 }}
            >
              <Box
                component="span"
                aria-hidden
                onClick={(event) => {
                  if (row.below === 'none') return;
                  event.stopPropagation();
                  onFold(id, row.below !== 'open');
                }}
                sx={{ width: 16, flex: 'none', color: INK.soft, cursor: 'default' }}
              >
                {row.below === 'none' ? '' : row.below === 'open' ? '▾' : '▸'}
              </Box>
              <LeadStrip leads={its?.pictures.slice(0, 4) ?? []} height={48} places={4} />
              <Box sx={{ minWidth: 0, flex: 1 }}>
                <Box
                  component="span"
                  onClick={(event) => {
                    event.stopPropagation();
                    onOpen(id);
                  }}
                  sx={{ fontWeight: 640, cursor: 'pointer', '&:hover': { textDecoration: 'underline' } }}
                >
                  {name}
                </Box>
                <Box sx={{ ...CAPTION, color: its?.problem ? 'error.main' : INK.soft }}>
                  {its?.problem ??
                    [its && many(its.count, 'frame'), rule !== null && `by its rule: ${rule}`]
                      .filter(Boolean)
                      .join(' · ')}
                </Box>
              </Box>
            </Box>
          );
        })}
      </Box>
      <Box
        role="toolbar"
        aria-label={`The album ${album.name}`}
        sx={{ display: 'flex', flexWrap: 'wrap', mt: 1 }}
      >
        {deeds.map(([words, keys, deed, can = true]) => (
          <Button key={words} size="small" color="inherit" disabled={!can} onClick={deed}>
            {words}
            <Box component="kbd" sx={{ ...CAPTION, color: INK.faint, ml: 0.75 }}>
              {keys}
            </Box>
          </Button>
        ))}
      </Box>
    </>
  );
}

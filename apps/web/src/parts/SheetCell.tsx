import { Box } from '@mui/material';
import type { Label, Verdict } from '@arkiv/core';
import { memo, useState, useSyncExternalStore, type MouseEvent, type ReactNode } from 'react';
import { pictureTries } from '../data/pictureTries';
import { CAPTION, GROUND, INK, STRIKE_TEXT } from '../theme/theme';
import { CAPTION_HEIGHT, GAP, MARGIN } from './ContactSheet';
import { KeepRing, LabelTab, RejectStrike, Stars } from './Marks';

interface Props {
  /** which one of the sheet's it is, told to whoever hears of a click: one function serves all cells */
  index: number;
  id?: string;
  src: string | null;
  /** what a screen reader says */
  name: string;
  caption: ReactNode;
  verdict: Verdict;
  stars: number;
  label: Label | null;
  selected: boolean;
  current: boolean;
  dimmed?: boolean;
  width: number;
  height: number;
  /** the picture's own width by height; null: not known, and it gets the whole cell */
  aspect?: number | null;
  /** where it stands on its take's strip */
  take?: 'first' | 'middle' | 'last' | null;
  /** being chosen is the usual state here, and is not drawn */
  plain?: boolean;
  /** stands first in the caption line: what a click chooses, where one on the picture opens it */
  control?: ReactNode;
  /** what is wrong with its file */
  sign?: string | null;
  /** said across the picture when it has none */
  noPicture?: string;
  onPick: (index: number, event: MouseEvent) => void;
  onOpen?: (index: number) => void;
}

/** The largest size of a picture in a box. */
function fitted(width: number, height: number, aspect: number | null): { width: number; height: number } {
  if (aspect === null) return { width, height };
  return aspect > width / height
    ? { width, height: Math.round(width / aspect) }
    : { width: Math.round(height * aspect), height };
}

/** A frame on a contact sheet: picture, marks in the margin, and a caption line like a film's edge. */
export const SheetCell = memo(function SheetCell(props: Props) {
  const {
    index,
    onPick,
    onOpen,
    id,
    src,
    name,
    caption,
    verdict,
    stars,
    label,
    selected: chosen,
    current,
    plain,
    dimmed,
    width,
    height,
    aspect = null,
    take = null,
    noPicture = 'no picture',
    sign = null,
    control,
  } = props;
  const selected = chosen && !plain;
  const shown = fitted(width - MARGIN * 2, height - MARGIN * 2, aspect);
  // The ring goes round the picture, not round the cell.
  const around = { width: shown.width + MARGIN * 2, height: shown.height + MARGIN * 2 };
  const tries = useSyncExternalStore(pictureTries.subscribe, pictureTries.snapshot);
  const [failed, setFailed] = useState<{ src: string; tries: number } | null>(null);
  return (
    <Box
      id={id}
      role="option"
      aria-selected={chosen}
      aria-label={name}
      data-current={current || undefined}
      onClick={(event) => onPick(index, event)}
      onDoubleClick={() => onOpen?.(index)}
      sx={{ position: 'relative', cursor: 'default', userSelect: 'none', height: '100%' }}
    >
      <Box
        sx={{
          position: 'relative',
          width,
          height,
          display: 'grid',
          placeItems: 'center',
          bgcolor: selected ? '#2c2c2c' : GROUND.deep,
          outline: current ? `2px solid ${INK.full}` : selected ? `1px solid ${INK.soft}` : 'none',
          outlineOffset: '-1px',
          '&:hover': { bgcolor: selected ? '#2c2c2c' : '#1f1f1f' },
        }}
      >
        {src && (src !== failed?.src || tries !== failed.tries) ? (
          <img
            src={src}
            alt=""
            draggable={false}
            decoding="async"
            onError={() => setFailed({ src, tries })}
            style={{
              ...shown,
              objectFit: 'contain',
              opacity: dimmed || verdict === 'reject' ? 0.38 : 1,
            }}
          />
        ) : (
          <Box sx={{ color: INK.faint }}>{noPicture}</Box>
        )}
        {verdict === 'keep' && <KeepRing {...around} />}
        {verdict === 'reject' && <RejectStrike {...around} />}
      </Box>
      {take && <TakeLine take={take} width={width} top={height} />}
      <Box
        sx={{
          ...CAPTION,
          display: 'flex',
          gap: 0.75,
          alignItems: 'center',
          // The strip's line runs along the top.
          pt: '4px',
          height: CAPTION_HEIGHT,
          fontSize: 12,
          color: INK.soft,
          px: 0.5,
          whiteSpace: 'nowrap',
          overflow: 'hidden',
        }}
      >
        {control}
        <Box component="span" sx={{ flex: 1, overflow: 'hidden', textOverflow: 'ellipsis' }}>
          {caption}
          {sign && (
            <Box component="span" sx={{ color: STRIKE_TEXT }}>
              {' '}
              · {sign}
            </Box>
          )}
        </Box>
        <Stars stars={stars} />
        {label && <LabelTab label={label} />}
      </Box>
    </Box>
  );
});

/** The common base line of a take's frames, with its ends turned up like the edge of a cut strip. */
function TakeLine({ take, width, top }: { take: 'first' | 'middle' | 'last'; width: number; top: number }) {
  const left = take === 'first' ? 6 : -GAP / 2;
  const right = take === 'last' ? 6 : -GAP / 2;
  return (
    <Box
      aria-hidden
      data-take={take}
      sx={{
        position: 'absolute',
        top: top - 1,
        left,
        width: width - left - right,
        height: 5,
        borderBottom: `2px solid ${INK.soft}`,
        borderLeft: take === 'first' ? `2px solid ${INK.soft}` : 0,
        borderRight: take === 'last' ? `2px solid ${INK.soft}` : 0,
        pointerEvents: 'none',
      }}
    />
  );
}

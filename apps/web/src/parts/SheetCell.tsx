import { Box } from '@mui/material';
import type { Label, Verdict } from '@arkiv/core';
import { memo, type MouseEvent, type ReactNode } from 'react';
import { CAPTION, GROUND, INK } from '../theme/theme';
import { KeepRing, LabelTab, RejectStrike, Stars } from './Marks';

interface Props {
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
  /** Exif orientation, for pictures that are not turned yet */
  orientation?: number;
  onPick: (event: MouseEvent) => void;
  onOpen: () => void;
}

/** Turns that Exif's orientation asks for, for thumbnails straight from the camera. */
const TURN: Record<number, string> = { 3: 'rotate(180deg)', 6: 'rotate(90deg)', 8: 'rotate(-90deg)' };

/** A frame on a contact sheet: picture, marks in the margin, and a caption line like a film's edge. */
export const SheetCell = memo(function SheetCell(props: Props) {
  const {
    src,
    name,
    caption,
    verdict,
    stars,
    label,
    selected,
    current,
    dimmed,
    width,
    height,
    orientation = 1,
  } = props;
  // Pixels around the picture: the margin in which the ring is drawn.
  const inset = 13;
  const turned = TURN[orientation];
  const lying = orientation === 6 || orientation === 8;
  return (
    <Box
      role="option"
      aria-selected={selected}
      aria-label={name}
      data-current={current || undefined}
      onClick={props.onPick}
      onDoubleClick={props.onOpen}
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
        {src ? (
          <img
            src={src}
            alt=""
            draggable={false}
            decoding="async"
            style={{
              maxWidth: (lying ? height : width) - inset * 2,
              maxHeight: (lying ? width : height) - inset * 2,
              transform: turned,
              opacity: dimmed || verdict === 'reject' ? 0.38 : 1,
            }}
          />
        ) : (
          <Box sx={{ color: INK.faint }}>no picture</Box>
        )}
        {verdict === 'keep' && <KeepRing width={width} height={height} />}
        {verdict === 'reject' && <RejectStrike width={width} height={height} />}
      </Box>
      <Box
        sx={{
          ...CAPTION,
          display: 'flex',
          gap: 0.75,
          alignItems: 'center',
          height: 22,
          fontSize: 12,
          color: INK.soft,
          px: 0.5,
          whiteSpace: 'nowrap',
          overflow: 'hidden',
        }}
      >
        <Box component="span" sx={{ flex: 1, overflow: 'hidden', textOverflow: 'ellipsis' }}>
          {caption}
        </Box>
        <Stars stars={stars} />
        {label && <LabelTab label={label} />}
      </Box>
    </Box>
  );
});

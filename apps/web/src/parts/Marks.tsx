import { Box } from '@mui/material';
import type { Label } from '@arkiv/core';
import { INK, LABEL_COLOURS, MARKER, STRIKE } from '../theme/theme';

/** The hand-drawn ring of a keeper, in the margin around a picture; drawn twice over, as a marker is. */
export function KeepRing({ width, height }: { width: number; height: number }) {
  const w = width;
  const h = height;
  return (
    <svg
      width={w}
      height={h}
      viewBox={`0 0 ${w} ${h}`}
      aria-hidden="true"
      style={{ position: 'absolute', inset: 0, pointerEvents: 'none' }}
    >
      <path
        d={`M 24 6 C 9 6.5, 5 11, 5.5 27 C 4 ${h * 0.5}, 4.5 ${h * 0.7}, 5.5 ${h - 25} C 6 ${h - 9}, 10 ${h - 5}, 27 ${h - 5}
            C ${w * 0.4} ${h - 3}, ${w * 0.7} ${h - 4.5}, ${w - 27} ${h - 5} C ${w - 9} ${h - 6}, ${w - 5} ${h - 10}, ${w - 5} ${h - 27}
            C ${w - 3.5} ${h * 0.6}, ${w - 4} ${h * 0.3}, ${w - 5.5} 25 C ${w - 6.5} 9, ${w - 11} 5, ${w - 28} 4.5
            C ${w * 0.6} 3, ${w * 0.4} 3.5, 34 8 C 24 9.5, 15 12, 11 18`}
        fill="none"
        stroke={MARKER}
        strokeWidth="3.5"
        strokeLinecap="round"
        opacity="0.95"
      />
    </svg>
  );
}

/** The strike of a reject, once across. */
export function RejectStrike({ width, height }: { width: number; height: number }) {
  return (
    <svg
      width={width}
      height={height}
      viewBox={`0 0 ${width} ${height}`}
      aria-hidden="true"
      style={{ position: 'absolute', inset: 0, pointerEvents: 'none' }}
    >
      <path
        d={`M ${width * 0.06} ${height * 0.9} C ${width * 0.35} ${height * 0.62}, ${width * 0.6} ${height * 0.42}, ${width * 0.95} ${height * 0.1}`}
        fill="none"
        stroke={STRIKE}
        strokeWidth="4"
        strokeLinecap="round"
      />
    </svg>
  );
}

/** A label: a small tab with its letter, so that it reads without colour. */
export function LabelTab({ label, name }: { label: Label; name?: string }) {
  return (
    <Box
      component="span"
      title={name}
      sx={{
        display: 'inline-block',
        minWidth: 16,
        px: '4px',
        textAlign: 'center',
        bgcolor: LABEL_COLOURS[label],
        color: label === 'A' || label === 'M' ? '#141414' : '#fff',
        fontWeight: 700,
        fontSize: 11,
        lineHeight: '15px',
        clipPath: 'polygon(0 0, 100% 0, 100% 100%, 50% 82%, 0 100%)',
        pb: '2px',
      }}
    >
      {label}
    </Box>
  );
}

export const verdictWords = { keep: 'keep', reject: 'reject', undecided: 'undecided' } as const;

/** Stars as the film edge writes them: the figure and one star. */
export function Stars({ stars }: { stars: number }) {
  return stars > 0 ? (
    <Box component="span" sx={{ color: INK.full, fontWeight: 620 }} aria-label={`${stars} stars`}>
      {stars}★
    </Box>
  ) : null;
}

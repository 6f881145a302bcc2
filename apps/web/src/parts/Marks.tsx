import { Box } from '@mui/material';
import type { Label } from '@arkiv/core';
import { INK, LABEL_COLOURS, MARKER, STRIKE } from '../theme/theme';

/** The hand-drawn ring of a keeper, in the margin around a picture; drawn twice over, as a marker is. */
export function KeepRing({ width, height }: { width: number; height: number }) {
  const w = width, h = height;
  return (
    <svg width={w} height={h} viewBox={`0 0 ${w} ${h}`} aria-hidden="true" style={{ position: 'absolute', inset: 0, pointerEvents: 'none' }}>
      <path
        d={`M ${w * 0.07} ${h * 0.2} C ${w * 0.02} ${h * 0.5}, ${w * 0.012} ${h * 0.8}, ${w * 0.05} ${h * 0.95}
            C ${w * 0.3} ${h * 1.0}, ${w * 0.75} ${h * 0.985}, ${w * 0.965} ${h * 0.96}
            C ${w * 1.0} ${h * 0.7}, ${w * 0.985} ${h * 0.3}, ${w * 0.965} ${h * 0.045}
            C ${w * 0.7} ${h * 0.005}, ${w * 0.3} ${h * 0.012}, ${w * 0.03} ${h * 0.055}
            C ${w * 0.022} ${h * 0.11}, ${w * 0.018} ${h * 0.2}, ${w * 0.016} ${h * 0.3}`}
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
    <svg width={width} height={height} viewBox={`0 0 ${width} ${height}`} aria-hidden="true" style={{ position: 'absolute', inset: 0, pointerEvents: 'none' }}>
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
      sx={{ display: 'inline-block', minWidth: 16, px: '4px', textAlign: 'center', bgcolor: LABEL_COLOURS[label], color: label === 'A' || label === 'M' ? '#141414' : '#fff', fontWeight: 700, fontSize: 11, lineHeight: '15px', clipPath: 'polygon(0 0, 100% 0, 100% 100%, 50% 82%, 0 100%)', pb: '2px' }}
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

import type { Label } from '@arkiv/core';
import { LABEL_COLOURS, LABEL_INK, MARKER, STRIKE } from '../theme/theme';
import styles from './Marks.module.css';

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
      style={{ position: 'absolute', inset: 0, margin: 'auto', pointerEvents: 'none' }}
    >
      <path
        d={`M 20 4 C 9 4, 4.500 7, 4 19 C 2.500 ${h * 0.5}, 3.500 ${h * 0.7}, 4 ${h - 18} C 4 ${h - 7}, 8 ${h - 3.5}, 20 ${h - 3.5}
            C ${w * 0.4} ${h - 2}, ${w * 0.7} ${h - 3.5}, ${w - 20} ${h - 4} C ${w - 8} ${h - 4}, ${w - 4} ${h - 7}, ${w - 4} ${h - 20}
            C ${w - 2.5} ${h * 0.6}, ${w - 3} ${h * 0.3}, ${w - 4} 20 C ${w - 4} 8, ${w - 8} 4, ${w - 21} 3.500
            C ${w * 0.6} 2, ${w * 0.4} 2.500, 30 6 C 21 7.500, 12 8, 9 14`}
        fill="none"
        stroke={MARKER}
        strokeWidth="3"
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
      style={{ position: 'absolute', inset: 0, margin: 'auto', pointerEvents: 'none' }}
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
    <span
      title={name}
      className={styles.tab}
      style={{ background: LABEL_COLOURS[label], color: LABEL_INK[label] }}
    >
      {label}
    </span>
  );
}

export const verdictWords = { keep: 'keep', reject: 'reject', undecided: 'undecided' } as const;

/** Stars as the film edge writes them: the figure and one star. */
export function Stars({ stars }: { stars: number }) {
  return stars > 0 ? (
    <span className={styles.stars} aria-label={`${stars} stars`}>
      {stars}★
    </span>
  ) : null;
}

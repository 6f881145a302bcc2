import { Box } from '@mui/material';
import type { Verdict } from '@arkiv/core';
import { useEffect, useRef, useState } from 'react';
import { CAPTION, GROUND, INK, MARKER, STRIKE } from '../theme/theme';

export interface StripFrame {
  id: string;
  /** milliseconds since 1970 UTC, corrected; null stands at the end */
  instant: number | null;
  /** wall clock `HH:mm` */
  clock: string;
  verdict: Verdict;
  /** hidden by the filter */
  hidden: boolean;
}

export interface StripTick {
  /** 0…1 along the strip */
  at: number;
  /** set at the first frame after a pause */
  clock: string | null;
}

/** Seconds of a pause that ends one scene: bursts and their neighbours stay together, changes of scene part. */
const PAUSE = 20;

/**
 * Where each frame stands. Time runs left to right, but long pauses are drawn in (their width grows with the
 * logarithm), so that an evening with an hour's dinner still shows its bursts.
 */
export function stripTicks(frames: readonly Pick<StripFrame, 'instant' | 'clock'>[]): StripTick[] {
  let x = 0;
  const places = frames.map((frame, i) => {
    const before = i > 0 ? frames[i - 1]! : null;
    const seconds = before
      ? Math.max(0, ((frame.instant ?? before.instant ?? 0) - (before.instant ?? 0)) / 1000)
      : 0;
    if (before) x += 1 + Math.log2(1 + seconds) * 1.1;
    return { x, clock: !before || seconds > PAUSE ? frame.clock : null };
  });
  const last = places.at(-1)?.x || 1;
  return places.map(({ x: at, clock }) => ({ at: at / last, clock }));
}

const HEIGHT = 56;
const MARGIN = 16;

interface Props {
  frames: readonly StripFrame[];
  /** where the frames stand; made apart from them, since marks do not move anything */
  ticks: readonly StripTick[];
  current: string | null;
  /** indices of frames that begin a new part */
  cuts?: readonly number[];
  label?: string;
  onGo: (id: string) => void;
}

/** The time axis of a shoot: a tick for every frame, marks on the ticks, a play head. */
export function TimeStrip({ frames, ticks, current, cuts = [], label = 'Time of the shoot', onGo }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [width, setWidth] = useState(0);
  const at = frames.findIndex((f) => f.id === current);
  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => setWidth(entry?.contentRect.width ?? 0));
    if (canvas.current?.parentElement) observer.observe(canvas.current.parentElement);
    return () => observer.disconnect();
  }, []);
  const [lettered, setLettered] = useState(false);
  useEffect(() => {
    // A canvas does not wait for its typeface, and is not drawn anew when that comes.
    void document.fonts?.load(`12px ${CAPTION.fontFamily}`).then(() => setLettered(true));
  }, []);
  useEffect(() => {
    if (canvas.current && width > 0) draw(canvas.current, width, frames, ticks);
  }, [width, frames, ticks, lettered]);
  const go = (clientX: number) => {
    const box = canvas.current?.getBoundingClientRect();
    if (!box || frames.length === 0) return;
    const wanted = (clientX - box.left - MARGIN) / (box.width - 2 * MARGIN);
    let best = 0;
    ticks.forEach((tick, i) => {
      if (Math.abs(tick.at - wanted) < Math.abs(ticks[best]!.at - wanted)) best = i;
    });
    onGo(frames[best]!.id);
  };
  const here = frames[at];
  return (
    <Box
      role="slider"
      aria-label={label}
      aria-valuemin={frames.length > 0 ? 1 : 0}
      aria-valuemax={frames.length}
      aria-valuenow={at + 1}
      aria-valuetext={here ? `frame ${at + 1} of ${frames.length}, ${here.clock}` : 'no frame'}
      tabIndex={0}
      // A click goes to a frame and leaves the focus where it was.
      onMouseDown={(e) => e.preventDefault()}
      onPointerDown={(e) => go(e.clientX)}
      onPointerMove={(e) => e.buttons === 1 && go(e.clientX)}
      sx={{
        height: HEIGHT,
        bgcolor: GROUND.deep,
        borderBottom: `1px solid ${GROUND.line}`,
        position: 'relative',
        overflow: 'hidden',
      }}
    >
      <canvas ref={canvas} style={{ display: 'block', width: '100%', height: HEIGHT - 1 }} />
      {cuts.map((cut, i) => (
        <Cut
          key={cut}
          part={i + 2}
          left={MARGIN + (((ticks[cut - 1]?.at ?? 0) + (ticks[cut]?.at ?? 0)) / 2) * (width - 2 * MARGIN)}
        />
      ))}
      {at >= 0 && ticks[at] && <PlayHead left={MARGIN + ticks[at].at * (width - 2 * MARGIN)} />}
    </Box>
  );
}

/** Where one part ends and the next begins, with the next one's number. */
function Cut({ left, part }: { left: number; part: number }) {
  return (
    <Box
      aria-hidden
      data-cut={part}
      sx={{
        position: 'absolute',
        top: 14,
        bottom: 0,
        left: Math.round(left),
        borderLeft: `2px dashed ${MARKER}`,
        color: MARKER,
        fontSize: 12,
        lineHeight: 1,
        pl: '3px',
        pointerEvents: 'none',
      }}
    >
      <Box component="span" sx={{ bgcolor: GROUND.deep }}>
        {part}
      </Box>
    </Box>
  );
}

/** Apart from the ticks, so that a step moves one element and draws nothing anew. */
function PlayHead({ left }: { left: number }) {
  return (
    <svg
      width="12"
      height="37"
      viewBox="0 0 12 37"
      aria-hidden="true"
      style={{
        position: 'absolute',
        top: 17,
        left: 0,
        transform: `translateX(${Math.round(left) - 5}px)`,
        pointerEvents: 'none',
      }}
    >
      <path d="M5 0h2v29h4l-5 7-5-7h4z" fill={INK.full} />
    </svg>
  );
}

function draw(
  canvas: HTMLCanvasElement,
  width: number,
  frames: readonly StripFrame[],
  ticks: readonly StripTick[],
): void {
  const ratio = window.devicePixelRatio || 1;
  canvas.width = Math.round(width * ratio);
  canvas.height = Math.round((HEIGHT - 1) * ratio);
  const g = canvas.getContext('2d');
  if (!g) return;
  g.scale(ratio, ratio);
  const span = width - 2 * MARGIN;
  const x = (i: number) => MARGIN + ticks[i]!.at * span;
  g.font = `12px ${CAPTION.fontFamily}`;
  (g as CanvasRenderingContext2D & { fontStretch?: string }).fontStretch = 'semi-condensed';
  let labelEnd = -Infinity;
  let drawn = { px: -1, rank: -1 };
  const thin = span / Math.max(1, frames.length) < 3 ? 1 : 2;
  frames.forEach((frame, i) => {
    const px = Math.round(x(i));
    const { clock } = ticks[i]!;
    if (clock && px > labelEnd + 10) {
      g.fillStyle = INK.faint;
      g.fillText(clock, px - 1, 13);
      labelEnd = px + g.measureText(clock).width;
    }
    const reject = frame.verdict === 'reject';
    // Thousands of frames share a pixel: there the one that matters most is drawn, keepers before all.
    const rank = (frame.hidden ? 0 : 3) + (frame.verdict === 'keep' ? 2 : reject ? 0 : 1);
    if (px === drawn.px && rank <= drawn.rank) return;
    drawn = { px, rank };
    g.globalAlpha = frame.hidden ? 0.3 : 1;
    g.fillStyle = frame.verdict === 'keep' ? MARKER : reject ? STRIKE : INK.soft;
    g.fillRect(px, reject ? 36 : 20, thin, reject ? 8 : 24);
    g.globalAlpha = 1;
  });
}

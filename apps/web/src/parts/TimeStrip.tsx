import { Box } from '@mui/material';
import type { Verdict } from '@arkiv/core';
import { useEffect, useRef, useState, type WheelEvent as ReactWheelEvent, memo } from 'react';
import { CAPTION, GROUND, INK, MARKER, STRIKE } from '../theme/theme';
import {
  CLOSER,
  firstTick,
  firstWhere,
  including,
  moved,
  nearestTick,
  WHOLE,
  zoomed,
  type StripRows,
  type StripTick,
  type StripView,
} from './stripView';
import styles from './TimeStrip.module.css';

/** A frame on the strip. */
export interface StripFrame {
  id: string;
  verdict: Verdict;
}

const HEIGHT = 56;
const MARGIN = 16;

interface Props {
  frames: readonly StripFrame[];
  /** where the frames stand; made apart from them, since marks do not move anything */
  ticks: readonly StripTick[];
  /** which of them is stood at; -1: none */
  current: number;
  /** the current one's time of day */
  clock?: string;
  /** whether the filter hides one */
  hides?: (place: number) => boolean;
  /** bodies that shot beside each other, and takes: each body has a lane; not given: there is one, and no takes */
  rows?: StripRows;
  /** places of frames that seem to be of one moment, in two lanes: each is joined by a line */
  pairs?: readonly (readonly [number, number])[];
  /** frames before which a shoot is split */
  cuts?: readonly number[];
  label?: string;
  /** counts what changed the frames' marks, and tells the places of those; without it all is drawn anew */
  version?: number;
  changedSince?: (version: number) => readonly number[] | null;
  /** another one when the filter has changed */
  judged?: unknown;
  onGo: (id: string) => void;
}

const SHOWN = (): boolean => false;
const NO_PAIRS: readonly (readonly [number, number])[] = [];
const ONE_LANE: StripRows = { lanes: 1, laneOf: () => 0, takeOf: () => -1 };

/** All frames over time: a click or a drag goes there, the wheel looks closer. */
export const TimeStrip = memo(function TimeStrip(props: Props) {
  const { frames, ticks, current, clock, hides = SHOWN, cuts = [], label = 'Time of the shoot' } = props;
  const { rows = ONE_LANE, version = 0, changedSince, judged, pairs = NO_PAIRS, onGo } = props;
  const canvas = useRef<HTMLCanvasElement>(null);
  const [width, setWidth] = useState(0);
  const here = ticks[current]?.at;
  const [view, setView] = useState<StripView>(WHOLE);
  const [stood, setStood] = useState(current);
  if (stood !== current) {
    // A step outside of what is looked at takes the look along.
    setStood(current);
    if (here !== undefined) setView(including(view, here));
  }
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
  const drawn = useRef<{ version: number; of: readonly unknown[] } | null>(null);
  useEffect(() => {
    if (!canvas.current || width === 0) return;
    // Marks change a few places; anything else draws the whole strip.
    const of = [width, ticks, rows, view, lettered, judged, ...(changedSince ? [] : [frames, hides])];
    const same = drawn.current?.of.every((value, i) => value === of[i]) ?? false;
    const changed = same ? (changedSince?.(drawn.current!.version) ?? null) : null;
    const drawing = { width, frames, ticks, rows, hides, view };
    if (changed) drawPlaces(canvas.current, drawing, changed);
    else draw(canvas.current, drawing);
    drawn.current = { version, of };
  }, [width, frames, ticks, rows, hides, judged, view, lettered, version, changedSince]);
  const span = Math.max(1, width - 2 * MARGIN);
  const x = (at: number) => MARGIN + ((at - view.from) / (view.to - view.from)) * span;
  const whereIs = (clientX: number) => {
    const left = canvas.current?.getBoundingClientRect().left ?? 0;
    return view.from + ((clientX - left - MARGIN) / span) * (view.to - view.from);
  };
  const go = (clientX: number) => {
    const nearest = nearestTick(ticks, whereIs(clientX));
    if (frames[nearest]) onGo(frames[nearest].id);
  };
  const onWheel = ({ clientX, deltaX, deltaY, shiftKey }: ReactWheelEvent) => {
    if (shiftKey || Math.abs(deltaX) > Math.abs(deltaY))
      setView((now) => moved(now, ((deltaX || deltaY) / span) * (now.to - now.from)));
    else if (deltaY !== 0) {
      const about = whereIs(clientX);
      setView((now) => zoomed(now, about, deltaY < 0 ? CLOSER : 1 / CLOSER, frames.length));
    }
  };
  const times = 1 / (view.to - view.from);
  return (
    <div
      role="slider"
      aria-label={label}
      aria-valuemin={frames.length > 0 ? 1 : 0}
      aria-valuemax={frames.length}
      aria-valuenow={current + 1}
      aria-valuetext={
        here === undefined
          ? 'no frame'
          : `frame ${current + 1} of ${frames.length}${clock ? `, ${clock}` : ''}`
      }
      tabIndex={0}
      // A click goes to a frame and leaves the focus where it was.
      onMouseDown={(e) => e.preventDefault()}
      onPointerDown={(e) => go(e.clientX)}
      onPointerMove={(e) => e.buttons === 1 && go(e.clientX)}
      onWheel={onWheel}
      className={styles.strip}
      style={{ height: HEIGHT }}
    >
      <canvas ref={canvas} style={{ display: 'block', width: '100%', height: HEIGHT - 1 }} />
      {pairs.length > 0 && (
        <Pairs
          of={pairs.map(([a, b]) =>
            [a, b].map((place) => ({ at: x(ticks[place]?.at ?? 0), lane: rows.laneOf(place) })),
          )}
          lanes={rows.lanes}
        />
      )}
      {cuts.map((cut, i) => (
        <Cut key={cut} part={i + 2} left={x(((ticks[cut - 1]?.at ?? 0) + (ticks[cut]?.at ?? 0)) / 2)} />
      ))}
      {here !== undefined && <PlayHead left={x(here)} />}
      {times > 1 && <Whole times={times} onWhole={() => setView(WHOLE)} />}
    </div>
  );
});

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

/** What two bodies saw at one moment, while their clocks say otherwise: a line from the one lane to the other. */
function Pairs({ of, lanes }: { of: readonly (readonly { at: number; lane: number }[])[]; lanes: number }) {
  return (
    <svg
      width="100%"
      height={HEIGHT - 1}
      aria-hidden="true"
      data-pairs={of.length}
      style={{ position: 'absolute', top: 0, left: 0, pointerEvents: 'none' }}
    >
      {of.map((pair) => {
        const [high, low] = [...pair].sort((a, b) => a.lane - b.lane);
        const [above, below] = [laneBox(lanes, high!.lane), laneBox(lanes, low!.lane)];
        return (
          <line
            key={`${high!.at} ${low!.at}`}
            {...{
              x1: high!.at,
              y1: above.top + above.height / 2,
              x2: low!.at,
              y2: below.top + below.height / 2,
            }}
            stroke={INK.full}
            strokeWidth={1.5}
          />
        );
      })}
    </svg>
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

/** How much closer the strip is looked at, and the way back. */
function Whole({ times, onWhole }: { times: number; onWhole: () => void }) {
  return (
    <Box
      component="button"
      type="button"
      tabIndex={-1}
      title="The wheel looks closer or further; with Shift it goes along. A click shows the whole strip."
      onPointerDown={(event) => event.stopPropagation()}
      onClick={onWhole}
      sx={{
        ...CAPTION,
        position: 'absolute',
        top: 1,
        right: 4,
        border: 0,
        px: 0.75,
        py: 0,
        fontSize: 12,
        lineHeight: '15px',
        color: INK.full,
        bgcolor: GROUND.raised,
        cursor: 'pointer',
      }}
    >
      ×{times < 10 ? times.toFixed(1) : Math.round(times)} · whole
    </Box>
  );
}

interface Drawing {
  width: number;
  frames: readonly StripFrame[];
  ticks: readonly StripTick[];
  rows: StripRows;
  hides: (place: number) => boolean;
  view: StripView;
}

/** Where a lane's frames stand, and the line below its takes: pixels from the top. */
function laneBox(lanes: number, lane: number): { top: number; height: number; line: number } {
  const each = (HEIGHT - 1 - FRAMES_TOP) / lanes;
  const top = Math.round(FRAMES_TOP + 1 + lane * each);
  const height = Math.round(each - (lanes === 1 ? 12 : 5));
  return { top, height, line: top + height + 2 };
}

/** Pixels from the top: clocks above, frames below. */
const FRAMES_TOP = 18;

const pixelOf = ({ ticks, view, width }: Drawing, place: number): number =>
  Math.round(MARGIN + ((ticks[place]!.at - view.from) / (view.to - view.from)) * (width - 2 * MARGIN));

/** Two pixels a frame, where there is room for them. */
const thinOf = ({ width, frames, view }: Drawing): number =>
  (width - 2 * MARGIN) / (view.to - view.from) / Math.max(1, frames.length) < 3 ? 1 : 2;

function draw(canvas: HTMLCanvasElement, drawing: Drawing): void {
  const { width, ticks, view } = drawing;
  const ratio = window.devicePixelRatio || 1;
  canvas.width = Math.round(width * ratio);
  canvas.height = Math.round((HEIGHT - 1) * ratio);
  const g = canvas.getContext('2d');
  if (!g) return;
  g.setTransform(ratio, 0, 0, ratio, 0, 0);
  g.font = `12px ${CAPTION.fontFamily}`;
  (g as CanvasRenderingContext2D & { fontStretch?: string }).fontStretch = 'semi-condensed';
  let labelEnd = -Infinity;
  const first = Math.max(0, firstTick(ticks, view.from) - 1);
  const end = Math.min(ticks.length, firstTick(ticks, view.to) + 1);
  for (let place = first; place < end;) {
    const px = pixelOf(drawing, place);
    // Thousands of frames share a pixel.
    let next = place;
    for (; next < end && pixelOf(drawing, next) === px; next++) {
      const { clock } = ticks[next]!;
      if (!clock || px <= labelEnd + 10) continue;
      g.fillStyle = INK.faint;
      g.fillText(clock, px - 1, 13);
      labelEnd = px + g.measureText(clock).width;
    }
    drawPixel(g, drawing, px, place, next);
    place = next;
  }
  drawTakes(g, drawing, first, end);
}

/** A line below each take's frames, from its first to its last. */
function drawTakes(g: CanvasRenderingContext2D, drawing: Drawing, first: number, end: number): void {
  const { lanes, laneOf, takeOf } = drawing.rows;
  const open = new Map<number, { take: number; from: number; to: number }>();
  const close = (lane: number) => {
    const run = open.get(lane);
    open.delete(lane);
    if (!run || run.take < 0 || run.from === run.to) return;
    const [from, to] = [pixelOf(drawing, run.from), pixelOf(drawing, run.to)];
    g.fillStyle = INK.faint;
    g.fillRect(from, laneBox(lanes, lane).line, Math.max(2, to - from + thinOf(drawing)), 1);
  };
  for (let place = first; place < end; place++) {
    const [lane, take] = [laneOf(place), takeOf(place)];
    const run = open.get(lane);
    if (run?.take === take) run.to = place;
    else {
      close(lane);
      open.set(lane, { take, from: place, to: place });
    }
  }
  for (const lane of [...open.keys()]) close(lane);
}

/** Draws anew the pixels in which some frames stand. */
function drawPlaces(canvas: HTMLCanvasElement, drawing: Drawing, places: readonly number[]): void {
  const g = canvas.getContext('2d');
  if (!g) return;
  const { ticks } = drawing;
  const thin = thinOf(drawing);
  for (const px of new Set(places.map((place) => pixelOf(drawing, place)))) {
    g.save();
    g.beginPath();
    // The lines below the takes stay.
    for (let lane = 0; lane < drawing.rows.lanes; lane++) {
      const { top, height } = laneBox(drawing.rows.lanes, lane);
      g.rect(px, top, thin, height);
      g.clearRect(px, top, thin, height);
    }
    g.clip();
    const at = (pixel: number) => firstWhere(ticks.length, (place) => pixelOf(drawing, place) >= pixel);
    // What stands beside it may be two pixels wide.
    for (const beside of [px - 1, px, px + 1]) {
      const [from, to] = [at(beside), at(beside + 1)];
      if (from < to) drawPixel(g, drawing, beside, from, to);
    }
    g.restore();
  }
}

/** Of the frames of a lane that share a pixel the one that matters most is drawn, keepers before all. */
function drawPixel(
  g: CanvasRenderingContext2D,
  drawing: Drawing,
  px: number,
  from: number,
  to: number,
): void {
  for (let lane = 0; lane < drawing.rows.lanes; lane++) drawLane(g, drawing, px, from, to, lane);
}

function drawLane(
  g: CanvasRenderingContext2D,
  drawing: Drawing,
  px: number,
  from: number,
  to: number,
  lane: number,
): void {
  const { frames, rows, hides } = drawing;
  let best = { rank: -1, verdict: 'undecided' as Verdict, hidden: false };
  for (let place = from; place < to && best.rank < 5; place++) {
    if (rows.laneOf(place) !== lane) continue;
    const { verdict } = frames[place]!;
    const hidden = hides(place);
    const rank = (hidden ? 0 : 3) + (verdict === 'keep' ? 2 : verdict === 'reject' ? 0 : 1);
    if (rank > best.rank) best = { rank, verdict, hidden };
  }
  if (best.rank < 0) return;
  const { top, height } = laneBox(rows.lanes, lane);
  const reject = best.verdict === 'reject';
  const low = Math.round(height / 3);
  g.globalAlpha = best.hidden ? 0.3 : 1;
  g.fillStyle = best.verdict === 'keep' ? MARKER : reject ? STRIKE : INK.soft;
  g.fillRect(px, reject ? top + height - low : top, thinOf(drawing), reject ? low : height);
  g.globalAlpha = 1;
}

import type { Grey } from './grey';

/** A part of a picture, as shares of its width and height. */
export interface Block {
  left: number;
  top: number;
  width: number;
  height: number;
}

/** Greys within which a line is one plain colour: JPEG's rings around what is written stay below. */
const PLAIN = 14;
/** Of a line so many pixels in a hundred may be anything: a scroll bar, the edge of a window. */
const STRAY = 2;
/** Plain lines side by side that part two blocks: one alone may be a picture's own. */
const GAP = 2;
/** Shares of the whole below which a block is no picture that somebody could mean: of its area, and of each side. */
const LEAST = { area: 0.05, side: 0.15 } as const;
/** How often what was parted is parted once more: a page, its columns, what stands in one, its borders. */
const DEPTH = 6;
/** Blocks that are given at most: each is looked for among all frames, which takes a second or two where it is of none. */
const MOST = 3;

interface Box {
  x0: number;
  y0: number;
  x1: number;
  y1: number;
}

/**
 * What could be a picture within a shot of a screen: it is parted along plain lines, down and across by turn (recursive X-Y cut; Nagy and
 * Seth 1984), as bars, borders and paragraphs are. The largest first; the picture itself is none of them. Meant for some 480 pixels.
 */
export function blocksOf(grey: Grey): Block[] {
  const found: Box[] = [];
  part(grey, { x0: 0, y0: 0, x1: grey.width, y1: grey.height }, DEPTH, found);
  const whole = grey.width * grey.height;
  const large = found.filter(
    (box) =>
      areaOf(box) >= LEAST.area * whole &&
      box.x1 - box.x0 >= LEAST.side * grey.width &&
      box.y1 - box.y0 >= LEAST.side * grey.height &&
      areaOf(box) < whole,
  );
  return large
    .sort((a, b) => areaOf(b) - areaOf(a))
    .filter((box, i) => !large.slice(0, i).some((other) => isSame(box, other)))
    .slice(0, MOST)
    .map(({ x0, y0, x1, y1 }) => ({
      ...{ left: x0 / grey.width, top: y0 / grey.height },
      ...{ width: (x1 - x0) / grey.width, height: (y1 - y0) / grey.height },
    }));
}

const areaOf = ({ x0, y0, x1, y1 }: Box): number => (x1 - x0) * (y1 - y0);
const isSame = (a: Box, b: Box): boolean => a.x0 === b.x0 && a.y0 === b.y0 && a.x1 === b.x1 && a.y1 === b.y1;

function part(grey: Grey, box: Box, left: number, found: Box[]): void {
  const rows = stretches(grey, box, true);
  const columns = stretches(grey, box, false);
  // Nothing but one colour.
  if (rows.length === 0 || columns.length === 0) return;
  const trimmed: Box = {
    ...{ y0: rows[0]![0], y1: rows.at(-1)![1] },
    ...{ x0: columns[0]![0], x1: columns.at(-1)![1] },
  };
  if (!isSame(trimmed, box)) {
    found.push(trimmed);
    // What was plain for all of a line need not be for what is left of it.
    if (left > 0) part(grey, trimmed, left - 1, found);
    return;
  }
  if (left === 0) return;
  const parts =
    rows.length > 1
      ? rows.map(([y0, y1]): Box => ({ ...box, y0, y1 }))
      : columns.length > 1
        ? columns.map(([x0, x1]): Box => ({ ...box, x0, x1 }))
        : [];
  for (const one of parts) {
    found.push(one);
    part(grey, one, left - 1, found);
  }
}

/** From where to where lines are not plain, without the plain ones at both ends. */
function stretches(grey: Grey, box: Box, across: boolean): [from: number, to: number][] {
  const [from, to] = across ? [box.y0, box.y1] : [box.x0, box.x1];
  const all: [number, number][] = [];
  let plain = GAP;
  for (let at = from; at < to; at++) {
    if (isPlain(grey, box, at, across)) {
      plain += 1;
      continue;
    }
    if (plain >= GAP || all.length === 0) all.push([at, at + 1]);
    else all[all.length - 1]![1] = at + 1;
    plain = 0;
  }
  return all;
}

function isPlain({ width, data }: Grey, box: Box, at: number, across: boolean): boolean {
  const [from, to] = across ? [box.x0, box.x1] : [box.y0, box.y1];
  const value = (i: number): number => data[across ? at * width + i : i * width + at]!;
  const most = Math.floor(((to - from) * STRAY) / 100);
  // The colour of most of a line is that of its middle value of a few.
  const few = Array.from({ length: 9 }, (_, k) => value(from + Math.floor(((to - from - 1) * k) / 8)));
  const usual = few.sort((a, b) => a - b)[4]!;
  let stray = 0;
  for (let i = from; i < to; i++) if (Math.abs(value(i) - usual) > PLAIN / 2 && ++stray > most) return false;
  return true;
}
